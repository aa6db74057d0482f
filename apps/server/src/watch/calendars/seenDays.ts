import { CALENDAR_KIND_WORDS, type CalendarEntry, type Me } from "@chronometra/contract";
import { addDays, formatDate, parseDate } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { calendarOf } from "../../calendar/calendarDays.ts";
import { todayOf } from "../../shared/clock.ts";
import type { CalendarDay } from "./calendarText.ts";

const DAYS_BEFORE = 60;
const DAYS_AFTER = 400;

const dayOf = ({ id, kind, from, to, name, words, project, link }: CalendarEntry): CalendarDay => ({
  ...{ id: `calendar ${id}`, from, to },
  title: kind === "meeting" ? name : `${CALENDAR_KIND_WORDS[kind][0]}: ${name}`,
  words: project === null ? words : `${project.code} ${project.name}. ${words}`,
  path: link ?? "/calendar",
});

/** What the calendar page shows someone, of two months past and a year to come: all of it, or their own alone. */
export async function seenDays(database: DataSource, me: Me, own: boolean): Promise<CalendarDay[]> {
  const today = parseDate(todayOf(me))!;
  const [from, to] = [formatDate(addDays(today, -DAYS_BEFORE)), formatDate(addDays(today, DAYS_AFTER))];
  const { entries } = await calendarOf(database, me, { from, to, own, project: null });
  return entries.map(dayOf);
}
