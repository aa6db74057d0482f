import type { DateOrder, ImportProblem, NumberStyle } from "@chronometra/contract";
import { DATE_ORDERS, OWN_COLUMN } from "@chronometra/contract";
import { columnsOf, NUMBERS_SAY, type CellKind, type SheetName } from "../sheets/columns.ts";
import type { MatchedSheet } from "./matchSheets.ts";
import { styleOfColumn, type ColumnStyle } from "../sheets/numbers.ts";
import { refIn, type Cell } from "../sheets/cells.ts";
import { dateInOrder, dependsOnOrder, readCell, shownOf, soleOrder } from "../sheets/readCells.ts";

/** A row as it was read, before its shape is checked. */
export type Loose = Record<string, unknown>;

/** A row without some of its fields. */
export const without = (fields: Loose, names: readonly string[]): Loose =>
  Object.fromEntries(Object.entries(fields).filter(([name]) => !names.includes(name)));

/** A row as read, and where it stands. */
export interface ReadRow {
  readonly fields: Loose;
  /** 1 for the sheet's first row. */
  readonly line: number;
  readonly sheet: string;
  readonly indent: number;
  /** How deep it is grouped below others in the file. */
  readonly level: number;
  /** What it says in columns that become fields of one's own, by their headings. */
  readonly own: Readonly<Record<string, Exclude<Cell, null>>>;
}

/** The rows of each sheet that was recognised. */
export type ReadTables = Map<SheetName, ReadRow[]>;

const isDateKind = (kind: CellKind | undefined): boolean =>
  kind === "date" || kind === "instant" || kind === "dateOrInstant";

/** The orders in which all dates of the file can be read; those that leave no doubt are not asked about. */
export function dateOrders(sheets: readonly MatchedSheet[]): { sample: string; orders: DateOrder[] } | null {
  let orders: DateOrder[] = [...DATE_ORDERS];
  let sample: string | null = null;
  for (const { source, table, headingRow, columns } of sheets) {
    if (table === null) continue;
    const dated = columns.flatMap((column, c) =>
      column !== null && isDateKind(columnsOf(table)[column]?.kind) ? [c] : [],
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

const NUMBER_KINDS: ReadonlySet<CellKind> = new Set<CellKind>([
  "int",
  "number",
  "minutes",
  "hours",
  "days",
  "length",
  "percent",
  "money",
]);
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
      const kind = column === null ? undefined : columnsOf(table)[column]?.kind;
      if (kind === undefined) return;
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
    const shares = sharesIn(sheet, table, numbers);
    sheet.source.rows.forEach((cells, i) => {
      if (i <= sheet.headingRow || sheet.leftOut.has(i + 1) || cells.every((cell) => cell === null)) return;
      rows.push(readRow(sheet, table, cells, i, { order, found: numbers, shares }, problems));
    });
  }
  return { tables, problems };
}

/** Columns of percentages that count in shares of 1: `0.5` for a half. What is written here counts to 100. */
function sharesIn(
  { source, headingRow, columns }: MatchedSheet,
  table: SheetName,
  { ours }: NumbersFound,
): Set<number> {
  const found = new Set<number>();
  if (ours) return found;
  columns.forEach((column, c) => {
    if (column === null || columnsOf(table)[column]?.kind !== "percent") return;
    const numbers = source.rows
      .slice(headingRow + 1)
      .map((row) => row[c])
      .flatMap((cell) => (typeof cell === "number" ? [cell] : typeof cell === "string" ? plainShare(cell) : []));
    if (numbers.some((value) => value > 0) && numbers.every((value) => value >= 0 && value <= 1)) found.add(c);
  });
  return found;
}

const plainShare = (text: string): number[] => {
  const value = Number(text.trim().replace(",", "."));
  return text.trim() === "" || Number.isNaN(value) ? [] : [value];
};

const said = (cell: Cell | undefined): string => (cell === null || cell === undefined ? "" : shownOf(cell).trim());

const counted = new WeakMap<MatchedSheet, Map<number, Map<string, number>>>();

/** How often each text stands in a column, counted once. */
function countsIn(sheet: MatchedSheet, column: number): ReadonlyMap<string, number> {
  const columns = counted.get(sheet) ?? new Map<number, Map<string, number>>();
  counted.set(sheet, columns);
  const known = columns.get(column);
  if (known !== undefined) return known;
  const counts = new Map<string, number>();
  for (const row of sheet.source.rows.slice(sheet.headingRow + 1)) {
    const text = said(row[column]);
    counts.set(text, (counts.get(text) ?? 0) + 1);
  }
  columns.set(column, counts);
  return counts;
}

/** A problem with what a cell says, and what is needed to mend it on the page. */
export function cellProblem(
  sheet: MatchedSheet,
  column: number,
  line: number,
  problem: Pick<ImportProblem, "table" | "row" | "field" | "message">,
): ImportProblem {
  const { source, headings } = sheet;
  const ref = refIn(source, column, line);
  const text = said(source.rows[line - 1]?.[column]);
  const alike = countsIn(sheet, column).get(text) ?? 1;
  return {
    ...problem,
    place: `${source.name}!${ref}`,
    level: "error",
    cell: { sheet: source.name, ref, heading: headings[column] ?? "", text, alike },
  };
}

function readRow(
  sheet: MatchedSheet,
  table: SheetName,
  cells: readonly Cell[],
  i: number,
  { order, found, shares }: { order: DateOrder | undefined; found: NumbersFound; shares: ReadonlySet<number> },
  problems: ImportProblem[],
): ReadRow {
  const fields: Loose = {};
  const own: Record<string, Exclude<Cell, null>> = {};
  const line = i + 1;
  const specs = columnsOf(table);
  sheet.columns.forEach((column, c) => {
    const cell = cells[c];
    if (column === null || cell === null || cell === undefined) return;
    if (column === OWN_COLUMN) return void (own[sheet.headings[c]!] = cell);
    const how = { order, numbers: found.styleAt(sheet, c), exact: found.ours, shares: shares.has(c) };
    const reading = readCell(cell, specs[column]!.kind, how);
    if ("value" in reading) fields[column] = reading.value;
    else
      problems.push(
        cellProblem(sheet, c, line, { table, row: rowName(fields, line), field: column, message: reading.fault }),
      );
  });
  for (const [column, text] of Object.entries(sheet.fixed)) fields[column] ??= text;
  const { indents, levels } = sheet.source;
  return { fields, own, line, sheet: sheet.source.name, indent: indents[i] ?? 0, level: levels?.[i] ?? 0 };
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
