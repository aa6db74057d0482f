import { addDays, formatDate, parseDate } from "@chronometra/core";
import ical, { ICalEventTransparency } from "ical-generator";

/** Something on whole days of a calendar, both ends counted. */
export interface CalendarDay {
  /** Stays the same from one fetch to the next, so that an entry is moved and not doubled. */
  readonly id: string;
  /** `YYYY-MM-DD`. */
  readonly from: string;
  readonly to: string;
  readonly title: string;
  readonly words: string;
  /** The place in the app where it stands. */
  readonly path: string;
}

/** The same as it is sent to calendar programs time and again. */
export interface SentDay extends CalendarDay {
  /** How often its days have changed since it was sent first. */
  readonly sequence: number;
  /** When anything of it changed last. */
  readonly changedAt: Date;
}

const REFRESHED_AFTER_SECONDS = 3600;

const dayOf = (date: string): Date => new Date(`${date}T00:00:00Z`);

/**
 * A calendar as iCalendar (RFC 5545); the end of a whole-day entry is the day after its last, and it leaves whoever has
 * it free for other things.
 * @param origin where the app is, as `https://plans.example.org`
 */
export function calendarText(name: string, days: readonly SentDay[], origin: string): string {
  const calendar = ical({
    name,
    prodId: { company: "Chronometra", product: "Chronometra", language: "EN" },
    ttl: REFRESHED_AFTER_SECONDS,
  });
  for (const { id, from, to, title, words, path, sequence, changedAt } of days) {
    calendar.createEvent({
      id,
      start: dayOf(from),
      end: dayOf(formatDate(addDays(parseDate(to)!, 1))),
      allDay: true,
      summary: title,
      description: words,
      timezone: "UTC",
      url: `${origin}${path}`,
      transparency: ICalEventTransparency.TRANSPARENT,
      sequence,
      // The same text as long as nothing changes.
      stamp: changedAt,
      lastModified: changedAt,
    });
  }
  return calendar.toString();
}
