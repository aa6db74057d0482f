import { mulDivRound } from "../budget/exact.ts";
import { minorUnits, NO_MONEY, plus, type MinorUnits } from "../budget/money.ts";
import type { Baseline, BaselineRow, PlanBundle } from "../plan/schema.ts";
import { compileCalendars, type CalendarSet } from "../plan/compileCalendars.ts";
import { remembered } from "../plan/derived/remembered.ts";
import { parseInstant, type LocalMinute, type WorkMinutes } from "../time/instant.ts";
import type { WorkCalendar } from "../time/workCalendar.ts";

/** A baseline to measure against: its rows and the calendars it was approved with. */
export type BaselineContent = Pick<Baseline, "activities" | "calendars">;

/** A baseline row made ready for planned value at any instant. */
export interface PlannedRow {
  readonly row: BaselineRow;
  readonly budget: MinorUnits;
  readonly startAt: LocalMinute;
  readonly finishAt: LocalMinute;
  readonly calendar: WorkCalendar;
  readonly startIndex: WorkMinutes;
  readonly finishIndex: WorkMinutes;
}

/**
 * The rows of a baseline that count: those of parked activities do not.
 * A row's calendar is sought among those of the baseline first, then among today's.
 */
export function plannedRows(
  plan: PlanBundle,
  baseline: BaselineContent,
  parked: ReadonlySet<string>,
): readonly PlannedRow[] {
  const { set } = compileCalendars(baseline.calendars, plan.calendars);
  const rows = allPlannedRows(baseline.activities)(set)(plan.project.calendar);
  return parked.size === 0 ? rows : rowsAwake(rows)(parked);
}

const rowsAwake = remembered((rows: readonly PlannedRow[]) =>
  remembered((parked: ReadonlySet<string>): readonly PlannedRow[] => rows.filter(({ row }) => !parked.has(row.id))),
);

/** Every row of a baseline; the last argument is the id of the calendar of rows that name none. */
const allPlannedRows = remembered((rows: readonly BaselineRow[]) =>
  remembered((calendars: CalendarSet) => {
    const known = new Map<string, readonly PlannedRow[]>();
    return (standard: string): readonly PlannedRow[] => {
      let planned = known.get(standard);
      if (planned === undefined)
        known.set(standard, (planned = rows.map((row) => plannedRow(row, calendars.get(row.calendar ?? standard)))));
      return planned;
    };
  }),
);

function plannedRow(row: BaselineRow, calendar: WorkCalendar): PlannedRow {
  const startAt = parseInstant(row.start)!;
  const finishAt = parseInstant(row.finish)!;
  return {
    row,
    budget: minorUnits(row.evenMinor + row.startMinor + row.finishMinor),
    startAt,
    finishAt,
    calendar,
    startIndex: calendar.indexAt(startAt),
    finishIndex: calendar.indexAt(finishAt),
  };
}

/** Rows made ready, by the id of their activity. */
export const plannedById = remembered(
  (rows: readonly PlannedRow[]): ReadonlyMap<string, PlannedRow> =>
    new Map(rows.map((planned) => [planned.row.id, planned])),
);

/** Planned value of one row at an instant, in minor units (calculations.md section 3). */
export function plannedValueAt(planned: PlannedRow, at: LocalMinute): MinorUnits {
  const { row } = planned;
  const atStart = at >= planned.startAt ? row.startMinor : 0;
  const atFinish = at >= planned.finishAt ? row.finishMinor : 0;
  if (at >= planned.finishAt) return minorUnits(row.evenMinor + atStart + atFinish);
  const all = planned.finishIndex - planned.startIndex;
  if (all <= 0 || at <= planned.startAt) return minorUnits(atStart + atFinish);
  const passed = Math.min(planned.calendar.indexAt(at) - planned.startIndex, all);
  return minorUnits(mulDivRound(row.evenMinor, passed, all) + atStart + atFinish);
}

/** Planned value of all rows at an instant: the sum of their rounded values. */
export const totalPlannedValueAt = (rows: readonly PlannedRow[], at: LocalMinute): MinorUnits =>
  rows.reduce((sum, row) => plus(sum, plannedValueAt(row, at)), NO_MONEY);
