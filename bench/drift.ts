import { driftLedger, type PlanBundle } from "@chronometra/core";
import { leastOf, limitLine, type Line } from "./measure.ts";
import { largePlan } from "./plans.ts";

const LIMIT_MILLISECONDS = 1250;

/** A later state of a plan: a data date, progress, longer work, leave, dropped links and new work, on one activity in ten. */
function later(plan: PlanBundle): PlanBundle {
  const every = (i: number, n: number): boolean => i % 10 === n;
  return {
    ...plan,
    activities: plan.activities.map((activity, i) =>
      every(i, 3) && activity.durationMinutes !== undefined && activity.actualStart === undefined
        ? { ...activity, durationMinutes: activity.durationMinutes + 480 }
        : every(i, 7) && activity.wish === undefined && activity.actualStart === undefined
          ? { ...activity, wish: { type: "startNotBefore" as const, date: "2026-06-01" } }
          : activity,
    ),
    links: (plan.links ?? []).filter((_, i) => i % 50 !== 0),
  };
}

/** The drift ledger of a project's finish, between two states of a plan that differ in every tenth row. */
export async function driftLines(): Promise<Line[]> {
  const before = largePlan({ activities: 5000, linksEach: 2, calendars: 3, progress: 0 });
  const after = later(before);
  return [
    limitLine(
      "Drift ledger, 5 000 activities, 1 100 changes",
      await leastOf(2, () => driftLedger(before, after, null)),
      LIMIT_MILLISECONDS,
    ),
  ];
}
