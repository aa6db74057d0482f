import { budgetOf } from "./freeze.ts";
import type { Schedule } from "../network/schedule.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { formatDate } from "../time/instant.ts";

/** What the plan as it is now would cost, by position of the activity; minor units and minutes. */
export interface PlannedBudget {
  readonly minor: Float64Array;
  readonly minutes: Float64Array;
}

/**
 * Hours and cost planned on each activity, people at the rates in force on its start, and on every branch the sum of what is
 * below it; parked work counts for nothing. What has no dates yet takes the rates of the project's start.
 */
export function plannedBudget(plan: PlanBundle, schedule: Schedule): PlannedBudget {
  const budget = budgetOf(plan);
  const minor = new Float64Array(plan.activities.length);
  const minutes = new Float64Array(plan.activities.length);
  plan.activities.forEach(({ id, kind }, i) => {
    if (kind === "summary" || schedule.tree.parked.has(id)) return;
    const row = schedule.rows[i];
    const own = budget(id, row == null ? plan.project.start : formatDate(row.startDay));
    minor[i] = own.evenMinor + own.startMinor + own.finishMinor;
    minutes[i] = own.minutes;
  });
  const { parentsFirst, parentOf } = schedule.tree;
  for (let n = parentsFirst.length - 1; n >= 0; n--) {
    const i = parentsFirst[n]!;
    const parent = parentOf[i]!;
    if (parent < 0) continue;
    minor[parent] = minor[parent]! + minor[i]!;
    minutes[parent] = minutes[parent]! + minutes[i]!;
  }
  return { minor, minutes };
}
