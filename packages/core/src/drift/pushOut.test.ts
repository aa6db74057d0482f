import { addBusinessDays } from "date-fns";
import fc from "fast-check";
import { schedulePlan } from "../network/schedule.ts";
import { planOf } from "../testing/plans.ts";
import { formatDate } from "../time/instant.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import { fromBundle, toBundle } from "../plan/plan.ts";
import { pushOut } from "./pushOut.ts";
import type { Activity, PlanBundle } from "../plan/schema.ts";

/** Shown dates of an activity after pushing some. */
function pushed(plan: PlanBundle, ids: string[], days: number) {
  const { changes, left } = pushOut(plan, schedulePlan(plan), ids, days, "quay closed");
  const after = toBundle(applyChanges(fromBundle(plan), changes).plan);
  const rows = schedulePlan(after);
  const dates = (id: string) => {
    const row = rows.rows[after.activities.findIndex((each) => each.id === id)]!;
    return [formatDate(row.startDay), formatDate(row.finishDay)];
  };
  return { dates, left, after };
}

const work = (id: string, rest: Partial<Activity> = {}): Activity => ({
  id,
  name: `Work ${id}`,
  durationMinutes: 960,
  ...rest,
});

describe("pushing out", () => {
  it("moves a start to come by worked days, off the weekend, and says why", () => {
    const { dates, after } = pushed(planOf([work("a")]), ["a"], 4);
    expect(dates("a")).toEqual(["2026-03-06", "2026-03-09"]);
    expect(after.activities[0]!.wish).toEqual({ type: "startNotBefore", date: "2026-03-06", reason: "quay closed" });
  });

  it("agrees with a date library on working days", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), (days) => {
        const on = addBusinessDays(new Date(2026, 2, 2), days);
        expect(pushed(planOf([work("a")]), ["a"], days).dates("a")[0]).toBe(
          `${on.getFullYear()}-${String(on.getMonth() + 1).padStart(2, "0")}-${String(on.getDate()).padStart(2, "0")}`,
        );
      }),
    );
  });

  it("puts off the end of what has begun, and a milestone where it is shown", () => {
    const plan = planOf(
      [work("a", { actualStart: "2026-03-02", percent: 50 }), { id: "m", name: "Open", kind: "milestone" }],
      [{ from: "a", to: "m" }],
      { project: { dataDate: "2026-03-02" } as never },
    );
    expect(pushed(plan, ["a"], 3).dates("a")).toEqual(["2026-03-02", "2026-03-06"]);
    expect(pushed(plan, ["m"], 3).dates("m")).toEqual(["2026-03-06", "2026-03-06"]);
  });

  it("moves a wish with its kind", () => {
    const plan = planOf([
      work("a", { wish: { type: "startOn", date: "2026-03-04" } }),
      work("b", { wish: { type: "finishNotBefore", date: "2026-03-10" } }),
    ]);
    const { after } = pushed(plan, ["a", "b"], 1);
    expect(after.activities.map(({ wish }) => [wish?.type, wish?.date])).toEqual([
      ["startOn", "2026-03-05"],
      ["finishNotBefore", "2026-03-11"],
    ]);
  });

  it("names what cannot be pushed out, and leaves it", () => {
    const plan = planOf(
      [
        { id: "s", name: "Branch", kind: "summary" },
        work("done", { actualStart: "2026-03-02", actualFinish: "2026-03-03" }),
        work("parked", { parked: true }),
        { id: "none", name: "No dates" },
        work("capped", { wish: { type: "finishNotAfter", date: "2026-03-20" } }),
      ],
      [],
      { project: { dataDate: "2026-03-03" } as never },
    );
    const { left, after } = pushed(plan, ["s", "done", "parked", "none", "capped"], 2);
    expect(left.map(({ id, why }) => `${id}: ${why}`)).toEqual([
      "s: a branch: select what is below it",
      "done: finished",
      "parked: parked",
      "none: has no dates",
      "capped: a date wish says not after 20 Mar 2026: move that first",
    ]);
    expect(after.activities).toEqual(plan.activities);
  });
});
