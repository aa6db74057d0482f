import { EVERYTHING, NOTHING, shareOfPercent, wholes, type Share } from "../budget/exact.ts";
import { stateOf } from "../network/laid/nodeColumns.ts";
import { COMPLETE } from "../network/laid/network.ts";
import type { Activity } from "../plan/schema.ts";

/** What an activity's percent may rest on besides itself. */
export interface CreditContext {
  /** The data date, `YYYY-MM-DD`. */
  readonly dataDate: string;
  /** The activity's own planned value over its budget; nothing where it has no budget. */
  readonly plannedShare: Share;
  /** The percent earned by the activity it is apportioned to; nothing where that is parked. */
  readonly followedShare: () => Share;
}

/** The percent earned by its rule of credit, as an exact share (calculations.md section 4): all once it is finished, unless it was dropped. */
export function earnedShare(activity: Activity, context: CreditContext): Share {
  if (activity.dropped === true && activity.kind === "milestone") return NOTHING;
  const rule = activity.credit?.rule ?? (activity.kind === "levelOfEffort" ? "levelOfEffort" : "reported");
  if (rule === "levelOfEffort") return context.plannedShare;
  if (stateOf(activity) === COMPLETE && activity.dropped !== true) return EVERYTHING;
  switch (rule) {
    case "reported":
      return shareOfPercent(activity.percent ?? 0);
    case "zeroHundred":
      return NOTHING;
    case "startFinish":
      return activity.actualStart === undefined ? NOTHING : shareOfPercent(activity.credit!.startCredit!);
    case "steps":
      return stepsShare(activity, context.dataDate);
    case "units":
      return unitsShare(activity);
    case "stages":
      return shareOfPercent(activity.credit!.stages!.find((stage) => stage.name === activity.credit!.stage)!.credit);
    case "apportioned":
      return context.followedShare();
  }
}

function stepsShare(activity: Activity, dataDate: string): Share {
  const steps = activity.credit!.steps!;
  const weights = wholes(steps.map((step) => step.weight));
  let part = 0;
  let whole = 0;
  steps.forEach((step, i) => {
    whole += weights[i]!;
    if (step.doneOn !== undefined && step.doneOn <= dataDate) part += weights[i]!;
  });
  return { part, whole };
}

function unitsShare(activity: Activity): Share {
  const [done, all] = wholes([activity.credit!.unitsDone ?? 0, activity.credit!.unitsTotal!]);
  return done! >= all! ? EVERYTHING : { part: done!, whole: all! };
}
