import type { EffectView } from "@chronometra/contract";
import { effectOf, toBundle, type Plan } from "@chronometra/core";

/** The effect of going from one plan to another, with the currency its amounts are in. */
export function presentEffect(before: Plan, after: Plan): EffectView {
  const effect = effectOf(toBundle(before), toBundle(after));
  return {
    ...effect,
    currency: after.project.currency,
    minorDigits: after.project.minorDigits ?? 2,
    activities: [...effect.activities],
    milestones: [...effect.milestones],
    deadlines: [...effect.deadlines],
  };
}
