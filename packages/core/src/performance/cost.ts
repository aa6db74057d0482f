import { costOfMinutes, rateBook, type RateBook } from "../budget/rates.ts";
import { restOf, takeShare, type Share } from "../budget/exact.ts";
import { remainingWork, stateOf } from "../network/buildNetwork.ts";
import { COMPLETE } from "../network/network.ts";
import { pairLabel } from "../plan/problem.ts";
import type { Activity, Assignment, CostLine, PlanBundle } from "../plan/schema.ts";

/**
 * Actual cost by activity: posted time at the rate in force on the day worked, and other costs,
 * dated on or before `until` (`YYYY-MM-DD`).
 */
export function actualCosts(plan: PlanBundle, until: string): Map<string, number> {
  const rates = rateBook(plan.people ?? []);
  const byActivity = new Map<string, number>();
  const add = (activity: string, amount: number): void => {
    byActivity.set(activity, (byActivity.get(activity) ?? 0) + amount);
  };
  for (const entry of plan.timeEntries ?? []) {
    if (entry.state === "posted" && entry.date <= until) add(entry.activity, costOfMinutes(entry.minutes, rates(entry.person, entry.date)));
  }
  for (const cost of plan.actualCosts ?? []) if (cost.date <= until) add(cost.activity, cost.amountMinor);
  return byActivity;
}

/** Time that is spent but not counted yet: posted, dated after the data date, and no longer in what is left. */
export interface TimeAhead {
  readonly activity: string;
  readonly person: string;
  /** At the rate in force on the day worked. */
  readonly costMinor: number;
}

/**
 * Time posted and dated after `until` (`YYYY-MM-DD`), row by row. That of a person whose assignment on an incomplete activity
 * states no remaining minutes is still in what is left, and is not among it (calculations.md section 4, `bottomUp`).
 */
export function timeAhead(plan: PlanBundle, until: string): TimeAhead[] {
  const later = (plan.timeEntries ?? []).filter(({ state, date }) => state === "posted" && date > until);
  if (later.length === 0) return [];
  const incomplete = new Set(plan.activities.filter((activity) => stateOf(activity) !== COMPLETE).map(({ id }) => id));
  const stillLeft = new Set((plan.assignments ?? []).filter(({ activity, remainingMinutes }) => remainingMinutes === undefined && incomplete.has(activity)).map(({ activity, person }) => pairLabel(activity, person)));
  const rates = rateBook(plan.people ?? []);
  return later
    .filter(({ activity, person }) => !stillLeft.has(pairLabel(activity, person)))
    .map(({ activity, person, date, minutes }) => ({ activity, person, costMinor: costOfMinutes(minutes, rates(person, date)) }));
}

/** What an activity's progress says about the cost still to come. */
export interface Outlook {
  readonly activity: Activity;
  readonly assignments: readonly Assignment[];
  readonly costs: readonly CostLine[];
  readonly state: "notStarted" | "inProgress" | "complete";
  /** The later of the activity's start and the data date, `YYYY-MM-DD`. */
  readonly ratesOn: string;
  readonly earned: Share;
}

/** The cost still to come: remaining work at its rates, and the cost lines not yet due. */
export function costToCome(outlook: Outlook, rates: RateBook): number {
  const { activity, state, earned } = outlook;
  let sum = 0;
  for (const assignment of outlook.assignments) {
    sum += costOfMinutes(remainingWork(assignment, activity), rates(assignment.person, outlook.ratesOn));
  }
  for (const cost of outlook.costs) {
    const timing = cost.timing ?? "even";
    if (state === "complete") continue;
    if (timing === "even") sum += takeShare(cost.plannedMinor, restOf(earned));
    else if (timing === "finish" || state === "notStarted") sum += cost.plannedMinor;
  }
  return sum;
}
