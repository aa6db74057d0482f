import type { HeldPlan } from "./heldPlan.ts";

export type Cell = string | number | null;

/** A plan as it is to be kept as a revision. */
export interface Keeping {
  readonly revision: number;
  /** The plan as it is kept; `null` where nothing is kept of it yet. */
  readonly before: HeldPlan | null;
  readonly after: HeldPlan;
}

/** What changes in one table of what is kept of a project. */
export interface TableRows {
  readonly table: string;
  /** What tells its rows apart within the project. */
  readonly key: readonly string[];
  /** Its other columns, which are overwritten where the row is there. */
  readonly columns: readonly string[];
  /** Rows that go before others come, by the first columns of the key, or by none: then all of them. */
  readonly gone: { readonly by: readonly string[]; readonly keys: readonly (readonly Cell[])[] };
  /** Rows that come or change: cells of the key, then of the columns. */
  readonly rows: readonly (readonly Cell[])[];
  /** Rows that are there and change in the same few columns. */
  readonly edits?: readonly Edit[];
}

/** Many rows in which the same columns change: where the finish moves, so does the float of all that is not done. */
export interface Edit {
  readonly columns: readonly string[];
  /** Cells of the key, then of these columns. */
  readonly rows: readonly (readonly Cell[])[];
}

/**
 * What is kept beside a plan, so that questions over all projects need no plans. Works on a thread for plans, without
 * the database.
 */
export interface Writer {
  /** The tables whose rows it makes anew from nothing, each with a `project_id`. */
  readonly tables: readonly string[];
  /** What brings its rows from `before` to `after`. */
  readonly rows: (keeping: Keeping) => readonly TableRows[];
}
