import type { DateOrder, ImportProblem, NumberStyle } from "@chronometra/contract";
import { DATE_ORDERS } from "@chronometra/contract";
import { columnsOf, NUMBERS_SAY, type CellKind, type SheetName } from "./columns.ts";
import type { MatchedSheet } from "./matchSheets.ts";
import { styleOfColumn, type ColumnStyle } from "./numbers.ts";
import { dateInOrder, dependsOnOrder, readCell, soleOrder } from "./readCells.ts";
import type { Cell } from "./cells.ts";

/** A row as it was read, before its shape is checked. */
export type Loose = Record<string, unknown>;

/** A row as read, and where it stands. */
export interface ReadRow {
  readonly fields: Loose;
  /** 1 for the sheet's first row. */
  readonly line: number;
  readonly sheet: string;
  readonly indent: number;
}

/** The rows of each sheet that was recognised. */
export type ReadTables = Map<SheetName, ReadRow[]>;

/** A column's letters as a spreadsheet shows them, 0 for A. */
export function columnLetters(index: number): string {
  let letters = "";
  for (let at = index; at >= 0; at = Math.floor(at / 26) - 1) letters = String.fromCharCode(65 + (at % 26)) + letters;
  return letters;
}

const isDateKind = (kind: string): boolean => kind === "date" || kind === "instant" || kind === "dateOrInstant";

/** The orders in which all dates of the file can be read; those that leave no doubt are not asked about. */
export function dateOrders(sheets: readonly MatchedSheet[]): { sample: string; orders: DateOrder[] } | null {
  let orders: DateOrder[] = [...DATE_ORDERS];
  let sample: string | null = null;
  for (const { source, table, headingRow, columns } of sheets) {
    if (table === null) continue;
    const dated = columns.flatMap((column, c) =>
      column !== null && isDateKind(columnsOf(table)[column]!.kind) ? [c] : [],
    );
    for (const row of source.rows.slice(headingRow + 1)) {
      for (const c of dated) {
        const cell = row[c];
        if (typeof cell !== "string") continue;
        const text = cell.trim().replace(/[T\s]+\d{1,2}:\d{2}(:\d{2})?$/, "");
        if (!dependsOnOrder(text)) continue;
        const able = orders.filter((order) => dateInOrder(text, order) !== null);
        if (able.length > 0) orders = able;
        if (soleOrder(text) === null) sample ??= text;
      }
    }
  }
  return sample === null ? null : { sample, orders };
}

const NUMBER_KINDS: ReadonlySet<CellKind> = new Set(["int", "number", "minutes", "hours", "days"]);
const WHOLE_KINDS: ReadonlySet<CellKind> = new Set(["int", "minutes"]);

/** How each column of the sheets writes numbers, and one that can be read two ways where nothing tells which. */
interface NumbersFound {
  readonly styleAt: (sheet: MatchedSheet, column: number) => ColumnStyle["style"];
  /** Whether the file was written here, and so means every sign of its texts. */
  readonly ours: boolean;
  readonly sample: string | null;
}

/**
 * How numbers are written: in each column by those that leave no doubt; else as the file itself says, or as was
 * answered. What is written here says it by a number that travels with it.
 */
export function numbersIn(sheets: readonly MatchedSheet[], answered: NumberStyle | undefined): NumbersFound {
  const styles = new Map<MatchedSheet, Map<number, ColumnStyle>>();
  let says: NumberStyle | null = null;
  let ours = false;
  for (const sheet of sheets) {
    const { source, table, headingRow, columns } = sheet;
    const own = new Map<number, ColumnStyle>();
    styles.set(sheet, own);
    if (table === null) continue;
    columns.forEach((column, c) => {
      if (column === null) return;
      const { kind } = columnsOf(table)[column]!;
      if (!NUMBER_KINDS.has(kind)) return;
      const cells = source.rows.slice(headingRow + 1).map((row) => row[c]);
      const style = styleOfColumn(cells, WHOLE_KINDS.has(kind));
      own.set(c, style);
      if (table !== "project" || column !== NUMBERS_SAY || !cells.some((cell) => cell !== null && cell !== undefined))
        return;
      ours = true;
      if (style.style !== null && style.style !== "mixed") says = style.style;
    });
  }
  const open = [...styles.values()].flatMap((own) => [...own.values()]).filter(({ style }) => style === null);
  const sample = says === null ? (open.find(({ doubtful }) => doubtful !== null)?.doubtful ?? null) : null;
  return {
    styleAt: (sheet, column) => styles.get(sheet)?.get(column)?.style ?? says ?? answered ?? null,
    ours,
    sample,
  };
}

/** Reads all cells of the sheets that were matched; what cannot be read is told with its cell. */
export function readTables(
  sheets: readonly MatchedSheet[],
  order: DateOrder | undefined,
  numbers: NumbersFound,
): { tables: ReadTables; problems: ImportProblem[] } {
  const tables: ReadTables = new Map();
  const problems: ImportProblem[] = [];
  for (const sheet of sheets) {
    const { table } = sheet;
    if (table === null) continue;
    const rows = tables.get(table) ?? [];
    tables.set(table, rows);
    sheet.source.rows.forEach((cells, i) => {
      if (i <= sheet.headingRow || cells.every((cell) => cell === null)) return;
      rows.push(readRow(sheet, table, cells, i, { order, found: numbers }, problems));
    });
  }
  return { tables, problems };
}

function readRow(
  sheet: MatchedSheet,
  table: SheetName,
  cells: readonly Cell[],
  i: number,
  { order, found }: { order: DateOrder | undefined; found: NumbersFound },
  problems: ImportProblem[],
): ReadRow {
  const fields: Loose = {};
  const line = i + 1;
  const specs = columnsOf(table);
  sheet.columns.forEach((column, c) => {
    const cell = cells[c];
    if (column === null || cell === null || cell === undefined) return;
    const reading = readCell(cell, specs[column]!.kind, { order, numbers: found.styleAt(sheet, c), exact: found.ours });
    if ("value" in reading) fields[column] = reading.value;
    else {
      const place = `${sheet.source.name}!${columnLetters(c)}${line}`;
      problems.push({
        table,
        row: rowName(fields, line),
        field: column,
        message: reading.fault,
        place,
        level: "error",
      });
    }
  });
  return { fields, line, sheet: sheet.source.name, indent: sheet.source.indents[i] ?? 0 };
}

const rowName = (fields: Loose, line: number): string =>
  typeof fields["id"] === "string" ? fields["id"] : `row ${line}`;

/** `wish.type` and its like put back into objects. */
export function nest(fields: Loose): Loose {
  const nested: Loose = {};
  for (const [column, value] of Object.entries(fields)) {
    const [outer, inner] = column.split(".") as [string, string?];
    if (inner === undefined) nested[outer] = value;
    else nested[outer] = { ...(nested[outer] as Loose | undefined), [inner]: value };
  }
  return nested;
}
