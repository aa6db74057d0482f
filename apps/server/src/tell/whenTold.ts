import { TZDate } from "@date-fns/tz";
import type { MailWay, Telling } from "@chronometra/contract";
import { addDays } from "date-fns";

const minutesOf = (time: string): number => Number(time.slice(0, 2)) * 60 + Number(time.slice(3));

/** The same day where someone is, at that time of day. */
const dayAt = (day: TZDate, time: string): TZDate =>
  new TZDate(
    day.getFullYear(),
    day.getMonth(),
    day.getDate(),
    Number(time.slice(0, 2)),
    Number(time.slice(3)),
    day.timeZone!,
  );

/** A moment as it is, or the end of the quiet hours that it lies in. */
function afterQuiet(moment: TZDate, quiet: Telling["quiet"]): TZDate {
  if (quiet === null || quiet.from === quiet.until) return moment;
  const now = moment.getHours() * 60 + moment.getMinutes();
  const [from, until] = [minutesOf(quiet.from), minutesOf(quiet.until)];
  const isQuiet = from < until ? now >= from && now < until : now >= from || now < until;
  if (!isQuiet) return moment;
  return dayAt(now < until ? moment : addDays(moment, 1), quiet.until);
}

/** The next time of that day of the week and hour after a moment; any day without one. */
function nextAt(moment: TZDate, time: string, weekday: number | null): TZDate {
  for (let day = moment; ; day = addDays(day, 1)) {
    const then = dayAt(day, time);
    const matches = weekday === null || (then.getDay() + 6) % 7 === weekday - 1;
    if (matches && then.getTime() > moment.getTime()) return then;
  }
}

/** Someone's wishes, where their days begin, and what they were sent last. */
export interface Wishes extends Telling {
  readonly timeZone: string;
  readonly lastMail: Date | null;
}

/**
 * When something that happened is told by mail; `null` for never.
 * @param together what happens within so many milliseconds of a message goes together into the next
 */
export function mailMoment(way: MailWay, wishes: Wishes, at: Date, together: number): Date | null {
  if (way === "never") return null;
  const { quiet, timeZone, lastMail } = wishes;
  const here = (time: number): TZDate => new TZDate(time, timeZone);
  const since = lastMail === null ? Infinity : at.getTime() - lastMail.getTime();
  const moment =
    way === "once"
      ? here(since >= 0 && since < together ? lastMail!.getTime() + together : at.getTime())
      : nextAt(here(at.getTime()), wishes.at, way === "week" ? wishes.weekday : null);
  return new Date(afterQuiet(moment, quiet).getTime());
}
