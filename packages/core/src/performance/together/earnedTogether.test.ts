import fc from "fast-check";
import { analyse } from "../../analyse.ts";
import type { Activity } from "../../plan/schema.ts";
import { baselined, EARNED, late, MONTH_ENDS, row } from "../../testing/measured.ts";
import { earnedTogether } from "./earnedTogether.ts";
import { plannedByMonth } from "../plannedByMonth.ts";
import { plannedRows } from "../plannedValue.ts";

const DAY = 480;

describe("earned schedule of several projects", () => {
  it.each(EARNED.map((ev, i) => [i + 1, ev]))(
    "two such projects together are where each is, after %i months",
    (month, ev) => {
      const plan = late(month);
      const own = analyse(plan, { period: "month" }).performance!.earnedSchedule;
      const months = plannedByMonth(plannedRows(plan, plan.baselines![0]!, new Set()));
      expect(months.map(({ from }) => from.slice(8))).toEqual(Array.from({ length: 12 }, () => "01"));
      const together = earnedTogether({
        first: months[0]!.from,
        planned: months.map(({ minor }) => 2 * minor),
        ev: 2 * ev,
        dataDate: MONTH_ENDS[month - 1]!,
      });
      expect(together.es).toBeCloseTo(own.es!, 9);
      expect({ ...together, es: null, svt: null, spit: null, forecastDuration: null }).toEqual({
        ...{ ...own, es: null, svt: null, spit: null, forecastDuration: null },
      });
      expect(together.spit).toBeCloseTo(own.spit!, 9);
    },
  );

  it("a group counts the days of a month that has begun, and says nothing where nothing is planned", () => {
    const of = (planned: number[], ev: number, dataDate: string) =>
      earnedTogether({ first: "2026-01-16", planned, ev, dataDate });
    // The first month has 16 days, of which 8 have passed.
    expect(of([100, 300], 50, "2026-01-23")).toMatchObject({ at: 0.5, es: 0.5, pd: 2, spit: 1 });
    expect(of([100, 300], 250, "2026-02-14")).toMatchObject({ at: 1.5, es: 1.5 });
    expect(of([100, 0, 300], 100, "2026-03-31")).toMatchObject({ at: 3, es: 2, svt: -1 });
    expect(of([100, 300], 0, "2026-01-10")).toMatchObject({ at: 0, es: 0, spit: null, forecastFinish: null });
    expect(of([0, 0], 0, "2026-02-14")).toMatchObject({ es: null, at: null });
    expect(of([], 0, "2026-02-14")).toMatchObject({ es: null });
  });

  it("what is planned month by month adds up to the budget, whatever the baseline", () => {
    const day = fc.integer({ min: 1, max: 28 });
    const one = fc.tuple(fc.integer({ min: 1, max: 9 }), day, fc.integer({ min: 10, max: 12 }), day, fc.nat(100_000));
    fc.assert(
      fc.property(fc.array(one, { minLength: 1, maxLength: 8 }), (all) => {
        const two = (each: number) => String(each).padStart(2, "0");
        const rows = all.map(([m, d, n, e, even], i) =>
          row(`a${i}`, `2026-${two(m)}-${two(d)}`, `2026-${two(n)}-${two(e)}`, { even, start: i }),
        );
        const activities = all.map((_, i): Activity => ({ id: `a${i}`, name: "", durationMinutes: DAY }));
        const plan = baselined(activities, rows, "2026-06-30");
        const months = plannedByMonth(plannedRows(plan, plan.baselines![0]!, new Set()));
        const budget = all.reduce((sum, [, , , , even], i) => sum + even + i, 0);
        expect(months.reduce((sum, { minor }) => sum + minor, 0)).toBe(budget);
        expect(months.every(({ minor }) => minor >= 0)).toBe(true);
      }),
    );
  });
});
