import fc from "fast-check";
import { computePlan } from "../analyse.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { livedPlans } from "../testing/livedPlans.ts";

/** A plan in which some activity takes another time, and where wanted another stands no more. */
const changed = fc
  .tuple(livedPlans, fc.nat(), fc.integer({ min: 1, max: 40 }), fc.option(fc.nat()))
  .map(([plan, at, days, gone]): [PlanBundle, PlanBundle] => {
    const length = plan.activities.length;
    const leaves = gone === null ? null : plan.activities[gone % length]!.id;
    const activities = plan.activities
      .map((activity, i) =>
        i === at % length && activity.durationMinutes !== undefined
          ? { ...activity, durationMinutes: days * 480 }
          : activity,
      )
      .filter(({ id, parent }) => id !== leaves && parent !== leaves);
    const ids = new Set(activities.map(({ id }) => id));
    const links = plan.links?.filter(({ from, to }) => ids.has(from) && ids.has(to)) ?? [];
    const assignments = plan.assignments?.filter(({ activity }) => ids.has(activity)) ?? [];
    return [plan, { ...plan, activities, links, assignments }];
  });

describe("a plan computed with what was computed of one much like it", () => {
  it("comes to the same, and takes the very rows that say the same", () => {
    let taken = 0;
    let moved = 0;
    fc.assert(
      fc.property(changed, ([before, after]) => {
        const was = computePlan(before);
        const anew = computePlan(after);
        const settled = computePlan(after, {}, was);
        expect(settled.schedule.rows).toEqual(anew.schedule.rows);
        expect(settled.performance).toEqual(anew.performance);
        after.activities.forEach(({ id }, i) => {
          const place = was.schedule.tree.indexOf.get(id)!;
          const [row, old] = [settled.schedule.rows[i], was.schedule.rows[place]];
          if (row == null || old == null) return;
          const isSame = JSON.stringify(row) === JSON.stringify(old);
          expect(row === old).toBe(isSame);
          if (isSame) taken++;
          else moved++;
        });
      }),
      { numRuns: 200 },
    );
    expect(Math.min(taken, moved)).toBeGreaterThan(30);
  });
});
