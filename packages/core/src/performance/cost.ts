import { minorUnits, NO_MONEY, plus, type MinorUnits } from "../budget/money.ts";
import { costOfMinutes, rateBook, type RateBook } from "../budget/rates.ts";
import { restOf, takeShare, type Share } from "../budget/exact.ts";
import { remainingWork, stateOf } from "../network/laid/nodeColumns.ts";
import { COMPLETE } from "../network/laid/network.ts";
import { pairLabel } from "../plan/problem.ts";
import type { Activity, Assignment, CostLine, PlanBundle } from "../plan/schema.ts";

/**
 * Actual cost by activity: posted time at the rate in force on the day worked, and other costs,
 * dated on or before `until` (`YYYY-MM-DD`).
 */
export function actualCosts(plan: PlanBundle, until: string): Map<string, MinorUnits> {
  const rates = rateBook(plan.people ?? []);
  const byActivity = new Map<string, MinorUnits>();
  const add = (activity: string, amount: number): void => {
    byActivity.set(activity, minorUnits((byActivity.get(activity) ?? 0) + amount));
  };
  for (const entry of plan.timeEntries ?? []) {
    if (entry.state === "posted" && entry.date <= until)
      add(entry.activity, costOfMinutes(entry.minutes, rates(entry.person, entry.date)));
  }
  for (const cost of plan.actualCosts ?? []) if (cost.date <= until) add(cost.activity, cost.amountMinor);
  return byActivity;
}

/** What is spent and dated after `until` (`YYYY-MM-DD`), in minor units: no actual cost yet; and the last day of it, `null` where there is none. */
export function spentAfter(plan: PlanBundle, until: string): { costMinor: number; last: string | null } {
  const rates = rateBook(plan.people ?? []);
  const found: { costMinor: number; last: string | null } = { costMinor: 0, last: null };
  const add = (date: string, amount: number): void => {
    found.costMinor += amount;
    if (found.last === null || date > found.last) found.last = date;
  };
  for (const { state, person, date, minutes } of plan.timeEntries ?? []) {
    if (state === "posted" && date > until) add(date, costOfMinutes(minutes, rates(person, date)));
  }
  for (const { date, amountMinor } of plan.actualCosts ?? []) if (date > until) add(date, amountMinor);
  return found;
}

/** Time that is spent but not counted yet: posted, dated after the data date, and no longer in what is left. */
export interface TimeAhead {
  readonly activity: string;
  readonly person: string;
  /** At the rate in force on the day worked. */
  readonly costMinor: MinorUnits;
}

/**
 * Time posted and dated after `until` (`YYYY-MM-DD`), row by row. That of a person whose assignment on an incomplete activity
 * states no remaining minutes is still in what is left, and is not among it (calculations.md section 4, `bottomUp`).
 */
export function timeAhead(plan: PlanBundle, until: string): TimeAhead[] {
  const later = (plan.timeEntries ?? []).filter(({ state, date }) => state === "posted" && date > until);
  if (later.length === 0) return [];
  const incomplete = new Set(plan.activities.filter((activity) => stateOf(activity) !== COMPLETE).map(({ id }) => id));
  const stillLeft = new Set(
    (plan.assignments ?? [])
      .filter(({ activity, remainingMinutes }) => remainingMinutes === undefined && incomplete.has(activity))
      .map(({ activity, person }) => pairLabel(activity, person)),
  );
  const rates = rateBook(plan.people ?? []);
  return later
    .filter(({ activity, person }) => !stillLeft.has(pairLabel(activity, person)))
    .map(({ activity, person, date, minutes }) => ({
      activity,
      person,
      costMinor: costOfMinutes(minutes, rates(person, date)),
    }));
}

/**
 * The cost of the work that people have left on an activity.
 * @param ratesOn the later of the activity's start and the data date, `YYYY-MM-DD`
 */
export const workToCome = (
  activity: Activity,
  assignments: readonly Assignment[],
  ratesOn: string,
  rates: RateBook,
): MinorUnits =>
  assignments.reduce(
    (sum, assignment) =>
      plus(sum, costOfMinutes(remainingWork(assignment, activity), rates(assignment.person, ratesOn))),
    NO_MONEY,
  );

/** Cost lines of an activity that are not yet due, each by its timing. */
export function linesToCome(
  costs: readonly CostLine[],
  state: "notStarted" | "inProgress" | "complete",
  earned: Share,
): MinorUnits {
  if (state === "complete") return NO_MONEY;
  return costs.reduce((sum, { plannedMinor, timing = "even" }) => {
    if (timing === "even") return minorUnits(sum + takeShare(plannedMinor, restOf(earned)));
    return timing === "finish" || state === "notStarted" ? minorUnits(sum + plannedMinor) : sum;
  }, NO_MONEY);
}
