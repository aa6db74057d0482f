import type { PlanView } from "@chronometra/contract";
import { applyChanges, arrange, checkPlan, computePlan, effectBetween, explainActivity, linkTexts, PLAN_TABLES, PlanProblems, readLinks, toBundle, type Arrangement, type Change, type Effect, type Explanation, type Plan, type Problem, type Reckoned } from "@chronometra/core";
import { layOutSheet, type Sheet } from "./sheet.ts";

/** What came of trying changes: the plan as it would be and what moved, or why it cannot be. */
export type Tried = { readonly sheet: Sheet; readonly effect: Effect } | { readonly problems: readonly Problem[] };

const planOf = (view: PlanView): Plan => {
  const tables = view.tables as Partial<Record<string, [string, unknown][]>>;
  return { project: view.project, ...Object.fromEntries(PLAN_TABLES.map((table) => [table, new Map(tables[table] ?? [])])) } as unknown as Plan;
};

/** A plan with what was computed from it. */
interface Worked extends Reckoned {
  readonly value: Plan;
}

const work = (value: Plan): Worked => {
  const plan = toBundle(value);
  return { value, plan, computed: computePlan(plan) };
};

const layOut = ({ value, plan, computed }: Worked): Sheet => layOutSheet(plan, computed, linkTexts(value));

/**
 * A plan in the browser: what the server has confirmed, and what was changed here since and is on its way.
 * Computes with the same core as the server, in a worker.
 */
export class PlanEngine {
  private confirmed!: Plan;
  private pending: (readonly Change[])[] = [];
  private current!: Worked;

  /** Takes a plan as the server gave it. */
  open(view: PlanView): Sheet {
    this.confirmed = planOf(view);
    this.pending = [];
    return this.show(this.confirmed);
  }

  /** Applies changes at once, ahead of the server. Nothing is kept of changes that cannot be. */
  change(changes: readonly Change[]): Tried {
    const before = this.current;
    try {
      const tried = this.tryOut(changes);
      this.pending.push(changes);
      this.current = tried;
      return { sheet: layOut(tried), effect: effectBetween(before, tried) };
    } catch (error) {
      if (error instanceof PlanProblems) return { problems: error.problems };
      throw error;
    }
  }

  /** What changes would move; nothing is kept. */
  effect(changes: readonly Change[]): Effect {
    return effectBetween(this.current, this.tryOut(changes));
  }

  /** The changes that an arrangement of the tree comes to. */
  arrange(arrangement: Arrangement): readonly Change[] {
    return arrange(this.current.value, arrangement);
  }

  /** The changes that links typed for an activity come to, or what is wrong with them. */
  readLinks(activity: string, text: string): { readonly changes: readonly Change[] } | { readonly fault: string } {
    return readLinks(this.current.value, activity, text, () => `l-${crypto.randomUUID().slice(0, 13)}`);
  }

  /** Why an activity lies where it does; `null` for what is placed by nothing of its own. */
  explain(activity: string): Explanation | null {
    return explainActivity(this.current.plan, activity);
  }

  /** The server has stored the oldest changes on their way, after those of others. */
  confirm(stored: readonly Change[]): Sheet {
    this.pending.shift();
    return this.advance(stored);
  }

  /** The server has stored changes that are not among those on their way. */
  advance(stored: readonly Change[]): Sheet {
    this.confirmed = applyChanges(this.confirmed, stored).plan;
    return this.show(this.pending.reduce((plan, changes) => applyChanges(plan, changes).plan, this.confirmed));
  }

  private tryOut(changes: readonly Change[]): Worked {
    const value = applyChanges(this.current.value, changes).plan;
    const problems = checkPlan(toBundle(value));
    if (problems.length > 0) throw new PlanProblems(problems);
    return work(value);
  }

  private show(plan: Plan): Sheet {
    this.current = work(plan);
    return layOut(this.current);
  }
}
