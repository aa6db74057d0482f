import fc from "fast-check";
import { applyChanges } from "../applyChanges.ts";
import type { Change } from "../change.ts";
import { fromBundle } from "../plan.ts";
import { differenceLines } from "./differenceLines.ts";

const plan = fromBundle({
  format: "chronometra-plan",
  version: 1,
  project: { code: "T-1", name: "Slipway", currency: "EUR", start: "2026-03-02", calendar: "std" },
  calendars: [{ id: "std", name: "Standard", week: { mon: [["08:00", "16:00"]] } }],
  people: [
    { id: "ann", name: "Ann" },
    { id: "bo", name: "Bo" },
  ],
  activities: [
    { id: "works", name: "Works", kind: "summary" },
    { id: "dig", name: "Dig", parent: "works", durationMinutes: 2400, owner: "ann" },
    { id: "pour", name: "Pour", parent: "works", durationMinutes: 1440, deadline: "2026-03-13" },
  ],
  links: [{ from: "dig", to: "pour" }],
  assignments: [{ activity: "dig", person: "ann", plannedMinutes: 2400 }],
});
const [assignment] = plan.assignments.keys();

const linesOf = (changes: Change[]) => {
  const { inverse, were, plan: after } = applyChanges(plan, changes);
  const lines = differenceLines(changes, were, after);
  return { inverse, lines: lines.map(({ what, field, was, is }) => [what, field, was, is]) };
};

describe("what a list of changes made of each field", () => {
  it("says what was and what is, in the words of the screen", () => {
    const { lines } = linesOf([
      { type: "setDuration", activity: "dig", minutes: 2880 },
      { type: "setDeadline", activity: "pour", date: null },
      { type: "setWorking", activity: "dig", owner: "bo" },
      { type: "setKind", activity: "pour", kind: "levelOfEffort" },
      { type: "setWish", activity: "pour", wish: { type: "startNotBefore", date: "2026-03-16" } },
      { type: "reportProgress", activity: "dig", percent: 40, actualStart: "2026-03-02" },
      { type: "setRemainingWork", assignment: assignment!, remainingMinutes: 600, restart: null },
      { type: "setDataDate", date: "2026-03-04" },
    ]);
    expect(lines.slice(0, 4)).toEqual([
      ["Dig", "duration", "40 h", "48 h"],
      ["Pour", "deadline", "13 Mar 2026", "–"],
      ["Dig", "owner", "Ann", "Bo"],
      ["Pour", "kind", "–", "level of effort"],
    ]);
    expect(lines.slice(5)).toEqual([
      ["Dig", "percent done", "–", "40%"],
      ["Dig", "actual start", "–", "2 Mar 2026"],
      ["Ann on Dig", "remaining", "–", "10 h"],
      ["the project", "data date", "–", "4 Mar 2026"],
    ]);
    expect(lines[4]!.slice(0, 3)).toEqual(["Pour", "date wish", "–"]);
    const ofOthers: Change[] = [
      { type: "setRemainingWork", assignment: assignment!, remainingMinutes: 60, restart: null },
      { type: "removeRow", table: "links", key: [...plan.links.keys()][0]! },
    ];
    const { were } = applyChanges(plan, ofOthers);
    expect(differenceLines(ofOthers, were, plan).map(({ of }) => of)).toEqual([["dig"], ["dig", "pour"]]);
  });

  it("tells of rows that came and went, and of time that was posted with what it changed", () => {
    const { lines, inverse } = linesOf([
      {
        type: "postTime",
        key: "e1",
        entry: { person: "ann", activity: "dig", date: "2026-03-03", minutes: 480, state: "posted" },
      },
      { type: "reportProgress", activity: "dig", percent: 20 },
      { type: "removeRow", table: "links", key: [...plan.links.keys()][0]! },
      { type: "addRow", table: "people", key: "cy", row: { id: "cy", name: "Cy", role: "Diver" } },
    ]);
    expect(inverse).toBeNull();
    expect(lines).toEqual([
      ["time of Ann on Dig", "", "–", "8 h on 3 Mar 2026"],
      ["Dig", "percent done", "–", "20%"],
      ["a link that was removed", "", "there", "removed"],
      ["Cy", "", "–", "new: role Diver"],
    ]);
  });

  it("says the first and the last of what was written several times, and nothing of what is as it was", () => {
    expect(
      linesOf([
        { type: "setName", activity: "dig", name: "Digging" },
        { type: "setName", activity: "dig", name: "Dig out" },
        { type: "setDuration", activity: "pour", minutes: 60 },
        { type: "setDuration", activity: "pour", minutes: 1440 },
      ]).lines,
    ).toEqual([["Dig out", "name", "Dig", "Dig out"]]);
  });

  it("says that what was is not kept, where nothing leads back", () => {
    const changes: Change[] = [{ type: "setDuration", activity: "dig", minutes: 60 }];
    const [line] = differenceLines(changes, null, plan);
    expect(line).toMatchObject({ was: "not kept", is: "1 h" });
  });

  it("of undoing is the same turned round", () => {
    const edit = fc.oneof(
      fc.record({
        type: fc.constant("setDuration" as const),
        activity: fc.constantFrom("dig", "pour"),
        minutes: fc.integer({ min: 1, max: 9000 }),
      }),
      fc.record({
        type: fc.constant("setDeadline" as const),
        activity: fc.constantFrom("dig", "pour"),
        date: fc.constantFrom(null, "2026-04-01", "2026-05-01"),
      }),
      fc.record({
        type: fc.constant("setWorking" as const),
        activity: fc.constantFrom("dig", "pour"),
        owner: fc.constantFrom(null, "ann", "bo"),
      }),
    );
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 8 }), (changes) => {
        const there = applyChanges(plan, changes);
        const back = applyChanges(there.plan, there.inverse!);
        const lines = differenceLines(changes, there.inverse, plan);
        const turned = differenceLines(there.inverse!, back.inverse, plan);
        const by = (rows: typeof lines) => new Map(rows.map(({ path, was, is }) => [path, [was, is]]));
        const [a, b] = [by(lines), by(turned)];
        for (const [path, [was, is]] of a) expect(b.get(path)).toEqual([is, was]);
        expect(b.size).toBe(a.size);
      }),
    );
  });
});
