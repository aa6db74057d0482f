import type { Money } from "@chronometra/core";
import type { ReactNode } from "react";

/**
 * A column: what a row has in it, how that is shown, and what it is, so that copies and files say the same as the
 * screen.
 */
export interface Column<T> {
  readonly id: string;
  readonly head: string;
  /** Said on hovering over the heading. */
  readonly hint?: string;
  /** What this row's value means and how it came about; said on asking. */
  readonly explains?: (row: T) => string | null;
  readonly value: (row: T) => string | number | null;
  readonly show?: (row: T) => ReactNode;
  readonly numeric?: boolean;
  /** What the value measures, where it is no plain number: minutes, a share 0 to 1, working days. */
  readonly is?: "minutes" | "share" | "days";
  /** What a value in minor units is in. */
  readonly money?: (row: T) => Money;
  /** What is said in words, where the value only sorts. */
  readonly says?: (row: T) => string | null;
  /** Long text that may run over several lines. */
  readonly wraps?: boolean;
  /** Left out until chosen. */
  readonly hidden?: boolean;
  /** Holds what is done with a row and says nothing: neither sorted, copied nor put away. */
  readonly tool?: boolean;
  /** What stands below the column, and below each group, for the rows shown. */
  readonly total?: (rows: readonly T[]) => ReactNode;
}
