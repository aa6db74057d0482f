import type { Gone } from "../../engine/session/sessionState.ts";
import type { SheetRow } from "../../engine/sheet.ts";
import type { SheetColumn } from "../../engine/sheetColumn.ts";
import type { Key } from "./useHeldKeys.ts";

/** What is chosen: rows, those of them that are there now in their order, and columns. */
export interface Chosen {
  readonly rows: readonly SheetRow[];
  readonly left: number;
  readonly right: number;
}

/** What a grid works on, and whom it asks. */
export interface GridOptions {
  readonly rows: readonly SheetRow[];
  /** The row that stands for one that is folded away or left out of sight; `null` where it is not in the plan. */
  readonly standsFor: (id: string) => string | null;
  /** Rows that others took out. */
  readonly gone: ReadonlyMap<string, Gone>;
  readonly columns: readonly SheetColumn[];
  readonly page: number;
  readonly mayEdit: boolean;
  /** The text of a cell, for going to the end of what is filled. */
  readonly textAt: (row: SheetRow, column: SheetColumn) => string;
  /** Takes what was typed; gives why it cannot be, or nothing, at once or once the plan has been asked. */
  readonly onCommit: (row: SheetRow, column: SheetColumn, text: string) => Promise<string | null> | string | null;
  /** Keys that mean more than moving: gives whether it took one. */
  readonly onCommand: (key: Key, chosen: Chosen) => boolean;
  /** Enter was pressed in the last row. */
  readonly onPastEnd: (row: SheetRow, column: SheetColumn) => void;
  /** Typing was given up in a row that was made for it. */
  readonly onFreshLeft: (id: string) => void;
}
