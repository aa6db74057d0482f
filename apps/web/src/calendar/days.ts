import type { CalendarEntry, CalendarKind } from "@chronometra/contract";

export type View = "month" | "week";

const DAY_MILLISECONDS = 86_400_000;
/** The first and the last day that plans know; weeks at the ends reach beyond. */
const KNOWN = ["1990-01-01", "2099-12-31"] as const;

/** The first and the last of some weeks, as far as plans know days. */
export const extentOf = (weeks: readonly (readonly string[])[]): { from: string; to: string } => {
  const [first, last] = [weeks[0]![0]!, weeks.at(-1)!.at(-1)!];
  return { from: first < KNOWN[0] ? KNOWN[0] : first, to: last > KNOWN[1] ? KNOWN[1] : last };
};

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
  return [`${date.slice(0, 7)}-01`, new Date(Date.UTC(year, month, 0)).toISOString().slice(0, 10)];
}

/** So many days after a day, or before it. */
export const shifted = (date: string, days: number): string =>
  new Date(Date.parse(date) + days * DAY_MILLISECONDS).toISOString().slice(0, 10);

/** A day that the view before or after shows; `null` where plans know no such day. */
export function turned(view: View, date: string, by: 1 | -1): string | null {
  const [first, last] = monthOf(date);
  const day = view === "week" ? shifted(date, 7 * by) : by === 1 ? shifted(last, 1) : monthOf(shifted(first, -1))[0];
  return day < KNOWN[0] || day > KNOWN[1] ? null : day;
}

const mondayOf = (date: string): string => shifted(date, -((new Date(date).getUTCDay() + 6) % 7));

/** The number of the week of a Monday (ISO 8601: the first has the year's first Thursday). */
export function weekNumber(monday: string): number {
  const thursday = shifted(monday, 3);
  const first = mondayOf(`${thursday.slice(0, 4)}-01-04`);
  return Math.round((Date.parse(monday) - Date.parse(first)) / (7 * DAY_MILLISECONDS)) + 1;
}

/** What lasts for days. */
const LASTS: ReadonlySet<CalendarKind> = new Set(["timebox", "leave"]);

/** What stands on each day, absences and timeboxes apart. */
export function byDay(entries: readonly CalendarEntry[]): ReadonlyMap<string, readonly CalendarEntry[]> {
  const days = new Map<string, CalendarEntry[]>();
  for (const entry of entries) {
    if (LASTS.has(entry.kind)) continue;
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

/** An absence or a timebox within a week: from which of its days to which, 0 to 6, and in which line above them. */
export interface Span {
  readonly entry: CalendarEntry;
  readonly first: number;
  readonly last: number;
  readonly line: number;
}

/** The absences and timeboxes of a week, in as few lines as they need: no two meet in one. */
export function spansOf(week: readonly string[], entries: readonly CalendarEntry[]): Span[] {
  const free: number[] = [];
  return entries
    .filter(({ kind, from, to }) => LASTS.has(kind) && from <= week.at(-1)! && to >= week[0]!)
    .map((entry) => {
      const first = Math.max(0, week.indexOf(entry.from));
      const last = entry.to > week.at(-1)! ? week.length - 1 : week.indexOf(entry.to);
      const found = free.findIndex((until) => until < first);
      const line = found < 0 ? free.length : found;
      free[line] = last;
      return { entry, first, last, line };
    });
}
