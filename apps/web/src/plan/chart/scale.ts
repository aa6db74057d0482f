import {
  civilOf,
  dateWords,
  type EpochDay,
  epochDay,
  formatDate,
  localMinute,
  MONTHS,
  openOf,
  parseDate,
  startDayOf,
  weekdayOf,
} from "@chronometra/core";

const DAY = 1440;

/** Pixels from one row of the plan, and its lane, to the next. */
export const ROW_HEIGHT = 21;

/** How instants lie on the chart: `from` at x 0, so many pixels a day. Instants in local minutes since 1990. */
export interface Scale {
  readonly from: number;
  readonly to: number;
  readonly pixelsPerDay: number;
}

/** The place of an instant, in pixels. */
export const xOf = (scale: Scale, at: number): number => ((at - scale.from) / DAY) * scale.pixelsPerDay;

export const widthOf = (scale: Scale): number => Math.ceil(xOf(scale, scale.to));

export const MIN_PIXELS_PER_DAY = 0.15;
export const MAX_PIXELS_PER_DAY = 240;

/** A mark on the chart's head: where, and what it says. */
export interface Tick {
  readonly x: number;
  readonly label: string;
}

/** Months since the year 0, for counting in steps of several months. */
const countMonths = (year: number, month: number): number => year * 12 + month - 1;

const dayOf = (year: number, month: number): EpochDay | null =>
  parseDate(`${year}-${String(month).padStart(2, "0")}-01`);

/** The first days of every `step` months that lie on the scale. */
function monthStarts(scale: Scale, step: number): { day: EpochDay; year: number; month: number }[] {
  const first = civilOf(startDayOf(localMinute(scale.from)));
  const last = civilOf(startDayOf(localMinute(scale.to)));
  const starts: { day: EpochDay; year: number; month: number }[] = [];
  for (
    let index = Math.floor(countMonths(first.year, first.month) / step) * step;
    index <= countMonths(last.year, last.month);
    index += step
  ) {
    const year = Math.floor(index / 12);
    const month = (index % 12) + 1;
    const day = dayOf(year, month);
    if (day !== null) starts.push({ day, year, month });
  }
  return starts;
}

const at = (scale: Scale, day: EpochDay, label: string): Tick => ({ x: xOf(scale, openOf(day)), label });

function days(scale: Scale, step: number, label: (day: EpochDay) => string): Tick[] {
  const ticks: Tick[] = [];
  const first = startDayOf(localMinute(scale.from));
  const begin = step === 7 ? first - weekdayOf(first) : first;
  for (let day = begin; day * DAY <= scale.to; day += step) ticks.push(at(scale, epochDay(day), label(epochDay(day))));
  return ticks;
}

const months = (scale: Scale, step: number, label: (year: number, month: number) => string): Tick[] =>
  monthStarts(scale, step).map(({ day, year, month }) => at(scale, day, label(year, month)));

const monthYear = (year: number, month: number): string => `${MONTHS[month - 1]} ${year}`;
const onlyMonth = (_year: number, month: number): string => MONTHS[month - 1]!;
const onlyYear = (year: number): string => String(year);

/**
 * The two rows of marks of the chart's head, as fine as the scale has room for: hours, days, weeks, months, quarters,
 * half years. Together they say month and year at every zoom.
 */
export function ticksOf(scale: Scale): { major: Tick[]; minor: Tick[] } {
  const { pixelsPerDay } = scale;
  if (pixelsPerDay >= 120) return { major: days(scale, 1, wholeDay), minor: hours(scale, pixelsPerDay >= 200 ? 3 : 6) };
  if (pixelsPerDay >= 18)
    return { major: months(scale, 1, monthYear), minor: days(scale, 1, (day) => String(civilOf(day).day)) };
  if (pixelsPerDay >= 4)
    return { major: months(scale, 1, monthYear), minor: days(scale, 7, (day) => String(civilOf(day).day)) };
  if (pixelsPerDay >= 1) return { major: months(scale, 12, onlyYear), minor: months(scale, 1, onlyMonth) };
  if (pixelsPerDay >= 0.35) return { major: months(scale, 12, onlyYear), minor: months(scale, 3, onlyMonth) };
  return { major: months(scale, 12, onlyYear), minor: months(scale, 6, onlyMonth) };
}

const wholeDay = (day: EpochDay): string => dateWords(formatDate(day));

function hours(scale: Scale, step: number): Tick[] {
  const ticks: Tick[] = [];
  const every = step * 60;
  for (let minute = Math.ceil(scale.from / every) * every; minute <= scale.to; minute += every)
    ticks.push({ x: xOf(scale, minute), label: `${(minute % DAY) / 60}h` });
  return ticks;
}

/** The instant at a place; the way back from {@link xOf}. */
export const instantAt = (scale: Scale, x: number): number => scale.from + (x / scale.pixelsPerDay) * DAY;
