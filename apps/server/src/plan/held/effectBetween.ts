import type { EffectView } from "@chronometra/contract";
import { effectOf } from "@chronometra/core";
import type { HeldPlan } from "./heldPlan.ts";

/** The effect of going from one plan to another, with the currency its amounts are in. */
export function effectBetween(before: HeldPlan, after: HeldPlan): EffectView {
  const effect = effectOf(before.whole.bundle, after.whole.bundle);
  const { currency, minorDigits = 2 } = after.plan.project;
  return {
    ...effect,
    currency,
    minorDigits,
    activities: [...effect.activities],
    milestones: [...effect.milestones],
    deadlines: [...effect.deadlines],
  };
}
