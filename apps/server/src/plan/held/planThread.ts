import { PLAN_TABLES, PlanProblems, type Plan, type Problem } from "@chronometra/core";
import { Failure } from "../../shared/failure.ts";
import { HeldPlan, type PlanWorks } from "./heldPlan.ts";

/** Something asked of a plan. */
export interface PlanJob {
  /** What the plan is called between the threads: one tag is one plan, for good. */
  readonly tag: number;
  /** The plan itself, where the thread has said that it does not hold it. */
  readonly plan?: Plan;
  readonly work: string;
  readonly asked: unknown;
}

export type PlanAnswer =
  | { readonly is: "missing" }
  | { readonly is: "result"; readonly result: unknown }
  | { readonly is: "problems"; readonly problems: readonly Problem[] }
  | { readonly is: "failure"; readonly failure: Pick<Failure, "code" | "message" | "details"> };

/** How many rows of plans a thread holds, some 5 kB each with what was computed of them. */
const HELD_ROWS = 20_000;

/** Plans that this thread holds, by tag, the newest last. */
const held = new Map<number, { readonly plan: HeldPlan; readonly rows: number }>();

/** Holds a plan by a tag; the oldest go where there are too many. */
function hold(tag: number, plan: HeldPlan): void {
  held.delete(tag);
  held.set(tag, { plan, rows: PLAN_TABLES.reduce((sum, table) => sum + plan.plan[table].size, 0) });
  let rows = 0;
  for (const [each, { rows: own }] of [...held].reverse()) {
    rows += own;
    if (rows > HELD_ROWS && each !== tag) held.delete(each);
  }
}

/**
 * Holds a plan in the stead of the one that it was made from, which is asked about no more once the other is stored.
 */
export function holdInstead(before: HeldPlan, tag: number, plan: HeldPlan): void {
  for (const [each, { plan: own }] of held) if (own === before) held.delete(each);
  hold(tag, plan);
}

function heldBy({ tag, plan }: PlanJob): HeldPlan | null {
  const known = held.get(tag)?.plan ?? (plan === undefined ? null : new HeldPlan(plan));
  if (known !== null) hold(tag, known);
  return known;
}

/** What a thread for plans runs: the work that was named, over a plan that it holds. */
export const answering =
  (works: PlanWorks) =>
  (job: PlanJob): PlanAnswer => {
    const plan = heldBy(job);
    if (plan === null) return { is: "missing" };
    try {
      return { is: "result", result: works[job.work]!(plan, job.asked as never) };
    } catch (error) {
      // Of an error only its message would come through.
      if (error instanceof PlanProblems) return { is: "problems", problems: error.problems };
      if (error instanceof Failure)
        return { is: "failure", failure: { code: error.code, message: error.message, details: error.details } };
      throw error;
    }
  };
