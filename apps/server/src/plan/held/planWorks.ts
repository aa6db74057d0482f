import type { EffectView } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import { inWordsOf } from "./applyChecked.ts";
import { effectBetween } from "./effectBetween.ts";
import type { HeldPlan } from "./heldPlan.ts";
import { holdInstead } from "./planThread.ts";
import type { TableRows, Writer } from "./writer.ts";

/** A list of changes as the thread stores it. */
interface Stored {
  readonly changes: readonly Change[];
  /** What the plan that comes out is called. */
  readonly made: number;
  readonly revision: number;
  /** What is kept of the plan is not of its newest revision: all of it is made anew. */
  readonly anew: boolean;
}

/** Everything that is kept of a plan, from nothing. */
function rowsAnew(writers: readonly Writer[], after: HeldPlan, revision: number): TableRows[] {
  const emptied = writers
    .flatMap(({ tables }) => tables)
    .map((table): TableRows => ({ table, key: [], columns: [], gone: { by: [], keys: [[]] }, rows: [] }));
  return [...emptied, ...writers.flatMap((writer) => writer.rows({ revision, before: null, after }))];
}

/** Throws PlanProblems where changes do not hold. */
const check = (held: HeldPlan, changes: readonly Change[]): void => void held.after(changes);

/**
 * What is worked out over plans whenever one is stored or looked at.
 * @param writers of all that is kept beside plans
 */
export const planWorks = (writers: readonly Writer[]) => ({
  /** The effect of changes. */
  effect: (held: HeldPlan, changes: readonly Change[]): EffectView =>
    inWordsOf(held.plan, changes, () => effectBetween(held, held.after(changes))),

  check,

  /** What a list of changes makes of what is kept; the plan that comes out stays at hand. */
  store: (held: HeldPlan, { changes, made, revision, anew }: Stored): TableRows[] => {
    const after = held.after(changes);
    const rows = anew
      ? rowsAnew(writers, after, revision)
      : writers.flatMap((writer) => writer.rows({ revision, before: held, after }));
    holdInstead(held, made, after);
    return rows;
  },

  /** All that is kept of a plan. */
  keepAnew: (held: HeldPlan, revision: number): TableRows[] => rowsAnew(writers, held, revision),
});

export type PlanWorksOf = ReturnType<typeof planWorks>;
