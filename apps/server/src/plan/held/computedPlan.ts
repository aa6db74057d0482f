import { computePlan, slipsAgainst, toBundle, type Computed, type Plan, type PlanBundle } from "@chronometra/core";

/** A plan and all that was computed from it. */
export interface ComputedPlan {
  readonly bundle: PlanBundle;
  /** People who stand for a role until somebody is named: nobody waits for their reports. */
  readonly placeholders: ReadonlySet<string>;
  readonly computed: Computed;
  /** How each activity of the baseline has slipped; of a plan that was never approved nothing. */
  readonly slips: ReturnType<typeof slipsAgainst>;
}

/**
 * Dates and figures of a plan. Throws PlanProblems where it cannot be computed.
 * @param before what was computed of the plan that it was made from: what stays as it is, is the same object
 */
export function computeWhole(plan: Plan, before?: ComputedPlan): ComputedPlan {
  const bundle = toBundle(plan);
  const computed = computePlan(bundle, {}, before?.computed);
  const { schedule, baseline } = computed;
  return {
    bundle,
    placeholders: new Set(plan.placeholders.keys()),
    computed,
    slips: baseline === null ? new Map() : slipsAgainst(bundle, schedule, baseline.content),
  };
}
