import type { ImportAnswers, ImportProblem } from "@chronometra/contract";
import { MADE_FROM, NUMBERS_SAY, type SheetName } from "./sheets/columns.ts";
import { STANDARD_DAY_MINUTES } from "./sheets/readCells.ts";
import { type Loose, type ReadRow, type ReadTables, nest } from "./sheets/readTables.ts";

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
