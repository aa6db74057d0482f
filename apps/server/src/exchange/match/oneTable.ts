import { Failure } from "../../shared/failure.ts";
import type { Cell, SourceSheet } from "../sheets/cells.ts";
import { shownOf } from "../sheets/readCells.ts";

/** A cell as whoever brought it sees it, without the spaces around it; empty where it is. */
export const textOf = (cell: Cell | undefined): string =>
  cell === null || cell === undefined ? "" : shownOf(cell).trim();

/** A table with its headings. */
export interface OneTable {
  readonly headings: readonly string[];
  readonly rows: readonly (readonly Cell[])[];
  /** Number of the first row of lines in the file, counted from 1. */
  readonly firstRow: number;
  /** Numbers of the rows in the file; tables that were kept before had none. */
  readonly numbers?: readonly number[];
}

/** The number of a row in the file, as a spreadsheet shows it. */
export const rowNumber = ({ firstRow, numbers }: OneTable, i: number): number => numbers?.[i] ?? firstRow + i;

/**
 * The table of the first sheet that has anything: its headings stand in the first row with two texts or more.
 * @throws {Failure} where there is no such row
 */
export function tableOf(sheets: readonly SourceSheet[]): OneTable {
  const sheet = sheets.find(({ rows }) => rows.some((row) => row.some((cell) => cell !== null)));
  const at =
    sheet === undefined
      ? -1
      : sheet.rows.findIndex((row) => row.filter((cell) => typeof cell === "string").length >= 2);
  if (sheet === undefined || at < 0)
    throw new Failure("invalid", "No row of headings was found: the file needs a first row that names its columns.");
  const filled = [...sheet.rows.entries()].slice(at + 1).filter(([, row]) => row.some((cell) => cell !== null));
  return {
    headings: sheet.rows[at]!.map(textOf),
    rows: filled.map(([, row]) => row),
    firstRow: at + 2,
    numbers: filled.map(([i]) => i + 1),
  };
}
