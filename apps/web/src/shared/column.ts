import type { ReactNode } from "react";

/** A column: what a row has in it, for sorting and export, and how that is shown. */
export interface Column<T> {
  readonly id: string;
  readonly head: string;
  /** Said on hovering over the heading. */
  readonly hint?: string;
  readonly value: (row: T) => string | number | null;
  readonly show?: (row: T) => ReactNode;
  readonly numeric?: boolean;
  /** Long text that may run over several lines. */
  readonly wraps?: boolean;
  /** Left out until chosen. */
  readonly hidden?: boolean;
  /** Holds what is done with a row and says nothing: neither sorted, copied nor put away. */
  readonly tool?: boolean;
  /** What stands below the column, and below each group, for the rows shown. */
  readonly total?: (rows: readonly T[]) => ReactNode;
}
