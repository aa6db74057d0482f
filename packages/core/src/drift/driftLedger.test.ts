import fc from "fast-check";
import type { Activity, Link, PlanBundle } from "../plan/schema.ts";
import { networks, planOf, STANDARD } from "../testing/plans.ts";
import { driftLedger } from "./driftLedger.ts";

const DAY = 480;

/** Survey, dig and pour in a row, and a milestone; Bo digs by effort. Monday 2 March 2026. */
const base = (): PlanBundle =>
  planOf(
    [{ id: "survey", name: "Survey", durationMinutes: 2 * DAY }, { id: "dig", name: "Dig", driver: "effort" }, { id: "pour", name: "Pour", durationMinutes: 3 * DAY }, { id: "open", name: "Open", kind: "milestone" }],
    [{ from: "survey", to: "dig" }, { from: "dig", to: "pour" }, { from: "pour", to: "open" }],
    { people: [{ id: "bo", name: "Bo" }], assignments: [{ activity: "dig", person: "bo", plannedMinutes: 5 * DAY }] },
  );

const edited = (plan: PlanBundle, id: string, fields: Partial<Activity>): PlanBundle => ({ ...plan, activities: plan.activities.map((row) => (row.id === id ? { ...row, ...fields } : row)) });
const told = (before: PlanBundle, after: PlanBundle, target: string | null = "open") => {
  const { days, causes } = driftLedger(before, after, target);
  return { days, causes: causes.map(({ group, name, days: own }) => [group, name, own]) };
};

describe("the drift ledger (cases worked by hand)", () => {
  it("names what took longer, who was away, what came in between and what was wished, each with its days", () => {
    const before = base();
    let after = edited(before, "pour", { durationMinutes: 5 * DAY });
    after = { ...after, calendars: [...after.calendars, { id: "leave-bo", name: "Bo’s days", base: "std", exceptions: [{ from: "2026-03-05", to: "2026-03-06", shifts: [] }] }], people: [{ id: "bo", name: "Bo", calendar: "leave-bo" }] };
    after = { ...after, activities: [...after.activities, { id: "cure", name: "Cure", durationMinutes: 4 * DAY }], links: [...(after.links ?? []).filter(({ to }) => to !== "open"), { from: "pour", to: "cure" }, { from: "cure", to: "open" }] };
    after = edited(after, "survey", { wish: { type: "startNotBefore", date: "2026-03-03" } });
    expect(told(before, after)).toEqual({ days: 9, causes: [["work", "Pour", 2], ["calendars", "Bo", 2], ["wishes", "Survey", 1], ["scope", "Cure", 4]] });
  });

  it("says which late start and which hours left moved it", () => {
    const before = { ...base(), project: { ...base().project, dataDate: "2026-03-03" } };
    let after: PlanBundle = { ...before, project: { ...before.project, dataDate: "2026-03-05" } };
    after = edited(after, "survey", { actualStart: "2026-03-03", actualFinish: "2026-03-05" });
    after = { ...after, assignments: [{ activity: "dig", person: "bo", plannedMinutes: 5 * DAY, remainingMinutes: 6 * DAY }] };
    // The data date moved by two days, and the survey was done by then: together they moved nothing.
    expect(told(before, after)).toEqual({ days: 1, causes: [["work", "Dig", 1]] });
    const late = edited(before, "survey", { actualStart: "2026-03-03" });
    expect(told(before, { ...late, project: { ...late.project, dataDate: "2026-03-04" } })).toEqual({ days: 1, causes: [["progress", "the time that passed (the data date)", 1]] });
  });

  it("tells forth and back of different groups both, and a new link by what it leads to", () => {
    const before = base();
    const longer = edited(before, "survey", { durationMinutes: 5 * DAY });
    const after = { ...longer, links: (longer.links ?? []).filter(({ to }) => to !== "dig") };
    expect(told(before, after)).toEqual({ days: -2, causes: [["work", "Survey", 3], ["logic", "Dig", -5]] });
  });

  it("of what did not move says nothing; of a date that is gone neither", () => {
    expect(told(base(), edited(base(), "survey", { name: "Sounding" }))).toEqual({ days: 0, causes: [] });
    expect(driftLedger(base(), { ...base(), activities: base().activities.slice(0, 3), links: base().links!.slice(0, 2) }, "open")).toEqual({ from: "2026-03-13", to: null, days: 0, causes: [] });
  });

  it("of two rows that came between in a chain, the last one brings the days of both; one that was bypassed takes its own away", () => {
    const before = base();
    const chain: PlanBundle = { ...before, activities: [...before.activities, { id: "cure", name: "Cure", durationMinutes: 4 * DAY }, { id: "strike", name: "Strike", durationMinutes: DAY }], links: [...before.links!.slice(0, 2), { from: "pour", to: "cure" }, { from: "cure", to: "strike" }, { from: "strike", to: "open" }] };
    expect(told(before, chain)).toEqual({ days: 5, causes: [["scope", "Strike", 5]] });
    expect(told(chain, { ...before, activities: before.activities })).toEqual({ days: -5, causes: [["scope", "Strike", -5]] });
  });

  it("parking a branch is one cause, and so is taking it out", () => {
    const before = planOf([{ id: "s", name: "Yard", kind: "summary" }, { id: "a", name: "Cut", parent: "s", durationMinutes: 4 * DAY }, { id: "b", name: "Fit", durationMinutes: DAY }], [{ from: "a", to: "b" }]);
    expect(told(before, edited(before, "s", { parked: true }), null).causes).toEqual([["scope", "Yard", -4]]);
    expect(told(before, { ...before, activities: before.activities.slice(2), links: [] }, null).causes).toEqual([["scope", "Cut", -4]]);
  });
});

describe("laws of the drift ledger", () => {
  const changed = fc.array(fc.record({ at: fc.nat(13), minutes: fc.integer({ min: 1, max: 5000 }), calendar: fc.constantFrom("std", "seven", "nights"), parked: fc.boolean(), drop: fc.boolean() }), { maxLength: 5 });

  it("the parts add up to the whole, whatever was changed", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std", "seven"] }), changed, fc.array(fc.nat(23), { maxLength: 4 }), (before, edits, dropped) => {
        let activities: Activity[] = [...before.activities];
        for (const { at, minutes, calendar, parked, drop } of edits) {
          const row = activities[at];
          if (row === undefined) continue;
          if (drop && activities.length > 1) activities = activities.filter(({ id }) => id !== row.id);
          else activities = activities.map((each) => (each.id !== row.id ? each : { ...each, calendar, ...(each.kind === "milestone" ? {} : { durationMinutes: minutes }), ...(parked ? { parked } : {}) }));
        }
        const ids = new Set(activities.map(({ id }) => id));
        const links: Link[] = (before.links ?? []).filter((link, i) => ids.has(link.from) && ids.has(link.to) && !dropped.includes(i));
        const ledger = driftLedger(before, { ...before, activities, links, calendars: before.calendars.map((each) => (each.id === "std" ? { ...STANDARD, exceptions: [{ from: "2026-03-09", to: "2026-03-10", shifts: [] }] } : each)) }, null);
        expect(Math.abs(ledger.causes.reduce((sum, { days }) => sum + days, 0) - ledger.days)).toBeLessThan(1e-9);
        expect(ledger.causes.every(({ name }) => name !== "what cannot be told apart")).toBe(true);
      }),
      { numRuns: 300 },
    );
  });
});
