import type { Baseline, Calendar, PlanBundle } from "@chronometra/core";
import { columnsOf, MADE_FROM, NUMBERS_SAY, SHEET_NAMES, type SheetName } from "./columns.ts";

export type OutCell = string | number | boolean | null;
export interface OutSheet {
  readonly name: SheetName;
  readonly columns: readonly string[];
  readonly rows: readonly OutCell[][];
}

type Loose = Record<string, unknown>;

const shiftsText = (shifts: readonly (readonly string[])[] | undefined): string | null =>
  shifts === undefined ? null : shifts.length === 0 ? "none" : shifts.map((shift) => shift.join("-")).join(", ");

const calendarRow = (calendar: Calendar): Loose => ({
  ...calendar,
  hasWeek: calendar.week !== undefined,
  ...Object.fromEntries(Object.entries(calendar.week ?? {}).map(([day, shifts]) => [day, shiftsText(shifts)])),
});

const exceptionRows = (calendar: Calendar): Loose[] =>
  (calendar.exceptions ?? []).map((exception) => ({
    ...exception,
    calendar: calendar.id,
    shifts: shiftsText(exception.shifts),
  }));

const ofBaselines = (bundle: PlanBundle, pick: (baseline: Baseline) => readonly Loose[]): Loose[] =>
  (bundle.baselines ?? []).flatMap((baseline) => pick(baseline).map((row) => ({ ...row, baseline: baseline.number })));

/** Rows of a sheet as loose objects, nested fields still nested. */
function looseRows(bundle: PlanBundle, sheet: SheetName, revision: number | null): Loose[] {
  switch (sheet) {
    case "project":
      return [{ ...bundle.project, [NUMBERS_SAY]: 1.5, ...(revision === null ? {} : { [MADE_FROM]: revision }) }];
    case "calendars":
      return bundle.calendars.map(calendarRow);
    case "calendarExceptions":
      return bundle.calendars.flatMap(exceptionRows);
    case "rates":
      return (bundle.people ?? []).flatMap((person) =>
        (person.rates ?? []).map((rate) => ({ ...rate, person: person.id })),
      );
    case "steps":
    case "stages":
      return bundle.activities.flatMap((activity) =>
        ((activity.credit?.[sheet] ?? []) as Loose[]).map((row) => ({ ...row, activity: activity.id })),
      );
    case "baselineActivities":
      return ofBaselines(bundle, (baseline) => baseline.activities);
    case "baselineCalendars":
      return ofBaselines(bundle, (baseline) => (baseline.calendars ?? []).map(calendarRow));
    case "baselineCalendarExceptions":
      return ofBaselines(bundle, (baseline) => (baseline.calendars ?? []).flatMap(exceptionRows));
    default:
      return bundle[sheet] ?? [];
  }
}

const cellAt = (row: Loose, column: string): OutCell => {
  const value = column.split(".").reduce<unknown>((at, key) => (at as Loose | undefined)?.[key], row);
  return value === undefined ? null : (value as OutCell);
};

/**
 * A bundle as tables, one a sheet; sheets without rows are left out, the project and activities apart.
 * @param revision of the plan it is made from, where it is to say so
 */
export function toSheets(bundle: PlanBundle, revision: number | null = null): OutSheet[] {
  return SHEET_NAMES.flatMap((name) => {
    const columns = Object.entries(columnsOf(name)).flatMap(([column, spec]) =>
      spec.readOnly === true ? [] : [column],
    );
    const rows = looseRows(bundle, name, revision).map((row) => columns.map((column) => cellAt(row, column)));
    return rows.length > 0 || name === "activities" ? [{ name, columns, rows }] : [];
  });
}

/** Text that a spreadsheet would run begins with one of these, behind any number of apostrophes. */
const RUNS = /^'*[=+\-@\t\r]/;

/** Text made harmless for a spreadsheet; {@link asBrought} is its way back. */
export const harmless = (text: string): string => (RUNS.test(text) ? `'${text}` : text);
/** The text as it was before {@link harmless}. */
export const asBrought = (text: string): string => (text.startsWith("'") && RUNS.test(text) ? text.slice(1) : text);
