import type { PlanView } from "@chronometra/contract";
import { applyChanges, checkPlan, computePlan, effectBetween, PLAN_TABLES, PlanProblems, toBundle, type Change, type Effect, type Plan, type Problem, type Reckoned } from "@chronometra/core";
import { layOutSheet, type Sheet } from "./sheet.ts";

/** What came of trying changes: the plan as it would be and what moved, or why it cannot be. */
export type Tried = { readonly sheet: Sheet; readonly effect: Effect } | { readonly problems: readonly Problem[] };

const planOf = (view: PlanView): Plan => {
  const tables = view.tables as Partial<Record<string, [string, unknown][]>>;
  return { project: view.project, ...Object.fromEntries(PLAN_TABLES.map((table) => [table, new Map(tables[table] ?? [])])) } as unknown as Plan;
};

/**
 * A plan in the browser: what the server has confirmed, and what was changed here since and is on its way.
 * Computes with the same core as the server, in a worker.
 */
export class PlanEngine {
  private confirmed!: Plan;
  private pending: (readonly Change[])[] = [];
  private current!: Reckoned;

  /** Takes a plan as the server gave it. */
  open(view: PlanView): Sheet {
    this.confirmed = planOf(view);
    this.pending = [];
    return this.reckon(this.confirmed);
  }

  /** Applies changes at once, ahead of the server. Nothing is kept of changes that cannot be. */
  change(changes: readonly Change[]): Tried {
    const before = this.current;
    try {
      const tried = this.tryOut(changes);
      this.pending.push(changes);
      this.current = tried;
      return { sheet: layOutSheet(tried.plan, tried.computed), effect: effectBetween(before, tried) };
    } catch (error) {
      if (error instanceof PlanProblems) return { problems: error.problems };
      throw error;
    }
  }

  /** What changes would move; nothing is kept. */
  effect(changes: readonly Change[]): Effect {
    return effectBetween(this.current, this.tryOut(changes));
  }

  /** The server has stored the oldest changes on their way, after those of others. */
  confirm(stored: readonly Change[]): Sheet {
    this.pending.shift();
    return this.advance(stored);
  }

  /** The server has stored changes that are not among those on their way. */
  advance(stored: readonly Change[]): Sheet {
    this.confirmed = applyChanges(this.confirmed, stored).plan;
    return this.reckon(this.pending.reduce((plan, changes) => applyChanges(plan, changes).plan, this.confirmed));
  }

  private tryOut(changes: readonly Change[]): Reckoned {
    const latest = this.pending.reduce((plan, each) => applyChanges(plan, each).plan, this.confirmed);
    const plan = toBundle(applyChanges(latest, changes).plan);
    const problems = checkPlan(plan);
    if (problems.length > 0) throw new PlanProblems(problems);
    return { plan, computed: computePlan(plan) };
  }

  private reckon(plan: Plan): Sheet {
    const bundle = toBundle(plan);
    this.current = { plan: bundle, computed: computePlan(bundle) };
    return layOutSheet(bundle, this.current.computed);
  }
}
