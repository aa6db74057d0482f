import { minorUnits, type MinorUnits } from "../budget/money.ts";
import { remembered } from "../plan/derived/remembered.ts";
import { addDays, closeOf, finishDayOf, formatDate, localMinute, startDayOf } from "../time/instant.ts";
import { monthsFrom } from "./earnedSchedule.ts";
import { totalPlannedValueAt, type PlannedRow } from "./plannedValue.ts";

/** What is planned to be earned within a calendar month, in minor units. */
export interface PlannedMonth {
  /** `YYYY-MM-DD`, the first day of the month that the baseline reaches: where it begins, else the first. */
  readonly from: string;
  readonly minor: MinorUnits;
}

/**
 * What a baseline plans to earn in each calendar month from its start to its finish; together its budget. Months in
 * which nothing is planned stand there with 0, and a baseline of nothing has none.
 */
export const plannedByMonth = remembered((rows: readonly PlannedRow[]): readonly PlannedMonth[] => {
  if (rows.length === 0) return [];
  const first = startDayOf(localMinute(rows.reduce((least, row) => Math.min(least, row.startAt), Infinity)));
  const last = finishDayOf(localMinute(rows.reduce((most, row) => Math.max(most, row.finishAt), 0)));
  const months = monthsFrom(first);
  const count = months.reaching(last)!;
  let before = 0;
  return Array.from({ length: count }, (_, k) => {
    const end = months.lastDay(k + 1);
    const value =
      end === null ? rows.reduce((sum, row) => sum + row.budget, 0) : totalPlannedValueAt(rows, closeOf(end));
    const minor = minorUnits(value - before);
    before = value;
    return { from: formatDate(k === 0 ? first : addDays(months.lastDay(k)!, 1)), minor };
  });
});
