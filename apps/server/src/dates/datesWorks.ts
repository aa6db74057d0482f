import type { BodyOf, Chain, PerformanceView, SlipChoiceView, Summary } from "@chronometra/contract";
import { computePlan, type Change, type NotPushed } from "@chronometra/core";
import type { HeldPlan } from "../plan/held/heldPlan.ts";
import { summarise } from "../writers/summarise.ts";
import { chainTo } from "./chain.ts";
import { partsOf } from "./parts.ts";
import { choiceOf, slipped, whoIsMoved, type Moved } from "./slipWorks.ts";

/** A project's figures split, and its earned schedule in every kind of period. */
function performance(
  { plan, whole }: HeldPlan,
  by: string,
): { summary: Summary; parts: PerformanceView["parts"]; earnedSchedules: PerformanceView["earnedSchedules"] } {
  const summary = summarise(whole);
  return {
    summary,
    parts: partsOf(plan, whole, by),
    earnedSchedules:
      summary.figures === null
        ? []
        : (["workday", "week", "month"] as const).map(
            (period) => computePlan(whole.bundle, { period }).performance!.earnedSchedule,
          ),
  };
}

/** What is worked out over a plan when its dates are looked at. */
export const DATES_WORKS = {
  performance,
  summary: ({ whole }: HeldPlan): Summary => summarise(whole),
  chain: ({ whole }: HeldPlan, activity: string): Chain => chainTo(whole, activity),
  choice: (
    held: HeldPlan,
    { milestone, to }: { milestone: string; to: string | null },
  ): Omit<SlipChoiceView, "mayEdit"> => choiceOf(held, milestone, to),

  slip: (
    held: HeldPlan,
    asked: { readonly milestone: string; readonly wanted: BodyOf<"POST /api/projects/:project/slip/:milestone"> },
  ): { changes: Change[]; left: NotPushed[] } => slipped(held, asked.milestone, asked.wanted),

  moved: (held: HeldPlan, changes: readonly Change[]): Moved[] => whoIsMoved(held, held.after(changes)),
};
