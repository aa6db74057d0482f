const UNIT = /^(\d+(?:[.,]\d+)?|[.,]\d+)\s*(w|wk|week|weeks|d|day|days|h|hr|hrs|hour|hours|m|min|mins|minutes)?$/;
const CLOCK = /^(\d{1,4}):([0-5]\d)$/;
const DAYS_OF_A_WEEK = 5;

/** What a bare number means where a duration is typed. */
export type BareUnit = "days" | "hours";

/**
 * Reads a length of working time as people type it: `3d`, `2.5 d`, `2w`, `4h`, `90m`, `1:30`.
 * A week is five of the calendar's days.
 * @param dayMinutes minutes of a day in the calendar the time counts in
 * @param bare what a number without a unit means
 * @returns whole minutes, or `null` where the text is no length of time
 * @example parseDuration("2.5d", 480, "days") is 1200; parseDuration("1,5", 480, "hours") is 90
 */
export function parseDuration(text: string, dayMinutes: number, bare: BareUnit): number | null {
  const plain = text.trim().toLowerCase();
  const clock = CLOCK.exec(plain);
  if (clock !== null) return Number(clock[1]) * 60 + Number(clock[2]);
  const match = UNIT.exec(plain);
  if (match === null) return null;
  const amount = Number(match[1]!.replace(",", "."));
  const unit = match[2]?.[0] ?? bare[0]!;
  const minutes = { w: DAYS_OF_A_WEEK * dayMinutes, d: dayMinutes, h: 60, m: 1 }[unit]!;
  const total = Math.round(amount * minutes);
  return Number.isSafeInteger(total) ? total : null;
}

const trimmed = (value: number, digits: number): string => String(Math.round(value * 10 ** digits) / 10 ** digits);

/**
 * Writes minutes as days of the calendar where they come out in quarters of a day, else as hours.
 * @example formatDuration(1200, 480) is "2.5 d"; formatDuration(100, 480) is "1.67 h"
 */
export function formatDuration(minutes: number, dayMinutes: number): string {
  const inQuarters = minutes !== 0 && (minutes * 4) % dayMinutes === 0;
  return inQuarters || minutes >= dayMinutes * 10 ? `${trimmed(minutes / dayMinutes, 2)} d` : formatHours(minutes);
}

/** Writes minutes as hours, two digits at most. */
export const formatHours = (minutes: number): string => `${trimmed(minutes / 60, 2)} h`;
