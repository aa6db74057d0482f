import type { Change } from "@chronometra/core";
import type { SheetRow } from "../engine/sheet.ts";
import type { Reading, SheetColumn } from "./sheetColumn.ts";

/** A cell that holds what was looked for. */
export interface Found {
  readonly row: number;
  readonly column: number;
}

/** Cells in reading order whose text has what is looked for, capitals or not. */
export function findCells(rows: readonly SheetRow[], columns: readonly SheetColumn[], text: string, reading: Reading): Found[] {
  const wanted = text.toLowerCase();
  if (wanted === "") return [];
  return rows.flatMap((each, row) => columns.flatMap((column, at) => (column.text(each, reading).toLowerCase().includes(wanted) ? [{ row, column: at }] : [])));
}

/** A text with what was looked for replaced wherever it stands, capitals or not; what replaces it stands as it is typed. */
export const replacedIn = (text: string, find: string, by: string): string => text.replace(new RegExp(find.replace(/[.*+?^${}()|[\]\\]/g, "\\$&"), "gi"), () => by);

/** What replacing in cells comes to; with one fault nothing is changed. */
export interface Replaced {
  readonly changes: Change[];
  readonly asked: { readonly activity: string; readonly text: string; readonly what: "links" | "people" }[];
  readonly faults: string[];
  /** How many cells are written. */
  readonly cells: number;
}

/** Replaces in those of some cells that can be typed into; computed ones and closed ones stay. */
export function replaceCells(cells: readonly Found[], rows: readonly SheetRow[], columns: readonly SheetColumn[], find: string, by: string, reading: Reading): Replaced {
  const done: Replaced & { cells: number } = { changes: [], asked: [], faults: [], cells: 0 };
  for (const cell of cells) {
    const row = rows[cell.row]!;
    const column = columns[cell.column]!;
    if (column.edit === undefined || column.closed?.(row) != null) continue;
    const was = column.edit(row);
    const will = replacedIn(was, find, by);
    if (will === was) continue;
    if (column.asks !== undefined) done.asked.push({ activity: row.id, text: will, what: column.asks });
    else {
      const typed = column.read!(will, row, reading);
      if ("fault" in typed) done.faults.push(`${column.head} of “${row.name}”: ${typed.fault}`);
      else done.changes.push(...typed.changes);
    }
    done.cells++;
  }
  return done;
}
