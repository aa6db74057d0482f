import { numberWords } from "../../words/numberWords.ts";
import type { Activity } from "../../plan/schema.ts";
import { parseDate, type EpochDay } from "../../time/instant.ts";
import type { Past } from "../ground/finding.ts";
import type { Ground, Placed } from "../ground/ground.ts";

/** What is left of an activity that has begun, in minutes. */
export const leftOf = (activity: Activity): number | null =>
  activity.remainingMinutes ??
  (activity.durationMinutes === undefined ? null : (activity.durationMinutes * (100 - (activity.percent ?? 0))) / 100);

/** Whether anything that tells progress differs between two states of an activity. */
export function progressed(then: Activity | undefined, now: Activity): boolean {
  if (then === undefined) return true;
  const told = ({ percent, remainingMinutes, actualStart, actualFinish, dropped, credit }: Activity): string =>
    JSON.stringify([percent ?? 0, remainingMinutes, actualStart, actualFinish, dropped ?? false, credit]);
  return told(then) !== told(now);
}

/** Minutes of time that count, and when they were worked, by activity: from a day on, up to the data date. */
export function bookedSince(
  { plan, dataDay }: Ground,
  after: EpochDay | null,
): Map<string, { minutes: number; last: EpochDay }> {
  const booked = new Map<string, { minutes: number; last: EpochDay }>();
  for (const { activity, date, minutes, state } of plan.timeEntries ?? []) {
    if (state !== "posted" && state !== "submitted") continue;
    const day = parseDate(date)!;
    if ((after !== null && day <= after) || (dataDay !== null && day > dataDay)) continue;
    const known = booked.get(activity);
    booked.set(activity, {
      minutes: (known?.minutes ?? 0) + minutes,
      last: known === undefined || day > known.last ? day : known.last,
    });
  }
  return booked;
}

/** Open work that has begun. */
export const underWay = ({ open }: Ground): Placed[] =>
  open.filter(({ isWork, row }) => isWork && row.state === "inProgress");

/** The period issued last before the data date in hand. */
export const lastPeriod = ({ dataDay }: Ground, { periods }: Past) =>
  periods.find((period) => dataDay !== null && period.dataDay < dataDay) ?? null;

/** Minutes as hours to read: `12.5 h`. */
export const inHours = (minutes: number): string => `${numberWords(minutes / 60)} h`;
