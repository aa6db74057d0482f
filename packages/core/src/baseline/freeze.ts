import { costOfMinutes, rateBook } from "../budget/rates.ts";
import { assignmentsByActivity } from "../network/laid/nodeColumns.ts";
import { schedulePlan, type Schedule } from "../network/schedule.ts";
import type { ScheduledActivity } from "../network/scheduledActivity.ts";
import type { Activity, Assignment, BaselineRow, Calendar, PlanBundle } from "../plan/schema.ts";
import { formatDate, formatInstant } from "../time/instant.ts";

/** What a freeze takes from a plan; who approved it, when and why are added by whoever approves. */
export interface FrozenPlan {
  readonly activities: BaselineRow[];
  readonly calendars: Calendar[];
}

/** The plan as it was meant: without actuals, percent, remaining work, restarts and data date. */
export function withoutProgress(plan: PlanBundle): PlanBundle {
  const { dataDate: _dataDate, ...project } = plan.project;
  return {
    ...plan,
    project,
    activities: plan.activities.map(
      ({ actualStart: _s, actualFinish: _f, percent: _p, remainingMinutes: _r, dropped: _d, ...rest }) => rest,
    ),
    assignments: (plan.assignments ?? []).map(({ remainingMinutes: _m, restart: _t, ...rest }) => rest),
    timeEntries: [],
    actualCosts: [],
  };
}

/**
 * Takes a plan as a baseline (calculations.md section 3): a row for each unparked activity that has dates, summaries apart.
 * @throws {PlanProblems} where the plan cannot be scheduled
 */
export function freezePlan(plan: PlanBundle): FrozenPlan {
  const bare = withoutProgress(plan);
  const schedule = schedulePlan(bare);
  const budget = budgetOf(bare);
  const activities: BaselineRow[] = [];
  bare.activities.forEach((activity, i) => {
    const row = schedule.rows[i];
    if (row == null || activity.kind === "summary") return;
    activities.push({
      id: activity.id,
      start: formatInstant(row.start),
      finish: formatInstant(row.finish),
      durationMinutes: durationOf(activity, row, bare, schedule),
      ...(activity.calendar === undefined ? {} : { calendar: activity.calendar }),
      ...budget(activity.id, formatDate(row.startDay)),
      ...(activity.deadline === undefined ? {} : { deadline: activity.deadline }),
    });
  });
  return { activities, calendars: plan.calendars };
}

/** The length that a baseline says of an activity: its own where that decides its dates, else the working time from start to finish. */
export function durationOf(activity: Activity, row: ScheduledActivity, plan: PlanBundle, schedule: Schedule): number {
  if (activity.kind === "milestone") return 0;
  if ((activity.kind ?? "work") === "work" && activity.driver !== "effort" && activity.durationMinutes !== undefined)
    return activity.durationMinutes;
  const calendar = schedule.calendars.get(activity.calendar ?? plan.project.calendar);
  return calendar.indexAt(row.finish) - calendar.indexAt(row.start);
}

type BudgetParts = Pick<BaselineRow, "evenMinor" | "startMinor" | "finishMinor" | "minutes">;

/** Gives the budget of an activity by part, its people at the rates in force on its planned start. */
export function budgetOf(plan: PlanBundle): (activity: string, startDate: string) => BudgetParts {
  const rates = rateBook(plan.people ?? []);
  const assignments = assignmentsByActivity(plan);
  const lines = new Map<string, { even: number; start: number; finish: number }>();
  for (const cost of plan.costs ?? []) {
    const sums = lines.get(cost.activity) ?? { even: 0, start: 0, finish: 0 };
    sums[cost.timing ?? "even"] += cost.plannedMinor;
    lines.set(cost.activity, sums);
  }
  return (activity, startDate) => {
    const sums = lines.get(activity);
    const own: readonly Assignment[] = assignments.get(activity) ?? [];
    const people = own.reduce((sum, a) => sum + costOfMinutes(a.plannedMinutes, rates(a.person, startDate)), 0);
    return {
      evenMinor: people + (sums?.even ?? 0),
      startMinor: sums?.start ?? 0,
      finishMinor: sums?.finish ?? 0,
      minutes: own.reduce((sum, a) => sum + a.plannedMinutes, 0),
    };
  };
}

/**
 * A text that two baselines share exactly when their content is the same, for a digest: keys in order, rows by id.
 * @param baseline the baseline as stored, approval included
 */
export function canonicalText(baseline: unknown): string {
  return JSON.stringify(baseline, (_key, value: unknown) => {
    if (typeof value !== "object" || value === null || Array.isArray(value)) return value;
    return Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)));
  });
}
