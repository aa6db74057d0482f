import { numberWords, ungrouped } from "../words/numberWords.ts";
const UNIT = /^(\d+(?:[.,]\d+)?|[.,]\d+)\s*(w|wk|week|weeks|d|day|days|h|hr|hrs|hour|hours|m|min|mins|minutes)?$/;
/** `1w 2d`, `2d4h`: each part with its unit, the larger ones first. */
const PARTS =
  /^(?:(\d+(?:[.,]\d+)?)\s*(?:w|wk|week|weeks))?\s*(?:(\d+(?:[.,]\d+)?)\s*(?:d|day|days))?\s*(?:(\d+(?:[.,]\d+)?)\s*(?:h|hr|hrs|hour|hours))?\s*(?:(\d+(?:[.,]\d+)?)\s*(?:m|min|mins|minutes))?$/;
/** `1,000`: a thousand to some, one to others. */
const EITHER = /^\d{1,3},\d{3}(?!\d)/;
const CLOCK = /^(\d{1,4}):([0-5]\d)$/;
const DAYS_OF_A_WEEK = 5;

/** What a bare number means where a duration is typed. */
export type BareUnit = "days" | "hours";

/**
 * Reads a length of working time as people type it: `3d`, `2.5 d`, `2w`, `4h`, `90m`, `1:30`, `1w 2d`, `2d4h`.
 * A week is five of the calendar's days.
 * @param dayMinutes minutes of a day in the calendar the time counts in
 * @param bare what a number without a unit means
 * @returns whole minutes, or `null` where the text is no length of time
 * @example parseDuration("2.5d", 480, "days") is 1200; parseDuration("1,5", 480, "hours") is 90
 */
export function parseDuration(text: string, dayMinutes: number, bare: BareUnit): number | null {
  const plain = ungrouped(text).trim().toLowerCase();
  const clock = CLOCK.exec(plain);
  if (clock !== null) return Number(clock[1]) * 60 + Number(clock[2]);
  const match = UNIT.exec(plain);
  if (match === null) return readParts(plain, dayMinutes);
  if (EITHER.test(plain)) return null;
  const amount = Number(match[1]!.replace(",", "."));
  const unit = match[2]?.[0] ?? bare[0]!;
  const minutes = { w: DAYS_OF_A_WEEK * dayMinutes, d: dayMinutes, h: 60, m: 1 }[unit]!;
  const total = Math.round(amount * minutes);
  return Number.isSafeInteger(total) ? total : null;
}

/** What stands before the unit of `1,000d`, where it can be meant in two ways; `null` where it cannot. */
export const eitherThousandOrDecimal = (text: string): string | null => EITHER.exec(text.trim())?.[0] ?? null;

function readParts(plain: string, dayMinutes: number): number | null {
  const match = plain === "" ? null : PARTS.exec(plain);
  if (match === null || match.slice(1).some((part) => part !== undefined && EITHER.test(part))) return null;
  const units = [DAYS_OF_A_WEEK * dayMinutes, dayMinutes, 60, 1];
  const total = Math.round(
    units.reduce((sum, minutes, i) => sum + Number((match[i + 1] ?? "0").replace(",", ".")) * minutes, 0),
  );
  return Number.isSafeInteger(total) ? total : null;
}

/**
 * Writes minutes as days of the calendar where they come out in quarters of a day, else as hours.
 * @example formatDuration(1200, 480) is "2.5 d"; formatDuration(100, 480) is "1.67 h"
 */
export function formatDuration(minutes: number, dayMinutes: number): string {
  const inQuarters = minutes !== 0 && (minutes * 4) % dayMinutes === 0;
  return inQuarters || minutes >= dayMinutes * 10 ? `${numberWords(minutes / dayMinutes, 2)} d` : formatHours(minutes);
}

/** Writes minutes as hours, two digits at most. */
export const formatHours = (minutes: number): string => `${numberWords(minutes / 60, 2)} h`;
