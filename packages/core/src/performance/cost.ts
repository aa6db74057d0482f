import { costOfMinutes, rateBook, type RateBook } from "../budget/rates.ts";
import { restOf, takeShare, type Share } from "../budget/exact.ts";
import { remainingWork } from "../network/buildNetwork.ts";
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
    if (timing === "even") sum += takeShare(cost.plannedMinor, restOf(earned));
    else if (timing === "start" ? state === "notStarted" : state !== "complete") sum += cost.plannedMinor;
  }
  return sum;
}
