import {
  type Applied,
  applyChanges,
  type Change,
  checkWholePlan,
  type Plan,
  PlanProblems,
  problemInWords,
} from "@chronometra/core";

/** Whatever stands against changes is said in the words of their plan. */
export function inItsWords(plan: Plan, changes: readonly Change[], error: unknown): unknown {
  if (!(error instanceof PlanProblems)) return error;
  return new PlanProblems(
    error.problems.map((problem) => ({ ...problem, said: problemInWords(problem, plan, changes).said })),
  );
}

/** Does something with what changes made of a plan; what cannot be is said in the words of the plan. */
export function inWordsOf<T>(plan: Plan, changes: readonly Change[], work: () => T): T {
  try {
    return work();
  } catch (error) {
    throw inItsWords(plan, changes, error);
  }
}

/** Applies changes to a plan that holds and checks what may have come to be wrong. Throws PlanProblems. */
export function applyChecked(plan: Plan, changes: readonly Change[]): Applied {
  return inWordsOf(plan, changes, () => {
    const applied = applyChanges(plan, changes);
    const problems = checkWholePlan(applied.plan, plan);
    if (problems.length > 0) throw new PlanProblems(problems);
    return applied;
  });
}
