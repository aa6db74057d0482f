import type { Change } from "@chronometra/core";
import type { SheetRow } from "../../engine/sheet.ts";
import type { Reading, SheetColumn } from "../../engine/sheetColumn.ts";

/** A cell that holds what was looked for, by what it belongs to. */
export interface Found {
  readonly id: string;
  readonly column: string;
}

/** Cells in reading order whose text has what is looked for, capitals or not. */
export function findCells(
  rows: readonly SheetRow[],
  columns: readonly SheetColumn[],
  text: string,
  reading: Reading,
): Found[] {
  const wanted = text.toLowerCase();
  if (wanted === "") return [];
  return rows.flatMap((row) =>
    columns.flatMap((column) =>
      column.text(row, reading).toLowerCase().includes(wanted) ? [{ id: row.id, column: column.id }] : [],
    ),
  );
}

/**
 * A text with what was looked for replaced wherever it stands, capitals or not; what replaces it stands as it is typed.
 */
export const replacedIn = (text: string, find: string, by: string): string =>
  text.replace(new RegExp(find.replace(/[.*+?^${}()|[\]\\]/g, "\\$&"), "gi"), () => by);

/** What replacing in cells comes to; with one fault nothing is changed. */
export interface Replaced {
  readonly changes: Change[];
  readonly asked: { readonly activity: string; readonly text: string; readonly what: "links" | "people" }[];
  readonly faults: string[];
  /** How many cells are written. */
  readonly cells: number;
}

/** Replaces in those of some cells that can be typed into; computed ones and closed ones stay. */
export function replaceCells(
  cells: readonly Found[],
  rows: readonly SheetRow[],
  columns: readonly SheetColumn[],
  find: string,
  by: string,
  reading: Reading,
): Replaced {
  const done: Replaced & { cells: number } = { changes: [], asked: [], faults: [], cells: 0 };
  const byId = new Map(rows.map((row) => [row.id, row]));
  for (const cell of cells) {
    const row = byId.get(cell.id);
    const column = columns.find(({ id }) => id === cell.column);
    if (row === undefined || column?.edit === undefined || column.closed?.(row) != null) continue;
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
