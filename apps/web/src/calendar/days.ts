import type { CalendarEntry } from "@chronometra/contract";
import { addDays, formatDate, mondayOf as mondayOfDay, parseDate } from "@chronometra/core";

export type View = "month" | "week";

/** The weeks that a view of a day shows, each seven days from Monday, `YYYY-MM-DD`. */
export function weeksOf(view: View, date: string): string[][] {
  const [first, last] = view === "week" ? [date, date] : monthOf(date);
  const weeks: string[][] = [];
  for (let monday = mondayOf(first); monday <= last; monday = shifted(monday, 7))
    weeks.push(Array.from({ length: 7 }, (_, i) => shifted(monday, i)));
  return weeks;
}

/** The first and the last day of the month of a day. */
function monthOf(date: string): [string, string] {
  const [year, month] = [Number(date.slice(0, 4)), Number(date.slice(5, 7))];
  const next = month === 12 ? `${year + 1}-01-01` : `${year}-${String(month + 1).padStart(2, "0")}-01`;
  return [`${date.slice(0, 7)}-01`, shifted(next, -1)];
}

/** So many days after a day, or before it. */
export const shifted = (date: string, days: number): string => formatDate(addDays(parseDate(date)!, days));

/** The first day that the view before or after shows. */
export function turned(view: View, date: string, by: 1 | -1): string {
  if (view === "week") return shifted(date, 7 * by);
  const [first, last] = monthOf(date);
  return by === 1 ? shifted(last, 1) : monthOf(shifted(first, -1))[0];
}

const mondayOf = (date: string): string => formatDate(mondayOfDay(parseDate(date)!));

/** The number of the week of a Monday (ISO 8601: the first has the year's first Thursday). */
export function weekNumber(monday: string): number {
  const thursday = shifted(monday, 3);
  const first = mondayOf(`${thursday.slice(0, 4)}-01-04`);
  return Math.round((parseDate(monday)! - parseDate(first)!) / 7) + 1;
}

/** What stands on each day, absences apart. */
export function byDay(entries: readonly CalendarEntry[]): ReadonlyMap<string, readonly CalendarEntry[]> {
  const days = new Map<string, CalendarEntry[]>();
  for (const entry of entries) {
    if (entry.kind === "leave") continue;
    const day = days.get(entry.from);
    if (day === undefined) days.set(entry.from, [entry]);
    else day.push(entry);
  }
  return days;
}

/** What stands on a day in few words: meetings of one name, held by several projects, are one line with how many. */
export function folded(on: readonly CalendarEntry[]): { entry: CalendarEntry; times: number }[] {
  const lines = new Map<string, { entry: CalendarEntry; times: number }>();
  for (const entry of on) {
    const key = entry.kind === "meeting" ? `meeting ${entry.name}` : entry.id;
    const line = lines.get(key);
    if (line === undefined) lines.set(key, { entry, times: 1 });
    else line.times++;
  }
  return [...lines.values()];
}

/** An absence within a week: from which of its days to which, 0 to 6, and in which line above them. */
export interface Span {
  readonly entry: CalendarEntry;
  readonly first: number;
  readonly last: number;
  readonly line: number;
}

/** The absences of a week, in as few lines as they need: no two meet in one. */
export function spansOf(week: readonly string[], entries: readonly CalendarEntry[]): Span[] {
  const free: number[] = [];
  return entries
    .filter(({ kind, from, to }) => kind === "leave" && from <= week.at(-1)! && to >= week[0]!)
    .map((entry) => {
      const first = Math.max(0, week.indexOf(entry.from));
      const last = entry.to > week.at(-1)! ? week.length - 1 : week.indexOf(entry.to);
      const found = free.findIndex((until) => until < first);
      const line = found < 0 ? free.length : found;
      free[line] = last;
      return { entry, first, last, line };
    });
}
