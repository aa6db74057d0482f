import {
  type Accepted,
  acceptReports,
  type ActivityWindow,
  type Change,
  holdWindows,
  type Plan,
} from "@chronometra/core";
import type { HeldPlan } from "../../plan/held/heldPlan.ts";
import type { ReportEntity } from "../kept/reportEntity.ts";

type Acceptance = NonNullable<Parameters<typeof acceptReports>[2]>;

/** Reports that are to be accepted, and how. */
interface Deciding {
  readonly reports: readonly ReportEntity[];
  readonly closedTo: string | null;
  readonly earlier: NonNullable<Acceptance["earlier"]>;
  readonly endings: NonNullable<Acceptance["endings"]>;
  /** Activities whose windows are held. */
  readonly hold: readonly string[];
}

export interface Outcome extends Omit<Accepted, "changes"> {
  readonly changes: Change[];
  readonly windows: ActivityWindow[];
}

/** Activities that reports speak of; leave speaks of all that its person works on. */
const spokenOf = (plan: Plan, reports: readonly ReportEntity[]): string[] =>
  reports.flatMap(({ activityId, leaveUntil, personId }) =>
    leaveUntil === null
      ? [activityId]
      : [...plan.assignments.values()].flatMap(({ activity, person }) => (person === personId ? [activity] : [])),
  );

/** What accepting a project's reports comes to. Throws PlanProblems where the plan would not hold. */
export function outcome(held: HeldPlan, { reports, hold, ...accepting }: Deciding): Outcome {
  const { changes, ...told } = acceptReports(held.plan, reports, accepting);
  const after = held.after(changes);
  const holding = holdWindows(held.plan, after.plan, spokenOf(held.plan, reports), new Set(hold));
  return { ...told, changes: [...changes, ...holding.changes], windows: holding.windows };
}
