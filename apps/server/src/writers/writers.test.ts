import { freezePlan, fromBundle, PlanProblems, type Change } from "@chronometra/core";
import fc from "fast-check";
import { stepOf, walks } from "../../../../packages/core/src/testing/walks.ts";
import { HeldPlan } from "../plan/held/heldPlan.ts";
import type { Cell, TableRows } from "../plan/held/writer.ts";
import { smallPlan } from "../testing/testWorld.ts";
import { keptActivities } from "./activities/keptActivities.ts";
import { WRITERS } from "./writers.ts";

/** Tables of one project as a database would have them after what the writers say. */
class Tables {
  private readonly rows = new Map<string, Map<string, readonly Cell[]>>();

  take({ table, key, columns, gone, rows, edits = [] }: TableRows): void {
    const all = this.rows.get(table) ?? new Map<string, readonly Cell[]>();
    for (const keys of gone.keys)
      for (const [name, row] of all) if (keys.every((cell, i) => row[i] === cell)) all.delete(name);
    for (const row of rows) all.set(JSON.stringify(row.slice(0, key.length)), row);
    for (const edit of edits)
      for (const cells of edit.rows) {
        const name = JSON.stringify(cells.slice(0, key.length));
        const row = [...all.get(name)!];
        edit.columns.forEach((column, i) => (row[key.length + columns.indexOf(column)] = cells[key.length + i]!));
        all.set(name, row);
      }
    this.rows.set(table, all);
  }

  get all() {
    return Object.fromEntries(
      [...this.rows].map(([table, rows]) => [table, [...rows.values()].map((row) => JSON.stringify(row)).sort()]),
    );
  }
}

const KEEPING = WRITERS.filter(({ tables }) => tables.length > 0);
const fromNothing = (after: HeldPlan): Tables => {
  const tables = new Tables();
  for (const writer of KEEPING) for (const each of writer.rows({ revision: 1, before: null, after })) tables.take(each);
  return tables;
};

function livedPlan(): HeldPlan {
  const bundle = smallPlan();
  const baseline = { number: 1, approvedOn: "2026-03-01", approvedBy: "x", reason: "y", ...freezePlan(bundle) };
  return new HeldPlan(fromBundle({ ...bundle, baselines: [baseline] }));
}

/** What a change makes of a plan; `null` where it does not hold. */
function changed(held: HeldPlan, change: Change): HeldPlan | null {
  try {
    const after = held.after([change]);
    return after.whole === undefined ? null : after;
  } catch (error) {
    if (error instanceof PlanProblems) return null;
    throw error;
  }
}

/** One change after another, each of something else that rows rest on. */
const STEPS: readonly Change[] = [
  { type: "setDataDate", date: "2026-03-04" },
  { type: "setDuration", activity: "dig", minutes: 4800 },
  { type: "setName", activity: "works", name: "All works" },
  { type: "editRow", table: "people", key: "ann", set: { name: "Ann the diver", role: "Diver" } },
  { type: "setWorking", activity: "pour", owner: "ann" },
  { type: "addRow", table: "fields", key: "zone", row: { id: "zone", name: "Zone", type: "text" } },
  { type: "setOwnValue", activity: "pour", field: "zone", value: "north" },
  { type: "addRow", table: "blocks", key: "dig", row: { by: "rain", since: "2026-03-04", saidBy: "Bo" } },
  {
    type: "addRow",
    table: "activities",
    key: "sub",
    row: { id: "sub", name: "Sub", kind: "summary", parent: "works" },
  },
  { type: "moveBranch", activity: "pour", parent: "sub", before: null },
  {
    type: "addRow",
    table: "activities",
    key: "later",
    row: { id: "later", name: "Later", parent: "sub" },
  },
  { type: "setParked", activity: "sub", parked: true },
  { type: "setParked", activity: "sub", parked: false },
  { type: "addRow", table: "links", key: "l9", row: { from: "dig", to: "later" } },
  { type: "addRow", table: "assignments", key: "a9", row: { activity: "dig", person: "bo", plannedMinutes: 600 } },
  { type: "reportProgress", activity: "dig", actualStart: "2026-03-02", percent: 30 },
  {
    type: "postTime",
    key: "t1",
    entry: { activity: "dig", person: "ann", date: "2026-03-03", minutes: 240, state: "posted" },
  },
  {
    type: "postCost",
    key: "c9",
    cost: { activity: "dig", date: "2026-03-03", amountMinor: 5000, category: "m" } as never,
  },
  { type: "setDeadline", activity: "pour", date: "2026-05-29" },
  { type: "setProject", set: { tightDays: 200 } },
  { type: "editRow", table: "fields", key: "zone", set: { name: "Area" } },
  // Of someone without a rate: dates and figures stay.
  { type: "addRow", table: "people", key: "cy", row: { id: "cy", name: "Cy" } },
  { type: "addRow", table: "assignments", key: "a10", row: { activity: "pour", person: "cy", plannedMinutes: 60 } },
  {
    type: "postTime",
    key: "t2",
    entry: { activity: "pour", person: "cy", date: "2026-03-03", minutes: 60, state: "posted" },
  },
  { type: "removeRow", table: "blocks", key: "dig" },
  { type: "setDataDate", date: "2026-03-10" },
];

describe("what is kept beside a plan", () => {
  it("is after each change what it would be made from nothing", () => {
    let held = livedPlan();
    const kept = fromNothing(held);
    for (const change of STEPS) {
      const after = held.after([change]);
      for (const writer of KEEPING)
        for (const each of writer.rows({ revision: 2, before: held, after })) kept.take(each);
      expect({ change, ...kept.all }).toEqual({ change, ...fromNothing(new HeldPlan(after.plan)).all });
      held = after;
    }
  });

  it("is so after whatever else people do to a plan, change after change", () => {
    let steps = 0;
    fc.assert(
      fc.property(walks, (dice) => {
        let held = livedPlan();
        const kept = fromNothing(held);
        for (const each of dice) {
          const change = stepOf(held.plan, each);
          const after = change === undefined ? null : changed(held, change);
          if (after === null) continue;
          for (const writer of KEEPING)
            for (const rows of writer.rows({ revision: 2, before: held, after })) kept.take(rows);
          expect({ change, ...kept.all }).toEqual({ change, ...fromNothing(new HeldPlan(after.plan)).all });
          held = after;
          steps++;
        }
      }),
      { numRuns: 60 },
    );
    expect(steps).toBeGreaterThan(100);
  });

  it("is written only where something differs", () => {
    const held = livedPlan();
    const after = held.after([{ type: "setOwnValue", activity: "dig", field: "zone", value: null }]);
    const written = keptActivities.rows({ revision: 2, before: held, after }).flatMap(({ rows }) => rows);
    expect(written).toEqual([]);
    const named = held.after([{ type: "setName", activity: "pour", name: "Pour the slab" }]);
    const rows = keptActivities.rows({ revision: 2, before: held, after: named }).flatMap((each) => each.rows);
    expect(rows.map(([id, name]) => [id, name])).toEqual([["pour", "Pour the slab"]]);
  });
});
