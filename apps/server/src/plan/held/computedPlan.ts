import {
  computePlan,
  groundOf,
  slipsByPosition,
  toBundle,
  type Computed,
  type Ground,
  type Plan,
  type PlanBundle,
  type Slip,
} from "@chronometra/core";

/** A plan and all that was computed from it. */
export interface ComputedPlan {
  readonly bundle: PlanBundle;
  /** People who stand for a role until somebody is named: nobody waits for their reports. */
  readonly placeholders: ReadonlySet<string>;
  readonly computed: Computed;
  /** How each activity of the baseline has slipped, by position; of a plan that was never approved nothing. */
  readonly slips: readonly (Slip | null)[];
}

/**
 * Dates and figures of a plan. Throws PlanProblems where it cannot be computed.
 * @param before what was computed of the plan that it was made from: what stays as it is, is the same object
 */
export function computeWhole(plan: Plan, before?: ComputedPlan): ComputedPlan {
  const bundle = toBundle(plan);
  const computed = computePlan(bundle, {}, before?.computed);
  return {
    bundle,
    placeholders: new Set(plan.placeholders.keys()),
    computed,
    slips: slipsOf(computed, before),
  };
}

function slipsOf({ plan, schedule, baseline }: Computed, before: ComputedPlan | undefined): readonly (Slip | null)[] {
  if (baseline === null) return plan.activities.map(() => null);
  const was = before?.computed;
  if (was === undefined || was.baseline === null) return slipsByPosition(plan, schedule, baseline.content);
  return slipsByPosition(plan, schedule, baseline.content, {
    plan: was.plan,
    schedule: was.schedule,
    baseline: was.baseline.content,
    slips: before!.slips,
  });
}

const grounds = new WeakMap<ComputedPlan, Ground>();

/**
 * What the checks of a plan's quality look at, gathered once.
 * @param before the plan that it came of, from which is taken what says the same
 */
export function groundIn(whole: ComputedPlan, before?: ComputedPlan): Ground {
  let ground = grounds.get(whole);
  if (ground === undefined) {
    const { bundle, computed } = whole;
    const was = before === undefined ? undefined : grounds.get(before);
    ground = groundOf(bundle, computed.schedule, computed.baseline?.content ?? null, was);
    grounds.set(whole, ground);
  }
  return ground;
}
