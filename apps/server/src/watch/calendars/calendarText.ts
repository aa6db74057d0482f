import { addDays, formatDate, parseDate } from "@chronometra/core";
import ical from "ical-generator";

/** Something on whole days of a calendar, both ends counted. */
export interface CalendarDay {
  /** Stays the same from one fetch to the next, so that an entry is moved and not doubled. */
  readonly id: string;
  /** `YYYY-MM-DD`. */
  readonly from: string;
  readonly to: string;
  readonly title: string;
  readonly words: string;
}

const dayOf = (date: string): Date => new Date(`${date}T00:00:00Z`);

/** A calendar as iCalendar (RFC 5545); the end of a whole-day entry is the day after its last. */
export function calendarText(name: string, days: readonly CalendarDay[]): string {
  const calendar = ical({ name, prodId: { company: "Chronometra", product: "Chronometra", language: "EN" } });
  for (const { id, from, to, title, words } of days) {
    calendar.createEvent({
      id,
      start: dayOf(from),
      end: dayOf(formatDate(addDays(parseDate(to)!, 1))),
      allDay: true,
      summary: title,
      description: words,
      timezone: "UTC",
    });
  }
  return calendar.toString();
}
