import fc from "fast-check";
import { applyChanges } from "../applyChanges.ts";
import { checkWholePlan } from "../check/checkOwnTables.ts";
import { PRIORITIES } from "../ownTables.ts";
import { fromBundle, type Plan } from "../plan.ts";
import { noteChanges, type NoteParts } from "./notes.ts";

const DAY = [["08:00", "16:00"]] as [string, string][];
const PLAN: Plan = fromBundle({
  format: "chronometra-plan",
  version: 1,
  project: { code: "P", name: "Pier", start: "2026-01-05", calendar: "std", currency: "EUR" },
  calendars: [{ id: "std", name: "Standard", week: { mon: DAY } }],
  people: [],
  activities: [{ id: "dig", name: "Dig", durationMinutes: 480 }],
  links: [],
  assignments: [],
  costs: [],
  baselines: [],
  timeEntries: [],
  actualCosts: [],
} as never);
const written = (plan: Plan, parts: NoteParts): Plan => applyChanges(plan, noteChanges(plan, "dig", parts)).plan;

describe("the notes of an activity", () => {
  it("are written part by part, and are gone once nothing is said any more", () => {
    const first = written(PLAN, { description: "Dig to the clay" });
    expect(first.notes.get("dig")).toEqual({ description: "Dig to the clay" });
    const both = written(first, { priority: "high", checks: [{ id: "a", text: "Permit" }] });
    expect(both.notes.get("dig")).toEqual({
      description: "Dig to the clay",
      priority: "high",
      checks: [{ id: "a", text: "Permit" }],
    });
    const less = written(both, { description: null, checks: [] });
    expect(less.notes.get("dig")).toEqual({ priority: "high" });
    expect(written(less, { priority: null }).notes.has("dig")).toBe(false);
    expect(noteChanges(PLAN, "dig", { priority: null })).toEqual([]);
  });

  it("are as before once what was written is undone, whatever it was", () => {
    const parts = fc.record(
      {
        description: fc.option(fc.string({ minLength: 1 }).filter((text) => text.trim() === text && text !== "")),
        priority: fc.option(fc.constantFrom(...PRIORITIES)),
        checks: fc.option(
          fc.uniqueArray(fc.record({ id: fc.constantFrom("a", "b", "c"), text: fc.constantFrom("x", "y") }), {
            selector: ({ id }) => id,
          }),
        ),
      },
      { requiredKeys: [] },
    );
    fc.assert(
      fc.property(parts, parts, (one, other) => {
        const before = written(PLAN, one as NoteParts);
        const { plan, inverse } = applyChanges(before, noteChanges(before, "dig", other as NoteParts));
        expect(checkWholePlan(plan)).toEqual([]);
        expect(applyChanges(plan, inverse!).plan.notes).toEqual(before.notes);
      }),
    );
  });

  it("go with the activity, and come back with it; of an activity that is not there they are refused", () => {
    const noted = written(PLAN, { priority: "low" });
    const twice = new Map([
      [
        "dig",
        {
          checks: [
            { id: "a", text: "x" },
            { id: "a", text: "y" },
          ],
        },
      ],
    ]);
    expect(checkWholePlan({ ...noted, notes: twice })).toMatchObject([{ table: "notes", row: "dig", field: "checks" }]);
    expect(checkWholePlan({ ...noted, notes: new Map([["gone", {}]]) })).toMatchObject([
      { table: "notes", row: "gone" },
    ]);
  });
});
