import { freezePlan, type Change, type PlanBundle } from "@chronometra/core";
import { slipway, viewOf } from "../testing/plans.ts";
import { PlanEngine } from "./planEngine.ts";
import type { Sheet, SheetRow } from "./sheet.ts";
import { patched } from "./sheetPatch.ts";

/** An engine with what the page would show of it. */
function opened(plan: PlanBundle = slipway()): {
  engine: PlanEngine;
  sheet: () => Sheet;
  change: (...changes: Change[]) => void;
  row: (id: string) => SheetRow;
} {
  const engine = new PlanEngine();
  let sheet = patched(null, engine.open(viewOf(plan)));
  const change = (...changes: Change[]): void => {
    const tried = engine.change("list", changes);
    if ("problems" in tried) throw new Error(tried.problems[0]!.message);
    sheet = patched(sheet, tried.sheet);
  };
  return { engine, sheet: () => sheet, change, row: (id) => sheet.rows.find((each) => each.id === id)! };
}

const STAFFED: PlanBundle = {
  ...slipway(),
  people: [
    { id: "ann", name: "Ann Lee", rates: [{ from: "2026-01-01", perHourMinor: 5000 }] },
    { id: "role", name: "A diver", role: "diver" },
  ],
  assignments: [{ activity: "dig", person: "ann", plannedMinutes: 120 }],
  costs: [{ id: "c", activity: "dig", category: "Hire", plannedMinor: 700, timing: "finish" }],
};

describe("parking in the engine", () => {
  it("tells chains by name, and both ways of parking; waking gives the plan back", () => {
    const { engine, change, row, sheet } = opened();
    const before = sheet();
    const { chains, only, across } = engine.parking(["pour"]);
    expect(chains).toEqual([["Dig", "Pour", "Open"]]);
    expect([only.length, across.length]).toEqual([1, 3]);
    change(...across);
    expect([row("pour").dates, row("open").dates!.finishDate, row("open").after]).toEqual([
      null,
      "2026-03-06",
      "Pour; Dig",
    ]);
    change(...engine.wake(["pour"]));
    expect(sheet()).toEqual(before);
  });

  it("a row that lies parked below a parked branch wakes the branch", () => {
    const { engine, change, row } = opened();
    change({ type: "setParked", activity: "works", parked: true });
    expect([row("dig").parked, engine.wake(["dig"])]).toEqual([
      true,
      [{ type: "setParked", activity: "works", parked: false }],
    ]);
  });
});

describe("what hangs on an activity", () => {
  it("is told with its keys, names and cost; a branch has the sum of what is below it, parked work apart", () => {
    const { engine, row, change } = opened(STAFFED);
    expect(engine.work("dig")).toMatchObject({
      assignments: [{ key: "1", name: "Ann Lee", placeholder: false, costMinor: 10_000 }],
      costs: [{ key: "c", row: { category: "Hire" } }],
      credit: null,
      currency: "EUR",
    });
    expect([row("dig").people, row("works").budgetMinor, row("works").plannedMinutes]).toEqual([
      "Ann Lee 2h",
      10_700,
      120,
    ]);
    change(
      { type: "addRow", table: "placeholders", key: "role", row: { person: "role" } },
      {
        type: "addRow",
        table: "assignments",
        key: "x",
        row: { activity: "later", person: "role", plannedMinutes: 600 },
      },
    );
    expect([row("works").budgetMinor, engine.work("later")!.assignments[0]!.placeholder, engine.work("ghost")]).toEqual(
      [10_700, true, null],
    );
  });

  it("people typed are read by the plan, and refused in words", () => {
    const { engine, change, row } = opened(STAFFED);
    const typed = engine.readWork("pour", "ann 8h at 50%; diver 4h");
    if (!("changes" in typed)) throw new Error(typed.fault);
    change(...typed.changes);
    expect(row("pour").people).toBe("Ann Lee 8h at 50%; A diver 4h");
    expect(engine.readWork("pour", "nobody 4h")).toEqual({
      fault: expect.stringContaining("nobody called “nobody”") as string,
    });
  });

  it("rows copied come back under new names of their own, with people and costs", () => {
    const { engine, change, sheet } = opened(STAFFED);
    change(...engine.paste(engine.copy(["dig"]), "paint", false));
    const names = sheet().rows.map(({ name }) => name);
    expect(names).toEqual(["Open", "Works", "Pour", "Dig", "Paint", "Dig", "Later"]);
    const copy = sheet().rows[5]!;
    expect([copy.id === "dig", copy.people, copy.budgetMinor, copy.after]).toEqual([false, "Ann Lee 2h", 10_700, ""]);
  });
});

describe("what the chart asks", () => {
  it("which baseline to compare with, and a baseline that is not there is passed over", () => {
    const late = slipway((activities) =>
      activities.map((activity) => (activity.id === "dig" ? { ...activity, durationMinutes: 2880 } : activity)),
    );
    const second = {
      number: 2,
      approvedOn: "2026-03-02",
      approvedBy: "M",
      reason: "again",
      ...freezePlan({ ...late, baselines: [] }),
    };
    const engine = new PlanEngine();
    const first = patched(null, engine.open(viewOf({ ...late, baselines: [...late.baselines!, second] })));
    const drift = (sheet: Sheet): number | null => sheet.rows.find(({ id }) => id === "dig")!.drift;
    expect([first.baselines, first.baseline, drift(first)]).toEqual([[1, 2], 2, 0]);
    const other = patched(first, engine.compareWith(1));
    expect([other.baseline, drift(other)]).toEqual([1, 1]);
    expect(patched(other, engine.compareWith(9)).baseline).toBe(2);
  });

  it("what leads to an activity, and nothing for a summary", () => {
    const { engine } = opened();
    expect([engine.chainOf("open"), engine.chainOf("works")]).toEqual([["dig", "pour", "open"], []]);
  });

  it("a loop is told by the names of its activities, those just typed too", () => {
    const { engine } = opened();
    const tried = engine.change("list", [
      { type: "addRow", table: "activities", key: "n", row: { id: "n", name: "Fresh", durationMinutes: 60 } },
      { type: "addRow", table: "links", key: "k1", row: { from: "open", to: "n" } },
      { type: "addRow", table: "links", key: "k2", row: { from: "n", to: "dig" } },
    ]);
    expect(tried).toMatchObject({
      problems: [
        { message: expect.stringMatching(/^the links form a loop: .*Fresh.*; take one of them out$/) as string },
      ],
    });
  });
});
