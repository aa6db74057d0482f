import { applyChanges } from "../applyChanges.ts";
import type { Change } from "../change.ts";
import type { Plan, Rows } from "../plan.ts";
import type { PlanTables } from "../rowSchemas.ts";
import type { PlanTable } from "../tables.ts";

/** What only ever comes into a plan, and is corrected by another row: no change leads back behind it. */
const ADDED_ONLY = ["baselines", "timeEntries", "actualCosts"] as const satisfies readonly PlanTable[];

/** A list of changes that was stored, as far as one goes back behind it. */
export interface StoredChanges {
  /** The fields and rows that it wrote, as `Applied.touched`. */
  readonly touched: readonly string[];
  /** How they were: `Applied.inverse`, or `Applied.were` where something in it cannot be undone. */
  readonly were: readonly Change[];
}

/** The changes of several lists that lead back behind all of them, but for what only ever comes in. */
export const changesBefore = (newestFirst: readonly StoredChanges[]): readonly Change[] =>
  newestFirst.flatMap(({ were }) => were);

/**
 * A plan as it was before some lists of changes.
 * @param newestFirst all lists that were stored since, the newest first
 * @throws {PlanProblems} where they are not those that led to the plan
 */
export function planBefore(plan: Plan, newestFirst: readonly StoredChanges[]): Plan {
  const added = new Set(newestFirst.flatMap(({ touched }) => touched));
  const without = { ...plan } as { -readonly [K in keyof Plan]: Plan[K] };
  for (const table of ADDED_ONLY) {
    const rows = [...(plan[table] as Rows<PlanTables[PlanTable]>)].filter(([key]) => !added.has(`${table}/${key}`));
    (without as Record<PlanTable, unknown>)[table] = new Map(rows);
  }
  return applyChanges(without, changesBefore(newestFirst)).plan;
}
