import { ratio } from "../budget/exact.ts";
import {
  addDays,
  civilOf,
  closeOf,
  type EpochDay,
  epochDay,
  finishDayOf,
  formatDate,
  HORIZON_DAYS,
  localMinute,
  openOf,
  parseDate,
  startDayOf,
  weekdayOf,
} from "../time/instant.ts";
import type { WorkCalendar } from "../time/workCalendar.ts";
import { remembered } from "../plan/derived/remembered.ts";
import { totalPlannedValueAt, type PlannedRow } from "./plannedValue.ts";

export type PeriodKind = "workday" | "week" | "month";

export interface EarnedSchedule {
  readonly period: PeriodKind;
  readonly es: number | null;
  readonly at: number | null;
  readonly pd: number | null;
  readonly svt: number | null;
  readonly spit: number | null;
  readonly forecastDuration: number | null;
  /** `YYYY-MM-DD`. */
  readonly forecastFinish: string | null;
}

/** The periods from a baseline's start on, counted from 1. */
export interface Periods {
  /** The last day of period k; `null` past the horizon. Period 0 closes before the first day. */
  lastDay(k: number): EpochDay | null;
  /** The least k whose close is on or after that of `day`, at least 1; `null` past the horizon. */
  reaching(day: EpochDay): number | null;
}

const MONTHS = 12;

/** Periods of a kind, from the day on which the baseline starts. The first week or month may be short. */
export function periodsFrom(kind: PeriodKind, first: EpochDay, calendar: WorkCalendar): Periods {
  if (kind === "workday") {
    return {
      lastDay: (k) => (k === 0 ? addDays(first, -1) : calendar.workedDay(first, k)),
      reaching(day) {
        const k = Math.max(1, calendar.workedCountBefore(day) - calendar.workedCountBefore(first) + 1);
        return calendar.workedDay(first, k) === null ? null : k;
      },
    };
  }
  const inside = (day: number): EpochDay | null => (day < HORIZON_DAYS ? epochDay(day) : null);
  if (kind === "week") {
    const firstSunday = first + 6 - weekdayOf(first);
    return {
      lastDay: (k) => (k === 0 ? addDays(first, -1) : inside(firstSunday + (k - 1) * 7)),
      reaching: (day) => Math.max(1, Math.ceil((day - firstSunday) / 7) + 1),
    };
  }
  return monthsFrom(first);
}

/** Calendar months from a day on; the first may be short. */
export function monthsFrom(first: EpochDay): Periods {
  const monthOf = (day: EpochDay): number => civilOf(day).year * MONTHS + civilOf(day).month - 1;
  const firstMonth = monthOf(first);
  return {
    lastDay(k) {
      if (k === 0) return addDays(first, -1);
      const next = firstMonth + k;
      const year = Math.floor(next / MONTHS);
      if (year > 2099) return next === 2100 * MONTHS ? addDays(epochDay(HORIZON_DAYS), -1) : null;
      const beginsOn = parseDate(`${year}-${String((next % MONTHS) + 1).padStart(2, "0")}-01`)!;
      return addDays(beginsOn, -1);
    },
    reaching: (day) => Math.max(1, monthOf(day) - firstMonth + 1),
  };
}

/** Periods closed by a day's close, plus the share of the next by working minutes. */
function actualTime(periods: Periods, first: EpochDay, dataDate: EpochDay, calendar: WorkCalendar): number | null {
  if (dataDate < first) return 0;
  const reached = periods.reaching(dataDate);
  if (reached === null) return null;
  const last = periods.lastDay(reached);
  if (last === dataDate) return reached;
  const begin = openOf(addDays(periods.lastDay(reached - 1)!, 1));
  const passed = calendar.indexAt(closeOf(dataDate)) - calendar.indexAt(begin);
  if (passed === 0) return reached - 1;
  const all = last === null ? 0 : calendar.indexAt(closeOf(last)) - calendar.indexAt(begin);
  return all === 0 ? reached - 1 : reached - 1 + passed / all;
}

/** Planned values of a baseline by the day at whose close they are planned: a baseline stays while a plan changes. */
const valuesByDay = remembered((rows: readonly PlannedRow[]) => {
  const known = new Map<EpochDay, number>();
  return (day: EpochDay): number => {
    let value = known.get(day);
    if (value === undefined) known.set(day, (value = totalPlannedValueAt(rows, closeOf(day))));
    return value;
  };
});

/** ES: whole periods whose planned value is earned, plus the share of the next. */
function earnedTime(rows: readonly PlannedRow[], periods: Periods, pd: number, ev: number): number | null {
  const { bac, isRising } = extentOf(rows);
  if (bac === 0) return null;
  if (ev >= bac) return pd;
  const valueAt = (k: number): number => (k === 0 ? 0 : valuesByDay(rows)(periods.lastDay(k)!));
  const closed = lastPeriodEarned(isRising, valueAt, pd, ev);
  if (closed === null) return null;
  const from = valueAt(closed);
  return closed + (ev - from) / (valueAt(closed + 1) - from);
}

/** The largest k below `pd` with P(k) <= EV; `null` where even nothing is more than what is earned. */
function lastPeriodEarned(isRising: boolean, valueAt: (k: number) => number, pd: number, ev: number): number | null {
  if (!isRising) {
    for (let k = pd - 1; k >= 0; k--) if (valueAt(k) <= ev) return k;
    return null;
  }
  if (ev < 0) return null;
  let low = 0;
  let high = pd;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (valueAt(middle) <= ev) low = middle;
    else high = middle;
  }
  return low;
}

/** From when to when a baseline reaches, its budget, and whether its planned value never falls. */
const extentOf = remembered((rows: readonly PlannedRow[]) => ({
  startAt: localMinute(rows.reduce((least, row) => Math.min(least, row.startAt), Infinity)),
  finishAt: localMinute(rows.reduce((most, row) => Math.max(most, row.finishAt), 0)),
  bac: rows.reduce((sum, row) => sum + row.budget, 0),
  isRising: rows.every(({ row }) => row.evenMinor >= 0 && row.startMinor >= 0 && row.finishMinor >= 0),
}));

/**
 * Earned schedule of a project (Lipke, "Schedule is Different", 2003; calculations.md section 4).
 * @param rows the baseline rows that count
 * @param calendar the project's calendar
 * @param ev the project's earned value at `dataDate`
 */
export function earnedSchedule(
  rows: readonly PlannedRow[],
  calendar: WorkCalendar,
  kind: PeriodKind,
  dataDate: EpochDay,
  ev: number,
): EarnedSchedule {
  if (rows.length === 0) return { ...NOTHING_EARNED, period: kind };
  const { startAt, finishAt } = extentOf(rows);
  const first = startDayOf(startAt);
  const last = finishDayOf(finishAt);
  const periods = periodsFrom(kind, first, calendar);
  const pd = periods.reaching(last);
  const at = actualTime(periods, first, dataDate, calendar);
  if (pd === null) return { ...NOTHING_EARNED, period: kind, at };
  return pointsTo({ kind, periods, es: earnedTime(rows, periods, pd, ev), at, pd });
}

/** Where nothing can be said. */
export const NOTHING_EARNED: EarnedSchedule = {
  period: "month",
  es: null,
  at: null,
  pd: null,
  svt: null,
  spit: null,
  forecastDuration: null,
  forecastFinish: null,
};

interface Reached {
  readonly kind: PeriodKind;
  readonly periods: Periods;
  /** In periods. */
  readonly es: number | null;
  readonly at: number | null;
  readonly pd: number;
}

/** What follows of the time earned, the time passed and the time planned. */
export function pointsTo({ kind, periods, es, at, pd }: Reached): EarnedSchedule {
  const spit = es === null || at === null ? null : ratio(es, at);
  const forecastDuration = spit === null || spit === 0 ? null : pd / spit;
  return {
    period: kind,
    es,
    at,
    pd,
    svt: es === null || at === null ? null : es - at,
    spit,
    forecastDuration,
    forecastFinish: forecastDuration === null ? null : closingDate(periods, forecastDuration),
  };
}

/** A fraction of a period below this is an artefact of division. */
const NEGLIGIBLE = 1e-9;

function closingDate(periods: Periods, duration: number): string | null {
  const k = Math.max(1, Math.ceil(duration - NEGLIGIBLE));
  if (k > HORIZON_DAYS) return null;
  const day = periods.lastDay(k);
  return day === null ? null : formatDate(day);
}
