import { compileCalendars, parseDate, closeOf, openOf, type Calendar, type WorkCalendar } from "@chronometra/core";
import type { WrittenLength } from "../sheets/readCells.ts";
import type { Loose, ReadRow } from "../match/readTables.ts";

/** The calendar of an id, ready to count in; `null` where it cannot be used, which is told elsewhere. */
export function calendarFor(calendars: readonly Loose[]): (id: string) => WorkCalendar | null {
  const { set, problems } = compileCalendars(calendars as unknown as Calendar[]);
  return (id) => (problems.length > 0 || !set.has(id) ? null : set.get(id));
}

/**
 * Working minutes from the beginning of a day to the end of another; `null` where one lies outside of what is
 * computed, or the second before the first.
 */
export function minutesBetween(calendar: WorkCalendar, start: string, finish: string): number | null {
  const [from, to] = [parseDate(start), parseDate(finish)];
  if (from === null || to === null || to < from) return null;
  return calendar.indexAt(closeOf(to)) - calendar.indexAt(openOf(from));
}

/** How long a row says it lasts, in minutes, in whatever unit it is written; `undefined` where it does not say. */
export function writtenLength({ fields }: ReadRow, dayMinutes: number): number | undefined {
  const minutes = fields["durationMinutes"] as number | undefined;
  const hours = fields["durationHours"] as number | undefined;
  const written = fields["durationDays"] as WrittenLength | undefined;
  if (minutes !== undefined) return minutes;
  if (hours !== undefined) return Math.round(hours * 60);
  return written === undefined ? undefined : Math.round(written.days * dayMinutes + written.minutes);
}
