import type { ImportAnswers, ImportProblem } from "@chronometra/contract";
import type { Calendar, Person } from "@chronometra/core";
import { columnLetters } from "../sheets/cells.ts";
import type { MatchedSheet } from "../match/matchSheets.ts";
import { cellProblem, type ReadRow } from "../match/readTables.ts";

/** What the installation knows and a file may speak of. */
export interface KnownRows {
  readonly people: readonly Person[];
  readonly calendars: readonly Calendar[];
  /** In which money people's rates are kept. */
  readonly house: { readonly currency: string; readonly minorDigits: number };
  /** The day on which the file is looked at, `YYYY-MM-DD`. */
  readonly today: string;
}

/** Minutes of a day of work and of lags where no calendar says otherwise. */
export const DAY = 480;

/** An ordinary sheet of activities while sense is made of it. */
export interface Sense {
  readonly rows: readonly ReadRow[];
  /** The id of each row. */
  readonly ids: readonly string[];
  readonly sheets: readonly MatchedSheet[];
  readonly answers: ImportAnswers;
  readonly known: KnownRows;
  /** Whether a row is a branch: others lie below it, or it says so. */
  readonly isBranch: (row: number) => boolean;
  /** What cannot be. */
  readonly problems: ImportProblem[];
  /** What was supplied, or deserves a look. */
  readonly notices: ImportProblem[];
}

/** The sheet that a row stands in, and the position of one of our columns there (-1 where there is none). */
export function placeIn(
  sense: Pick<Sense, "sheets">,
  row: ReadRow,
  column: string,
): { sheet: MatchedSheet; at: number } {
  const sheet = sense.sheets.find(({ source, table }) => source.name === row.sheet && table === "activities")!;
  return { sheet, at: sheet.columns.indexOf(column) };
}

/** Where the cell of a column stands that a row has, as in `Plan!C5`. */
export function placeOfCell(sense: Pick<Sense, "sheets">, row: ReadRow, column: string): string {
  const { at } = placeIn(sense, row, column);
  return at < 0 ? `${row.sheet} row ${row.line}` : `${row.sheet}!${columnLetters(at)}${row.line}`;
}

/** Tells what stands against the cell of a column. */
export function against(sense: Sense, i: number, column: string, message: string): void {
  const row = sense.rows[i]!;
  const { sheet, at } = placeIn(sense, row, column);
  sense.problems.push(
    cellProblem(sheet, Math.max(0, at), row.line, { table: "activities", row: sense.ids[i]!, field: column, message }),
  );
}

/** Tells what was supplied or deserves a look. */
export function note(sense: Sense, field: string, message: string, place = ""): void {
  sense.notices.push({ table: "activities", row: "", field, place, level: "notice", message });
}
