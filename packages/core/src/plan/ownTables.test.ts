import { planOf } from "../testing/plans.ts";
import { applyChanges } from "./applyChanges.ts";
import { arrange } from "./acts/arrange.ts";
import type { Change } from "./change.ts";
import { checkOwnTables, checkWholePlan } from "./check/checkOwnTables.ts";
import { fromBundle, toBundle, type Plan } from "./plan.ts";
import { fillPlaceholder, removeOwnField, removePerson, renameCategory } from "./acts/staffing.ts";

const people = [
  { id: "ama", name: "Amadou" },
  { id: "diver", name: "A diver" },
];
const start = (): Plan =>
  fromBundle(
    planOf(
      [
        { id: "A", name: "Dig", durationMinutes: 480, owner: "diver" },
        { id: "B", name: "Pour", durationMinutes: 480 },
      ],
      [],
      {
        people,
        assignments: [{ activity: "A", person: "diver", plannedMinutes: 60 }],
        costs: [{ id: "c", activity: "B", category: "Hire", plannedMinor: 500 }],
      },
    ),
  );
const changed = (...changes: Change[]): Plan => applyChanges(start(), changes).plan;

const FIELD: Change = {
  type: "addRow",
  table: "fields",
  key: "zone",
  row: { id: "zone", name: "Zone", type: "choice", choices: ["North", "South"] },
};
const value = (of: string | number | boolean | null): Change => ({
  type: "setOwnValue",
  activity: "A",
  field: "zone",
  value: of,
});

describe("what a plan keeps besides the bundle", () => {
  it("is in the plan and not in the bundle, and an activity without values has no row", () => {
    const plan = changed(FIELD, value("North"));
    expect(plan.ownValues.get("A")).toEqual({ zone: "North" });
    expect(toBundle(plan)).toEqual(toBundle(start()));
    expect(applyChanges(plan, [value(null)]).plan.ownValues.size).toBe(0);
  });

  it.each<[string, Change[], string]>([
    ["a value of a field that is not there", [value("North")], 'there is no field "zone"'],
    ["a choice that is not offered", [FIELD, value("West")], 'must be one of "North", "South"'],
    ["a number in a field of choices", [FIELD, value(3)], "must be one of"],
    [
      "a field of choices without any",
      [{ type: "addRow", table: "fields", key: "f", row: { id: "f", name: "F", type: "choice" } }],
      "needs at least one choice",
    ],
    [
      "two fields of one name",
      [FIELD, { type: "addRow", table: "fields", key: "f", row: { id: "f", name: "zone", type: "text" } }],
      "already",
    ],
    [
      "a team with someone who is not there",
      [{ type: "addRow", table: "teams", key: "t", row: { id: "t", name: "T", members: ["ghost"] } }],
      'no person "ghost"',
    ],
    [
      "a placeholder for nobody",
      [{ type: "addRow", table: "placeholders", key: "p", row: { person: "ghost" } }],
      'no person "ghost"',
    ],
  ])("%s is told", (_what, changes, words) => expect(checkOwnTables(changed(...changes))[0]!.message).toContain(words));

  it.each<["text" | "number" | "date" | "yesNo", string | number | boolean, string | number | boolean]>([
    ["text", "x", 1],
    ["number", 2.5, "2.5"],
    ["date", "2026-02-28", "2026-02-30"],
    ["yesNo", false, "no"],
  ])("a field of type %s takes %j and not %j", (type, fits, not) => {
    const field: Change = { type: "addRow", table: "fields", key: "zone", row: { id: "zone", name: "Zone", type } };
    expect(checkWholePlan(changed(field, value(fits)))).toEqual([]);
    expect(checkWholePlan(changed(field, value(not)))).toHaveLength(1);
  });

  it("an activity removed takes its values with it, a field all that was written in it", () => {
    const plan = changed(FIELD, value("North"));
    expect(checkWholePlan(applyChanges(plan, arrange(plan, { verb: "remove", ids: ["A"] })).plan)).toEqual([]);
    const without = applyChanges(plan, removeOwnField(plan, "zone"));
    expect([without.plan.fields.size, without.plan.ownValues.size]).toEqual([0, 0]);
    expect(applyChanges(without.plan, without.inverse!).plan.ownValues).toEqual(plan.ownValues);
  });

  it("filling a placeholder gives its work, and what it answers for, to someone, and removes it of teams and people", () => {
    const plan = changed(
      { type: "addRow", table: "placeholders", key: "diver", row: { person: "diver" } },
      { type: "addRow", table: "teams", key: "t", row: { id: "t", name: "Divers", members: ["diver", "ama"] } },
    );
    const { plan: filled } = applyChanges(plan, fillPlaceholder(plan, "diver", "ama"));
    expect([...filled.assignments.values()]).toEqual([{ activity: "A", person: "ama", plannedMinutes: 60 }]);
    expect([
      filled.activities.get("A")!.owner,
      filled.teams.get("t")!.members,
      filled.placeholders.size,
      [...filled.people.keys()],
    ]).toEqual(["ama", ["ama"], 0, ["ama"]]);
    expect(checkWholePlan(filled)).toEqual([]);
  });

  it("someone with work on them cannot be removed before it is given away", () => {
    const plan = start();
    expect(checkWholePlan(applyChanges(plan, removePerson(plan, "diver")).plan)[0]!.message).toBe(
      'there is no person "diver"',
    );
  });

  it("a category renamed is renamed wherever a cost names it", () => {
    const plan = changed({ type: "addRow", table: "categories", key: "h", row: { id: "h", name: "Hire" } });
    expect(applyChanges(plan, renameCategory(plan, "h", "Plant")).plan.costs.get("c")!.category).toBe("Plant");
  });
});
