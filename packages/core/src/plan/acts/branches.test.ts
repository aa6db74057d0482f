import { planOf } from "../../testing/plans.ts";
import { applyChanges } from "../applyChanges.ts";
import { arrange } from "./arrange.ts";
import { copyBranches, pasteBranches } from "./branches.ts";
import { checkWholePlan } from "../check/checkOwnTables.ts";
import { fromBundle, toBundle, type Plan } from "../plan.ts";

const plan = (): Plan =>
  fromBundle(
    planOf(
      [
        { id: "S", name: "Lock", kind: "summary" },
        {
          id: "a",
          name: "Dig",
          parent: "S",
          durationMinutes: 480,
          calendar: "nights",
          actualStart: "2026-03-02",
          percent: 50,
          owner: "ama",
        },
        { id: "b", name: "Pour", parent: "S", durationMinutes: 480, credit: { rule: "apportioned", to: "a" } },
        { id: "c", name: "Open", kind: "milestone" },
      ],
      [
        { from: "a", to: "b", lagMinutes: 60 },
        { from: "b", to: "c" },
      ],
      {
        project: {
          code: "ONE",
          name: "One",
          currency: "EUR",
          start: "2026-03-02",
          calendar: "std",
          dataDate: "2026-03-03",
        },
        people: [{ id: "ama", name: "Amadou" }],
        assignments: [{ activity: "a", person: "ama", plannedMinutes: 60, remainingMinutes: 30 }],
        costs: [{ id: "k", activity: "b", category: "Hire", plannedMinor: 100 }],
      },
    ),
  );
const other = (): Plan =>
  fromBundle({
    ...planOf(
      [
        { id: "a", name: "Another", durationMinutes: 60 },
        { id: "z", name: "Last", durationMinutes: 60 },
      ],
      [],
      { project: { code: "TWO", name: "Two", currency: "EUR", start: "2026-03-02", calendar: "std" } },
    ),
    calendars: planOf([]).calendars.slice(0, 1),
  });

const keys = (): (() => string) => {
  let n = 0;
  return () => `n${++n}`;
};
const outline = (of: Plan): string[] =>
  [...of.activities.values()].map(({ id, name, parent }) => `${parent ?? ""}/${id} ${name}`);

describe("branches copied and pasted", () => {
  it("a copy in its own plan stands after the row, has ids of its own, inner links, people and costs, and begins anew", () => {
    const from = plan();
    const { plan: after } = applyChanges(
      from,
      pasteBranches(from, copyBranches(from, ["S"]), { after: "S", newKey: keys(), keepIds: false }),
    );
    expect(outline(after)).toEqual([
      "/S Lock",
      "S/a Dig",
      "S/b Pour",
      "/n1 Lock",
      "n1/n2 Dig",
      "n1/n3 Pour",
      "/c Open",
    ]);
    expect(after.activities.get("n2")).toEqual({
      id: "n2",
      name: "Dig",
      parent: "n1",
      durationMinutes: 480,
      calendar: "nights",
      owner: "ama",
    });
    expect(after.activities.get("n3")!.credit).toEqual({ rule: "apportioned", to: "n2" });
    expect([...after.links.values()].slice(2)).toEqual([{ from: "n2", to: "n3", lagMinutes: 60 }]);
    expect([...after.assignments.values()][1]).toEqual({ activity: "n2", person: "ama", plannedMinutes: 60 });
    expect([after.costs.size, checkWholePlan(after)]).toEqual([2, []]);
  });

  it("in another plan the calendars with their bases, people and fields that it lacks come along", () => {
    const from = applyChanges(plan(), [
      { type: "addRow", table: "fields", key: "f", row: { id: "f", name: "Zone", type: "text" } },
      { type: "setOwnValue", activity: "a", field: "f", value: "N" },
    ]).plan;
    const to = applyChanges(other(), [
      { type: "addRow", table: "fields", key: "f", row: { id: "f", name: "Depth", type: "number" } },
    ]).plan;
    const { plan: after } = applyChanges(
      to,
      pasteBranches(to, copyBranches(from, ["S", "a"]), { after: "a", newKey: keys(), keepIds: false }),
    );
    expect(checkWholePlan(after)).toEqual([]);
    expect(outline(after)).toEqual(["/a Another", "/n1 Lock", "n1/n2 Dig", "n1/n3 Pour", "/z Last"]);
    expect([[...after.calendars.keys()], [...after.people.keys()]]).toEqual([["std", "nights"], ["ama"]]);
    // The field of that id is another one there, so Zone comes under a new id.
    const zone = [...after.fields.values()].find(({ name }) => name === "Zone")!;
    expect([zone.id === "f", after.ownValues.get("n2")]).toEqual([false, { [zone.id]: "N" }]);
  });

  it("what was cut comes back with its ids, progress, and links to what stayed", () => {
    const from = plan();
    const copied = copyBranches(from, ["b"]);
    const cut = applyChanges(from, arrange(from, { verb: "remove", ids: ["b"] })).plan;
    const { plan: after } = applyChanges(
      cut,
      pasteBranches(cut, copied, { after: "c", newKey: keys(), keepIds: true }),
    );
    expect(outline(after)).toEqual(["/S Lock", "S/a Dig", "/c Open", "/b Pour"]);
    expect(new Set([...after.links.values()].map(({ from: a, to: b }) => `${a}-${b}`))).toEqual(
      new Set(["a-b", "b-c"]),
    );
    expect(toBundle(after).costs).toEqual(toBundle(from).costs);
  });
});
