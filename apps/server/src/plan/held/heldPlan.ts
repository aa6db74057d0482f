import type { Change, Plan } from "@chronometra/core";
import { applyChecked } from "./applyChecked.ts";
import { computeWhole, type ComputedPlan } from "./computedPlan.ts";

/** A plan as a thread for plans holds it: what was computed of it once is at hand for whatever is asked of it next. */
export class HeldPlan {
  private known: ComputedPlan | undefined;

  /** @param before what was computed of the plan that it was made from, until it is computed itself */
  constructor(
    readonly plan: Plan,
    private before?: ComputedPlan,
  ) {}

  /** All that is computed of it. Throws PlanProblems where it cannot be computed. */
  get whole(): ComputedPlan {
    this.known ??= computeWhole(this.plan, this.before);
    this.before = undefined;
    return this.known;
  }

  /** What changes make of it; checked whole. Throws PlanProblems. */
  after(changes: readonly Change[]): HeldPlan {
    return changes.length === 0 ? this : new HeldPlan(applyChecked(this.plan, changes).plan, this.known);
  }
}

/** Something that is worked out over a plan, from what a message can hold, to what a message can hold. */
export type PlanWork = (held: HeldPlan, asked: never) => unknown;
export type PlanWorks = Readonly<Record<string, PlanWork>>;
