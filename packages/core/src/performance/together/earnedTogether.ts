import { addDays, parseDate } from "../../time/instant.ts";
import { monthsFrom, NOTHING_EARNED, pointsTo, type EarnedSchedule } from "../earnedSchedule.ts";

/** What was planned of several projects, and what they earned. */
export interface EarnedOf {
  /** The first approved day of any, `YYYY-MM-DD`. */
  readonly first: string;
  /** What all plan to earn in each calendar month, from the month of that day on, in minor units. */
  readonly planned: readonly number[];
  /** Minor units. */
  readonly ev: number;
  /** The latest data date of any, `YYYY-MM-DD`. */
  readonly dataDate: string;
}

/**
 * Earned schedule of several projects together, in calendar months: as of one project (Lipke, "Schedule is Different",
 * 2003; calculations.md section 4), on the sums of planned and earned value. A group has no calendar, so the share of
 * a month that has passed is by calendar days.
 */
export function earnedTogether({ first: from, planned, ev, dataDate }: EarnedOf): EarnedSchedule {
  const first = parseDate(from)!;
  const day = parseDate(dataDate)!;
  const bac = planned.reduce((sum, each) => sum + each, 0);
  if (planned.length === 0 || bac === 0) return NOTHING_EARNED;
  const periods = monthsFrom(first);
  let at = 0;
  if (day >= first) {
    const reached = periods.reaching(day)!;
    const begins = addDays(periods.lastDay(reached - 1)!, 1);
    const end = periods.lastDay(reached);
    at = end === null ? reached - 1 : reached - 1 + (day - begins + 1) / (end - begins + 1);
  }
  return pointsTo({ kind: "month", periods, es: earnedMonths(planned, bac, ev), at, pd: planned.length });
}

/** The largest k with P(k) <= EV, plus the share of the next month. */
function earnedMonths(planned: readonly number[], bac: number, ev: number): number | null {
  if (ev >= bac) return planned.length;
  let found: number | null = null;
  let before = 0;
  planned.forEach((within, k) => {
    if (before <= ev) found = within === 0 ? k : k + (ev - before) / within;
    before += within;
  });
  return found;
}
