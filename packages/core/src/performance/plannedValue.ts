import { mulDivRound } from "../budget/exact.ts";
import { minorUnits, NO_MONEY, plus, type MinorUnits } from "../budget/money.ts";
import type { Baseline, BaselineRow, PlanBundle } from "../plan/schema.ts";
import { compileCalendars } from "../plan/compileCalendars.ts";
import { remembered } from "../plan/remembered.ts";
import { parseInstant, type LocalMinute, type WorkMinutes } from "../time/instant.ts";
import type { WorkCalendar } from "../time/workCalendar.ts";

/** A baseline to measure against: its rows and the calendars it was approved with. */
export type BaselineContent = Pick<Baseline, "activities" | "calendars">;

/** The rows of a baseline by the id of their activity. */
export const baselineRows = remembered(
  (rows: readonly BaselineRow[]): ReadonlyMap<string, BaselineRow> => new Map(rows.map((row) => [row.id, row])),
);

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
export function plannedRows(plan: PlanBundle, baseline: BaselineContent, parked: ReadonlySet<string>): PlannedRow[] {
  const calendars = compileCalendars(baseline.calendars ?? [], plan.calendars).set;
  const rows: PlannedRow[] = [];
  for (const row of baseline.activities) {
    if (parked.has(row.id)) continue;
    const calendar = calendars.get(row.calendar ?? plan.project.calendar);
    const startAt = parseInstant(row.start)!;
    const finishAt = parseInstant(row.finish)!;
    rows.push({
      row,
      budget: minorUnits(row.evenMinor + row.startMinor + row.finishMinor),
      startAt,
      finishAt,
      calendar,
      startIndex: calendar.indexAt(startAt),
      finishIndex: calendar.indexAt(finishAt),
    });
  }
  return rows;
}

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
