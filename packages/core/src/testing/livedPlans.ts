import fc from "fast-check";
import { freezePlan } from "../baseline/freeze.ts";
import type { Activity, PlanBundle } from "../plan/schema.ts";
import { networks } from "./plans.ts";

/** The data date of the plans that have one. */
export const DATA_DATE = "2026-03-11";

/** Random plans with some progress, people, costs, parked and undated work, and a baseline of an earlier shape. */
export const livedPlans: fc.Arbitrary<PlanBundle> = networks({ calendars: ["std", "seven"], capped: true }).chain(
  (plan) =>
    fc
      .record({
        marks: fc.array(fc.integer({ min: 0, max: 11 }), {
          minLength: plan.activities.length,
          maxLength: plan.activities.length,
        }),
        longer: fc.boolean(),
        dated: fc.boolean(),
        based: fc.boolean(),
      })
      .map(({ marks, longer, dated, based }): PlanBundle => {
        const baseline = { number: 1, approvedOn: "2026-03-01", approvedBy: "x", reason: "y", ...freezePlan(plan) };
        const activities = plan.activities.map((activity, i): Activity => {
          const work = activity.kind !== "milestone";
          const mark = marks[i]!;
          const dur = longer && work ? { durationMinutes: activity.durationMinutes! * 12 } : {};
          if (mark === 0) return { ...activity, ...dur, parked: true };
          if (mark === 1 && work) return (({ durationMinutes: _d, ...rest }) => rest)(activity);
          if (mark === 2 && work) return { ...activity, driver: "effort" };
          if (!dated) return { ...activity, ...dur };
          if (mark === 3)
            return work
              ? { ...activity, ...dur, actualStart: "2026-03-03", percent: 40 }
              : { ...activity, actualStart: "2026-03-12" };
          if (mark === 4) return { ...activity, ...dur, actualStart: "2026-03-02", actualFinish: "2026-03-06" };
          if (mark === 6)
            return { ...activity, ...dur, actualStart: "2026-03-02", actualFinish: "2026-03-10", dropped: true };
          if (mark === 5 && work) return { ...activity, ...dur, actualStart: "2026-03-12T09:00" };
          return { ...activity, ...dur };
        });
        const of = (mark: number): Activity[] =>
          activities.filter((each, i) => marks[i]! >= mark && each.kind !== "milestone");
        return {
          ...plan,
          project: { ...plan.project, ...(dated ? { dataDate: DATA_DATE } : {}) },
          activities,
          people: [{ id: "p", name: "P" }],
          assignments: activities
            .filter((each, i) => each.kind !== "milestone" && (marks[i] === 2 || marks[i] === 7))
            .map(({ id }) => ({ activity: id, person: "p", plannedMinutes: 3000 })),
          costs: of(9).map(({ id }) => ({ id: `c${id}`, activity: id, category: "c", plannedMinor: 100 })),
          ...(based
            ? { baselines: [{ ...baseline, activities: baseline.activities.filter((_, i) => i % 4 !== 3) }] }
            : {}),
        };
      }),
);
