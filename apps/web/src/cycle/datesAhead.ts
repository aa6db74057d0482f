import { addDays, civilOf, formatDate, parseDate, weekdayOf, type EpochDay } from "@chronometra/core";

export const RHYTHMS = {
  month: "last Friday of a month",
  fourWeeks: "four weeks, on Friday",
  week: "week, on Friday",
} as const;
export type Rhythm = keyof typeof RHYTHMS;

const FRIDAY = 4;
const ISSUED_AFTER_DAYS = 4;

const isLastFriday = (day: EpochDay): boolean =>
  weekdayOf(day) === FRIDAY && civilOf(addDays(day, 7)).month !== civilOf(day).month;

/** Data dates that follow one in a rhythm, each with the noon four days later by which it is issued. */
export function datesAhead(after: string, rhythm: Rhythm, count: number): { dataDate: string; issueBy: string }[] {
  const found: { dataDate: string; issueBy: string }[] = [];
  const every = rhythm === "week" ? 7 : 28;
  let last = parseDate(after)!;
  for (let day = addDays(last, 1); found.length < count; day = addDays(day, 1)) {
    const due = rhythm === "month" ? isLastFriday(day) : weekdayOf(day) === FRIDAY && day - last >= every;
    if (!due) continue;
    found.push({ dataDate: formatDate(day), issueBy: `${formatDate(addDays(day, ISSUED_AFTER_DAYS))}T12:00` });
    last = day;
  }
  return found;
}
