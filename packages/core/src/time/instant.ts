/** Local wall-clock minutes since 1990-01-01T00:00, without zone or daylight saving. */
export type LocalMinute = number & { readonly unit: "LocalMinute" };
/** Whole days since 1990-01-01. */
export type EpochDay = number & { readonly unit: "EpochDay" };
/** Minutes of working time by some calendar: a length, or an index counted from the beginning of the horizon. */
export type WorkMinutes = number & { readonly unit: "WorkMinutes" };

/** A number that is known to be minutes since the epoch, as arithmetic and typed arrays give them. */
export const localMinute = (minutes: number): LocalMinute => minutes as LocalMinute;
/** A number that is known to be days since the epoch. */
export const epochDay = (days: number): EpochDay => days as EpochDay;
/** A number that is known to be working minutes. */
export const workMinutes = (minutes: number): WorkMinutes => minutes as WorkMinutes;

/** The lesser and the greater of two of one unit. */
export const lesser = <T extends number>(a: T, b: T): T => (b < a ? b : a);
export const greater = <T extends number>(a: T, b: T): T => (b > a ? b : a);

export const MINUTES_PER_DAY = 1440;
/** 1990-01-01 as a count of days since 1970-01-01. */
const EPOCH_OFFSET_DAYS = 7305;
/** Days from 1990-01-01 to 2099-12-31, both counted. */
export const HORIZON_DAYS = 40177;
/** The first minute after the horizon: 2100-01-01T00:00. */
export const HORIZON_END = localMinute(HORIZON_DAYS * MINUTES_PER_DAY);

const FIRST_YEAR = 1990;
const LAST_YEAR = 2099;
const DAYS_BEFORE_MONTH = [0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334];
const DAYS_IN_MONTH = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

// Within 1990 to 2099 every fourth year is a leap year, 2000 included.
const isLeap = (year: number): boolean => year % 4 === 0;

/** Days from 1970-01-01 to 1 January of the year; leap years are those divisible by four (holds to 2099). */
const daysBeforeYear = (year: number): number => (year - 1970) * 365 + Math.floor((year - 1969) / 4);

const digitsAt = (text: string, from: number, count: number): number => {
  let value = 0;
  for (let i = from; i < from + count; i++) {
    const digit = text.charCodeAt(i) - 48;
    if (digit < 0 || digit > 9) return -1;
    value = value * 10 + digit;
  }
  return value;
};

/**
 * Reads `YYYY-MM-DD`.
 * @returns the day, or `null` where the text is no date of the calendar between 1990-01-01 and 2099-12-31.
 * @example parseDate("2026-02-28") is 13207; parseDate("2026-02-29") is null
 */
export function parseDate(text: string): EpochDay | null {
  return text.length === 10 ? dateAtStart(text) : null;
}

function dateAtStart(text: string): EpochDay | null {
  if (text.charCodeAt(4) !== 45 || text.charCodeAt(7) !== 45) return null;
  const year = digitsAt(text, 0, 4);
  const month = digitsAt(text, 5, 2);
  const day = digitsAt(text, 8, 2);
  if (year < FIRST_YEAR || year > LAST_YEAR || month < 1 || month > 12 || day < 1) return null;
  const leapDay = month === 2 && isLeap(year) ? 1 : 0;
  if (day > DAYS_IN_MONTH[month - 1]! + leapDay) return null;
  const afterLeapDay = month > 2 && isLeap(year) ? 1 : 0;
  return (daysBeforeYear(year) -
    EPOCH_OFFSET_DAYS +
    DAYS_BEFORE_MONTH[month - 1]! +
    afterLeapDay +
    day -
    1) as EpochDay;
}

/**
 * Reads `YYYY-MM-DDTHH:MM`.
 * @returns the instant, or `null` where the text is none within the horizon.
 */
export function parseInstant(text: string): LocalMinute | null {
  if (text.length !== 16 || text.charCodeAt(10) !== 84 || text.charCodeAt(13) !== 58) return null;
  const day = dateAtStart(text);
  const hour = digitsAt(text, 11, 2);
  const minute = digitsAt(text, 14, 2);
  if (day === null || hour < 0 || hour > 23 || minute < 0 || minute > 59) return null;
  return localMinute(day * MINUTES_PER_DAY + hour * 60 + minute);
}

/** Reads `HH:MM`, `24:00` allowed, as minutes of the day; `null` where it is no time. */
export function parseTime(text: string): number | null {
  if (text.length !== 5 || text.charCodeAt(2) !== 58) return null;
  const hour = digitsAt(text, 0, 2);
  const minute = digitsAt(text, 3, 2);
  if (hour < 0 || minute < 0 || minute > 59 || hour > 24 || (hour === 24 && minute > 0)) return null;
  return hour * 60 + minute;
}

const pad2 = (value: number): string => (value < 10 ? `0${value}` : String(value));

/** Year, month (1 to 12) and day of the month of a day. */
export function civilOf(day: EpochDay): { year: number; month: number; day: number } {
  const since1970 = day + EPOCH_OFFSET_DAYS;
  let year = 1970 + Math.floor(since1970 / 365.25);
  if (daysBeforeYear(year) > since1970) year--;
  else if (daysBeforeYear(year + 1) <= since1970) year++;
  const dayOfYear = since1970 - daysBeforeYear(year);
  let month = 12;
  while (dayOfYear < DAYS_BEFORE_MONTH[month - 1]! + (month > 2 && isLeap(year) ? 1 : 0)) month--;
  const before = DAYS_BEFORE_MONTH[month - 1]! + (month > 2 && isLeap(year) ? 1 : 0);
  return { year, month, day: dayOfYear - before + 1 };
}

/** Days as written before: a plan of ten thousand activities writes a few thousand days forty thousand times. */
const written = new Map<number, string>();

/** Writes a day as `YYYY-MM-DD`. */
export function formatDate(day: EpochDay): string {
  const known = written.get(day);
  if (known !== undefined) return known;
  const civil = civilOf(day);
  const text = `${civil.year}-${pad2(civil.month)}-${pad2(civil.day)}`;
  written.set(day, text);
  return text;
}

/** Writes an instant as `YYYY-MM-DDTHH:MM`; midnight is 00:00 of the day that begins. */
export function formatInstant(at: LocalMinute): string {
  const minuteOfDay = at % MINUTES_PER_DAY;
  return `${formatDate(startDayOf(at))}T${formatTime(minuteOfDay)}`;
}

/** Writes minutes of a day as `HH:MM`. */
export const formatTime = (minutes: number): string => `${pad2(Math.floor(minutes / 60))}:${pad2(minutes % 60)}`;

/** 0 for Monday to 6 for Sunday. */
export const weekdayOf = (day: EpochDay): number => day % 7;

/** 00:00 of the day. */
export const openOf = (day: EpochDay): LocalMinute => localMinute(day * MINUTES_PER_DAY);
/** 24:00 of the day. */
export const closeOf = (day: EpochDay): LocalMinute => localMinute((day + 1) * MINUTES_PER_DAY);
/** The day on which a start is shown: the day of its instant. */
export const startDayOf = (at: LocalMinute): EpochDay => epochDay(Math.floor(at / MINUTES_PER_DAY));
/** The day on which a finish is shown: the day of the minute before its instant. */
export const finishDayOf = (at: LocalMinute): EpochDay => epochDay(Math.floor((at - 1) / MINUTES_PER_DAY));
/** A day some days later (earlier, where negative); not checked against the horizon. */
export const addDays = (day: EpochDay, days: number): EpochDay => epochDay(day + days);

/** The day after a date `YYYY-MM-DD`. */
export const dayAfter = (date: string): string => formatDate(addDays(parseDate(date)!, 1));
