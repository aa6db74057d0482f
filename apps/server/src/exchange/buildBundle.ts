import type { DateOrder, ImportAnswers, ImportProblem, NumberStyle } from "@chronometra/contract";
import { DATE_ORDERS } from "@chronometra/contract";
import { columnsOf, MADE_FROM, NUMBERS_SAY, type CellKind, type SheetName } from "./sheets/columns.ts";
import type { MatchedSheet } from "./sheets/matchSheets.ts";
import { styleOfColumn, type ColumnStyle } from "./sheets/numbers.ts";
import { dateInOrder, dependsOnOrder, readCell, soleOrder, STANDARD_DAY_MINUTES } from "./sheets/readCells.ts";
import type { Cell } from "./sheets/cells.ts";

type Loose = Record<string, unknown>;

/** A row as read, and where it stands. */
export interface ReadRow {
  readonly fields: Loose;
  /** 1 for the sheet's first row. */
  readonly line: number;
  readonly sheet: string;
  readonly indent: number;
}

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
export interface NumbersFound {
  readonly styleAt: (sheet: MatchedSheet, column: number) => ColumnStyle["style"];
  /** Whether the file was written here, and so means every sign of its texts. */
  readonly ours: boolean;
  readonly sample: string | null;
}

/**
 * How numbers are written: in each column by those that leave no doubt; else as the file itself says, or as was answered.
 * What is written here says it by a number that travels with it.
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
function nest(fields: Loose): Loose {
  const nested: Loose = {};
  for (const [column, value] of Object.entries(fields)) {
    const [outer, inner] = column.split(".") as [string, string?];
    if (inner === undefined) nested[outer] = value;
    else nested[outer] = { ...(nested[outer] as Loose | undefined), [inner]: value };
  }
  return nested;
}

const pick = (fields: Loose, names: readonly string[]): Loose =>
  Object.fromEntries(names.flatMap((name) => (fields[name] === undefined ? [] : [[name, fields[name]]])));
const without = (fields: Loose, names: readonly string[]): Loose =>
  Object.fromEntries(Object.entries(fields).filter(([name]) => !names.includes(name)));

const DAYS = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"];

const calendarOf = (fields: Loose, exceptions: readonly ReadRow[]): Loose => {
  const week = pick(fields, DAYS);
  const hasWeek = Object.keys(week).length > 0 || fields["hasWeek"] === true;
  return {
    ...pick(fields, ["id", "name", "base", "dayMinutes"]),
    ...(hasWeek ? { week } : {}),
    ...(exceptions.length === 0
      ? {}
      : {
          exceptions: exceptions.map((row) => ({ shifts: [], ...pick(row.fields, ["from", "to", "shifts", "label"]) })),
        }),
  };
};

const STANDARD_WEEK = Object.fromEntries(
  DAYS.slice(0, 5).map((day) => [
    day,
    [
      ["08:00", "12:00"],
      ["13:00", "17:00"],
    ],
  ]),
);

/** Tables put together as a bundle; not checked yet. `notices` says what was supplied where the file was silent. */
export function buildBundle(
  tables: ReadTables,
  answers: ImportAnswers,
  fileName: string,
): { bundle: Loose; rows: ReadTables; notices: ImportProblem[] } {
  const notices: ImportProblem[] = [];
  const rowsOf = (sheet: SheetName): ReadRow[] => tables.get(sheet) ?? [];
  const of = (rows: ReadRow[], column: string, value: unknown): ReadRow[] =>
    rows.filter((row) => row.fields[column] === value);
  const calendars = rowsOf("calendars").map((row) =>
    calendarOf(row.fields, of(rowsOf("calendarExceptions"), "calendar", row.fields["id"])),
  );
  if (calendars.length === 0) {
    calendars.push({ id: "standard", name: "Standard week", week: STANDARD_WEEK });
    notices.push({
      table: "calendars",
      row: "",
      field: "",
      place: "",
      level: "notice",
      message: "The file brings no calendar; Monday to Friday, 08:00-12:00 and 13:00-17:00, was taken.",
    });
  }
  const bundle: Loose = {
    format: "chronometra-plan",
    version: 1,
    project: projectOf(rowsOf("project")[0]?.fields, answers, fileName, String(calendars[0]!["id"])),
    calendars,
    people: rowsOf("people").map((row) =>
      withList(row.fields, "rates", of(rowsOf("rates"), "person", row.fields["id"]), ["from", "perHourMinor"]),
    ),
    activities: activitiesOf(
      rowsOf("activities"),
      rowsOf("steps"),
      rowsOf("stages"),
      notices,
      answers.changesTo === undefined ? "" : "added-",
    ),
    baselines: rowsOf("baselines").map((row) => baselineOf(row.fields, tables)),
  };
  for (const sheet of ["links", "assignments", "costs", "timeEntries", "actualCosts"] as const)
    bundle[sheet] = rowsOf(sheet).map((row) => row.fields);
  return { bundle, rows: tables, notices };
}

function withList(fields: Loose, name: string, rows: readonly ReadRow[], columns: readonly string[]): Loose {
  return rows.length === 0 ? fields : { ...fields, [name]: rows.map((row) => pick(row.fields, columns)) };
}

function projectOf(fields: Loose | undefined, answers: ImportAnswers, fileName: string, calendar: string): Loose {
  const said = Object.fromEntries(
    Object.entries(answers.project ?? {}).filter(([, value]) => value !== undefined && value !== ""),
  );
  const bare = fileName.replace(/\.[^.]*$/, "");
  const code =
    bare
      .replace(/[^\p{L}\p{N}]+/gu, "-")
      .slice(0, 20)
      .toUpperCase() || "PLAN";
  return { code, name: bare, currency: "EUR", calendar, ...without(fields ?? {}, [NUMBERS_SAY, MADE_FROM]), ...said };
}

function baselineOf(fields: Loose, tables: ReadTables): Loose {
  const own = (sheet: SheetName): ReadRow[] =>
    (tables.get(sheet) ?? []).filter((row) => row.fields["baseline"] === fields["number"]);
  const exceptions = own("baselineCalendarExceptions");
  const calendars = own("baselineCalendars").map((row) =>
    calendarOf(
      row.fields,
      exceptions.filter((e) => e.fields["calendar"] === row.fields["id"]),
    ),
  );
  return {
    ...fields,
    ...(calendars.length === 0 ? {} : { calendars }),
    activities: own("baselineActivities").map((row) => without(row.fields, ["baseline"])),
  };
}

/** Activities with ids, parents by indentation or outline level, and durations in minutes. */
function activitiesOf(
  rows: readonly ReadRow[],
  steps: readonly ReadRow[],
  stages: readonly ReadRow[],
  notices: ImportProblem[],
  prefix: string,
): Loose[] {
  const taken = new Set(rows.map((row) => row.fields["id"]).filter((id) => id !== undefined));
  const hasParents = rows.some((row) => row.fields["parent"] !== undefined);
  const ids = rows.map((row, i) => (row.fields["id"] as string | undefined) ?? freeId(taken, i, prefix));
  const parents = hasParents
    ? rows.map((row) => row.fields["parent"] as string | undefined)
    : parentsByDepth(rows.map(depthOf), ids);
  const isParent = new Set(parents);
  if (rows.some((row) => row.fields["id"] === undefined) && rows.length > 0) {
    notices.push({
      table: "activities",
      row: "",
      field: "id",
      place: "",
      level: "notice",
      message: "Rows without an id were numbered.",
    });
  }
  if (!hasParents && isParent.size > 1) {
    notices.push({
      table: "activities",
      row: "",
      field: "parent",
      place: "",
      level: "notice",
      message: "What lies below what was taken from the rows' indentation.",
    });
  }
  return rows.map((row, i) => {
    const id = ids[i]!;
    const nested = nest(without(row.fields, ["durationHours", "durationDays", "start", "level", "parent", "id"]));
    const parent = parents[i];
    const summary = nested["kind"] === undefined && isParent.has(id);
    return {
      id,
      ...nested,
      ...(parent === undefined ? {} : { parent }),
      ...(summary ? { kind: "summary" } : {}),
      ...(summary || nested["kind"] === "summary" ? {} : shorthand(row.fields, nested)),
      ...creditLists(nested, id, steps, stages),
    };
  });
}

/** @param prefix keeps new rows of a file that brings changes from taking the id of one it leaves out */
function freeId(taken: Set<unknown>, i: number, prefix: string): string {
  let number = i + 1;
  while (taken.has(`${prefix}${number}`)) number += 100_000;
  taken.add(`${prefix}${number}`);
  return `${prefix}${number}`;
}

const depthOf = (row: ReadRow): number => (row.fields["level"] as number | undefined) ?? row.indent;

/** The nearest row above that stands less deep. */
function parentsByDepth(depths: readonly number[], ids: readonly string[]): (string | undefined)[] {
  const open: { depth: number; id: string }[] = [];
  return depths.map((depth, i) => {
    while (open.length > 0 && open[open.length - 1]!.depth >= depth) open.pop();
    const parent = open[open.length - 1]?.id;
    open.push({ depth, id: ids[i]! });
    return parent;
  });
}

/** Durations in hours or days, of 0 a milestone, and a start as a date wish. */
function shorthand(fields: Loose, nested: Loose): Loose {
  const hours = fields["durationHours"] as number | undefined;
  const days = fields["durationDays"] as number | undefined;
  const minutes =
    (nested["durationMinutes"] as number | undefined) ??
    (hours !== undefined
      ? Math.round(hours * 60)
      : days !== undefined
        ? Math.round(days * STANDARD_DAY_MINUTES)
        : undefined);
  const start = fields["start"] as string | undefined;
  const wish =
    start !== undefined && nested["wish"] === undefined
      ? { wish: { type: "startNotBefore", date: start, reason: "start date of the imported file" } }
      : {};
  if (minutes === undefined) return wish;
  const typed = nested["durationMinutes"] !== undefined;
  return minutes === 0 && !typed && nested["kind"] === undefined
    ? { kind: "milestone", ...wish }
    : { durationMinutes: minutes, ...wish };
}

function creditLists(nested: Loose, id: string, steps: readonly ReadRow[], stages: readonly ReadRow[]): Loose {
  const own = (rows: readonly ReadRow[], columns: readonly string[]): Loose[] =>
    rows.filter((row) => row.fields["activity"] === id).map((row) => pick(row.fields, columns));
  const ownSteps = own(steps, ["name", "weight", "doneOn"]);
  const ownStages = own(stages, ["name", "credit"]);
  if (ownSteps.length === 0 && ownStages.length === 0) return {};
  return {
    credit: {
      ...(nested["credit"] as Loose | undefined),
      ...(ownSteps.length > 0 ? { steps: ownSteps } : {}),
      ...(ownStages.length > 0 ? { stages: ownStages } : {}),
    },
  };
}
