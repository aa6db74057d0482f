import { OWN_COLUMN, type ImportAnswers, type SheetView } from "@chronometra/contract";
import { columnsOf, SHEET_NAMES, type SheetName } from "../sheets/columns.ts";
import { daysAsList } from "./daysAcross.ts";
import { columnByCells, looksLikeOutline } from "./guessColumn.ts";
import { COLUMN_WORDS, KEYWORDS, SYNONYMS } from "./headingWords.ts";
import { shownOf } from "../sheets/readCells.ts";
import type { Cell, SourceSheet } from "../sheets/cells.ts";
import { leftOutOf, mended } from "./tidy.ts";

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
  /** Heading by position. */
  readonly headings: readonly string[];
  /** What every row says that says nothing else, by column. */
  readonly fixed: Readonly<Record<string, string>>;
  /** Lines (1 the first) that are no rows of the table. */
  readonly leftOut: ReadonlySet<number>;
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
  // Where as much speaks for either, it is a plan.
  const scored = SHEET_NAMES.map((name) => ({
    name,
    count: findHeadings(name, source.rows).count + (name === "activities" ? 0.5 : 0),
  })).sort((a, b) => b.count - a.count);
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
  return filled.map((brought) => {
    const source = daysAsList(brought) ?? brought;
    const answer = answers.sheets?.[source.name];
    const table =
      answer?.table === ""
        ? null
        : isTable(answer?.table)
          ? answer.table
          : source === brought
            ? guessTable(source, filled.length === 1)
            : "timeEntries";
    return table === null ? leftOut(source) : matchColumns(source, table, answer, known[table] ?? {});
  });
}

function leftOut(source: SourceSheet): MatchedSheet {
  return {
    source,
    table: null,
    headingRow: -1,
    columns: [],
    headings: [],
    fixed: {},
    leftOut: new Set(),
    view: {
      name: source.name,
      table: null,
      headingRow: null,
      rows: source.rows.length,
      headings: [],
      missing: [],
      leftOut: [],
    },
  };
}

type Guess = SheetView["headings"][number]["guessed"];
type Matched = { readonly column: string | null; readonly guessed: Guess };

/** The column that each heading is taken for: by hand and by its own name first, then by words in it, then by the cells. */
function matchAll(
  table: SheetName,
  headings: readonly string[],
  below: (column: number) => readonly (Cell | undefined)[],
  byHand: Readonly<Record<string, string>>,
  known: Readonly<Record<string, string>>,
): Matched[] {
  const taken = new Set<string>();
  const found: Matched[] = headings.map(() => ({ column: null, guessed: "none" }));
  const take = (c: number, column: string | null, guessed: Guess): void => {
    if (column === null || (taken.has(column) && column !== OWN_COLUMN)) return;
    taken.add(column);
    found[c] = { column, guessed };
  };
  headings.forEach((heading, c) => {
    if (heading === "") return;
    const match = matchHeading(table, heading, byHand, known);
    if (match.guessed === "byHand") {
      found[c] = { column: null, guessed: "byHand" };
      take(c, match.column, "byHand");
    } else take(c, match.column, match.guessed);
  });
  if (table !== "activities") return found;
  const open = (c: number): boolean => headings[c] !== "" && found[c]!.guessed === "none";
  headings.forEach((heading, c) => {
    if (!open(c)) return;
    const words = heading.toLowerCase();
    take(c, KEYWORDS.find(([column, test]) => !taken.has(column) && test.test(words))?.[0] ?? null, "words");
  });
  headings.forEach((_heading, c) => {
    if (open(c)) take(c, columnByCells(below(c), taken), "cells");
  });
  return meantTogether(found, below);
}

/** What columns mean beside each other: numbers with points in them are an outline, hours alone a length. */
function meantTogether(found: Matched[], below: (column: number) => readonly (Cell | undefined)[]): Matched[] {
  const has = (column: string): boolean => found.some((each) => each.column === column);
  const isLong = has("durationDays") || has("durationMinutes") || has("durationHours");
  return found.map((each, c): Matched => {
    if (each.guessed === "byHand" || each.guessed === "remembered") return each;
    if (each.column === "id" && !has("parent") && !has("outline") && looksLikeOutline(below(c)))
      return { column: "outline", guessed: "cells" };
    if (each.column === "plannedHours" && !isLong && !(has("start") && has("finish")))
      return { ...each, column: "durationHours" };
    return each;
  });
}

function matchColumns(
  brought: SourceSheet,
  table: SheetName,
  answer: NonNullable<ImportAnswers["sheets"]>[string] | undefined,
  known: Readonly<Record<string, string>>,
): MatchedSheet {
  const found = findHeadings(table, brought.rows);
  const headingRow = found.count > 0 ? found.row : likelyHeadings(brought.rows);
  const headings = (headingRow < 0 ? [] : (brought.rows[headingRow] ?? [])).map(textOf);
  const source = mended(brought, headingRow, headings, answer);
  const below = (column: number): (Cell | undefined)[] => source.rows.slice(headingRow + 1).map((row) => row[column]);
  const matched = matchAll(table, headings, below, answer?.columns ?? {}, known);
  const columns = matched.map(({ column }) => column);
  const rows = Math.max(0, source.rows.length - headingRow - 1);
  const isLoose = table === "activities" && headingRow >= 0;
  const left = isLoose
    ? leftOutOf(source, headingRow, columns, answer?.turned ?? [])
    : { lines: new Set<number>(), told: [] };
  return {
    source,
    table,
    headingRow,
    columns,
    headings,
    fixed: answer?.fixed ?? {},
    leftOut: left.lines,
    view: {
      name: source.name,
      table,
      headingRow: headingRow < 0 ? null : headingRow + 1,
      rows,
      headings: headings.flatMap((heading, c) =>
        heading === "" ? [] : [{ heading, ...matched[c]!, sample: samples(source.rows, headingRow, c, left.lines) }],
      ),
      missing: missingIn(table, columns, answer?.fixed ?? {}),
      leftOut: left.told,
    },
  };
}

/** What hours have to say, where a sheet has no column for it. */
function missingIn(table: SheetName, columns: readonly (string | null)[], fixed: Readonly<Record<string, string>>) {
  if (table !== "timeEntries") return [];
  return ["person", "activity"]
    .filter((column) => !columns.includes(column))
    .map((column) => ({ column, words: COLUMN_WORDS.timeEntries[column]!, said: fixed[column] ?? "" }));
}

function matchHeading(
  table: SheetName,
  heading: string,
  byHand: Readonly<Record<string, string>>,
  known: Readonly<Record<string, string>>,
) {
  const has = (column: string | undefined): column is string =>
    column !== undefined &&
    (Object.hasOwn(columnsOf(table), column) || (column === OWN_COLUMN && table === "activities"));
  if (Object.hasOwn(byHand, heading))
    return { column: has(byHand[heading]) ? byHand[heading] : null, guessed: "byHand" as const };
  const remembered = Object.hasOwn(known, plainHeading(heading)) ? known[plainHeading(heading)] : undefined;
  if (has(remembered)) return { column: remembered, guessed: "remembered" as const };
  return { column: ourColumn(table, heading), guessed: "same" as const };
}

const samples = (rows: readonly Cell[][], headingRow: number, column: number, leftOut: ReadonlySet<number>): string[] =>
  rows
    .slice(headingRow + 1, headingRow + 30)
    .flatMap((row, i) => {
      if (leftOut.has(headingRow + 2 + i)) return [];
      const cell = row[column];
      return cell === null || cell === undefined ? [] : [shownOf(cell).trim()];
    })
    .slice(0, SAMPLES);
