import type { ImportAnswers, SheetView } from "@chronometra/contract";
import { columnsOf, SHEET_NAMES, SYNONYMS, type SheetName } from "./columns.ts";
import { shownOf } from "./readCells.ts";
import type { Cell, SourceSheet } from "./cells.ts";

/** Headings matched by hand before, by table and heading. */
export type KnownHeadings = Readonly<Record<string, Readonly<Record<string, string>>>>;

/** A sheet with the table it is taken for and the column each of its own is taken for. */
export interface MatchedSheet {
  readonly source: SourceSheet;
  readonly table: SheetName | null;
  /** Position of the heading row; -1 where none was found. */
  readonly headingRow: number;
  /** Column of ours by position; null where it is left out. */
  readonly columns: readonly (string | null)[];
  readonly view: SheetView;
}

const HEADING_ROWS_TRIED = 25;
const SAMPLES = 3;

/** A heading as it is compared: lower case, letters and digits only. */
export const plainHeading = (text: string): string => text.toLowerCase().replace(/[^\p{L}\p{N}.]/gu, "");

function ourColumn(table: SheetName, heading: string): string | null {
  const plain = plainHeading(heading);
  if (plain === "") return null;
  const own = Object.keys(columnsOf(table)).find((column) => plainHeading(column) === plain);
  if (own !== undefined) return own;
  return Object.entries(SYNONYMS[table] ?? {}).find(([, words]) => words.includes(plain))?.[0] ?? null;
}

const textOf = (cell: Cell | undefined): string =>
  typeof cell === "string" ? cell.trim() : typeof cell === "number" ? String(cell) : "";

const recognised = (table: SheetName, row: readonly Cell[]): number =>
  new Set(row.map((cell) => ourColumn(table, textOf(cell))).filter((column) => column !== null)).size;

/** The row, among the first ones, in which most headings of a table stand. */
function findHeadings(table: SheetName, rows: readonly Cell[][]): { row: number; count: number } {
  let best = { row: -1, count: 0 };
  rows.slice(0, HEADING_ROWS_TRIED).forEach((row, i) => {
    const count = recognised(table, row);
    if (count > best.count) best = { row: i, count };
  });
  return best;
}

/** Where no heading is known: the first row with several texts in it. */
function likelyHeadings(rows: readonly Cell[][]): number {
  return rows
    .slice(0, HEADING_ROWS_TRIED)
    .findIndex((row) => row.filter((cell) => typeof cell === "string").length >= 2);
}

function guessTable(source: SourceSheet, alone: boolean): SheetName | null {
  const byName = SHEET_NAMES.find((name) => plainHeading(name) === plainHeading(source.name));
  if (byName !== undefined) return byName;
  if (alone) return "activities";
  const scored = SHEET_NAMES.map((name) => ({ name, count: findHeadings(name, source.rows).count })).sort(
    (a, b) => b.count - a.count,
  );
  const best = scored[0]!;
  return best.count >= 2 ? best.name : null;
}

const isTable = (name: string | undefined): name is SheetName =>
  name !== undefined && (SHEET_NAMES as string[]).includes(name);

/** Takes each sheet for one of our tables, and each of its columns for one of ours. */
export function matchSheets(
  sheets: readonly SourceSheet[],
  answers: ImportAnswers,
  known: KnownHeadings,
): MatchedSheet[] {
  const filled = sheets.filter(({ rows }) => rows.some((row) => row.some((cell) => cell !== null)));
  return filled.map((source) => {
    const answer = answers.sheets?.[source.name];
    const table =
      answer?.table === "" ? null : isTable(answer?.table) ? answer.table : guessTable(source, filled.length === 1);
    return table === null ? leftOut(source) : matchColumns(source, table, answer?.columns ?? {}, known[table] ?? {});
  });
}

function leftOut(source: SourceSheet): MatchedSheet {
  return {
    source,
    table: null,
    headingRow: -1,
    columns: [],
    view: { name: source.name, table: null, headingRow: null, rows: source.rows.length, headings: [] },
  };
}

function matchColumns(
  source: SourceSheet,
  table: SheetName,
  byHand: Readonly<Record<string, string>>,
  known: Readonly<Record<string, string>>,
): MatchedSheet {
  const found = findHeadings(table, source.rows);
  const headingRow = found.count > 0 ? found.row : likelyHeadings(source.rows);
  const cells = headingRow < 0 ? [] : (source.rows[headingRow] ?? []);
  const taken = new Set<string>();
  const headings: SheetView["headings"] = [];
  const columns = cells.map((cell, c) => {
    const heading = textOf(cell);
    if (heading === "") return null;
    const match = matchHeading(table, heading, byHand, known);
    const column = match.column !== null && !taken.has(match.column) ? match.column : null;
    if (column !== null) taken.add(column);
    headings.push({
      heading,
      column,
      guessed: column === null ? "none" : match.guessed,
      sample: samples(source.rows, headingRow, c),
    });
    return column;
  });
  const rows = Math.max(0, source.rows.length - headingRow - 1);
  return {
    source,
    table,
    headingRow,
    columns,
    view: { name: source.name, table, headingRow: headingRow < 0 ? null : headingRow + 1, rows, headings },
  };
}

function matchHeading(
  table: SheetName,
  heading: string,
  byHand: Readonly<Record<string, string>>,
  known: Readonly<Record<string, string>>,
) {
  const has = (column: string | undefined): column is string =>
    column !== undefined && Object.hasOwn(columnsOf(table), column);
  if (Object.hasOwn(byHand, heading))
    return { column: has(byHand[heading]) ? byHand[heading] : null, guessed: "byHand" as const };
  const remembered = Object.hasOwn(known, plainHeading(heading)) ? known[plainHeading(heading)] : undefined;
  if (has(remembered)) return { column: remembered, guessed: "remembered" as const };
  return { column: ourColumn(table, heading), guessed: "same" as const };
}

const samples = (rows: readonly Cell[][], headingRow: number, column: number): string[] =>
  rows
    .slice(headingRow + 1, headingRow + 30)
    .flatMap((row) => {
      const cell = row[column];
      return cell === null || cell === undefined ? [] : [shownOf(cell).trim()];
    })
    .slice(0, SAMPLES);
