import { addDays, formatDate, parseDate } from "../../time/instant.ts";
import type { Meeting } from "../ownTables.ts";
import type { Plan } from "../plan.ts";

/** Whether a meeting is held on a day. */
export function isHeldOn({ date, weeklyUntil }: Meeting, day: string): boolean {
  if (weeklyUntil === undefined) return date === day;
  return day >= date && day <= weeklyUntil && (parseDate(day)! - parseDate(date)!) % 7 === 0;
}

/** The meetings of a plan that a person goes to on days from one to another, by day. */
export function meetingsOf(
  plan: Plan,
  person: string,
  from: string,
  to: string,
): { readonly date: string; readonly meeting: Meeting }[] {
  const own = [...plan.meetings.values()].filter(({ people }) => people.includes(person));
  const found: { date: string; meeting: Meeting }[] = [];
  for (let day = parseDate(from)!; own.length > 0 && formatDate(day) <= to; day = addDays(day, 1)) {
    const date = formatDate(day);
    for (const meeting of own) if (isHeldOn(meeting, date)) found.push({ date, meeting });
  }
  return found;
}

/** Whether a person goes to a meeting that is booked on an activity. */
export const goesTo = (plan: Plan, activity: string, person: string): boolean =>
  [...plan.meetings.values()].some((meeting) => meeting.activity === activity && meeting.people.includes(person));
