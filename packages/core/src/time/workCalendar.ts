import {
  type EpochDay,
  epochDay,
  HORIZON_DAYS,
  HORIZON_END,
  type LocalMinute,
  type WorkMinutes,
  localMinute,
  MINUTES_PER_DAY,
  workMinutes,
} from "./instant.ts";

/** `[from, to)` in minutes of the day, ascending, not overlapping; they may touch. */
export type Shift = readonly [from: number, to: number];

/** Thrown where a date would lie outside 1990-01-01 to 2099-12-31; the caller adds whose date it is. */
export class OutsideHorizon extends Error {
  constructor() {
    super("runs outside 1990-01-01 to 2099-12-31");
    this.name = "OutsideHorizon";
  }
}

/** One hint per this many working minutes: most days are longer, and then the hint is right or one day short. */
const HINT_SHIFT = 8;
/** Minutes of a day and its end. */
const DAY_TABLE = MINUTES_PER_DAY + 1;

/** Working minutes before each minute of a day, pattern after pattern. */
function workTables(patterns: readonly (readonly Shift[])[]): Uint16Array {
  const tables = new Uint16Array(patterns.length * DAY_TABLE);
  patterns.forEach((shifts, p) => {
    let worked = 0;
    let s = 0;
    for (let minute = 0; minute < MINUTES_PER_DAY; minute++) {
      while (s < shifts.length && minute >= shifts[s]![1]) s++;
      if (s < shifts.length && minute >= shifts[s]![0]) worked++;
      tables[p * DAY_TABLE + minute + 1] = worked;
    }
  });
  return tables;
}

/** The minute of the day at which each working minute of a pattern begins, and where each pattern's list does. */
function beginTables(patterns: readonly (readonly Shift[])[]): { offsets: Int32Array; begins: Uint16Array } {
  const offsets = new Int32Array(patterns.length);
  const begins: number[] = [];
  patterns.forEach((shifts, p) => {
    offsets[p] = begins.length;
    for (const [from, to] of shifts) for (let minute = from; minute < to; minute++) begins.push(minute);
  });
  return { offsets, begins: Uint16Array.from(begins) };
}

/**
 * Working time as an index. `indexAt` is W, `startAt` is S and `finishAt` is F of calculations.md section 1.
 * Within a day all three are one look into a table; loops over a day's shifts took three times as long, nearly all of
 * it in branches guessed wrong.
 */
export class WorkCalendar {
  /** Working minutes in the whole horizon. */
  readonly total: WorkMinutes;
  /** Two numbers a day, beside each other since they are read together: W at its 00:00, and its table in `workBefore`. */
  private readonly days: Int32Array;
  private readonly workBefore: Uint16Array;
  private readonly begins: Uint16Array;
  private readonly workedDays: Int32Array;
  /** Three numbers a worked day: W at its 00:00, that instant, and its list in `begins`; W alone after the last. */
  private readonly worked: Int32Array;
  private readonly hints: Int32Array;

  /**
   * @param patterns the distinct days this calendar has, each a list of shifts
   * @param patternOf the pattern of each day of the horizon
   * @param dayMinutes what one shown day stands for
   */
  constructor(
    patterns: readonly (readonly Shift[])[],
    patternOf: Uint16Array,
    readonly dayMinutes: WorkMinutes,
  ) {
    const minutesOf = patterns.map((shifts) => shifts.reduce((sum, [from, to]) => sum + to - from, 0));
    const { offsets, begins } = beginTables(patterns);
    const days = new Int32Array(2 * (HORIZON_DAYS + 1));
    const worked = new Int32Array(3 * HORIZON_DAYS + 1);
    const workedDays = new Int32Array(HORIZON_DAYS);
    let total = 0;
    let count = 0;
    for (let day = 0; day < HORIZON_DAYS; day++) {
      const pattern = patternOf[day]!;
      days[2 * day] = total;
      days[2 * day + 1] = pattern * DAY_TABLE;
      if (minutesOf[pattern] === 0) continue;
      worked[3 * count] = total;
      worked[3 * count + 1] = day * MINUTES_PER_DAY;
      worked[3 * count + 2] = offsets[pattern]!;
      workedDays[count++] = day;
      total += minutesOf[pattern]!;
    }
    days[2 * HORIZON_DAYS] = total;
    worked[3 * count] = total;
    this.total = workMinutes(total);
    this.days = days;
    this.workBefore = workTables(patterns);
    this.begins = begins;
    this.workedDays = workedDays.slice(0, count);
    this.worked = worked.slice(0, 3 * count + 1);
    this.hints = new Int32Array((total >> HINT_SHIFT) + 2);
    for (let h = 0, k = 0; h < this.hints.length; h++) {
      while (k + 1 < count && worked[3 * (k + 1)]! <= h << HINT_SHIFT) k++;
      this.hints[h] = k;
    }
  }

  /** W(t): working minutes from the beginning of the horizon to `at`. Throws {@link OutsideHorizon}. */
  indexAt(at: LocalMinute): WorkMinutes {
    if (!(at >= 0 && at <= HORIZON_END)) throw new OutsideHorizon();
    const day = (at / MINUTES_PER_DAY) | 0;
    return workMinutes(this.days[2 * day]! + this.workBefore[this.days[2 * day + 1]! + at - day * MINUTES_PER_DAY]!);
  }

  /** S(i): the latest instant with no more than `index` working minutes before it. Throws {@link OutsideHorizon}. */
  startAt(index: WorkMinutes): LocalMinute {
    if (!(index >= 0 && index < this.total)) throw new OutsideHorizon();
    const day = 3 * this.workedDayOf(index);
    return localMinute(this.worked[day + 1]! + this.begins[this.worked[day + 2]! + index - this.worked[day]!]!);
  }

  /** S(i), or `beyond` where no working time is left after `index`. Throws {@link OutsideHorizon} below 0. */
  startOr(index: WorkMinutes, beyond: LocalMinute): LocalMinute {
    return index >= this.total ? beyond : this.startAt(index);
  }

  /** F(i): the earliest instant with at least `index` working minutes before it. Throws {@link OutsideHorizon}. */
  finishAt(index: WorkMinutes): LocalMinute {
    // A finish is one minute after the last working minute before it has begun.
    return index === 0 ? localMinute(0) : localMinute(this.startAt(workMinutes(index - 1)) + 1);
  }

  /** The largest i with S(i) <= `at`: the last working minute that begins no later. May be -1. */
  lastStartIndex(at: LocalMinute): WorkMinutes {
    const index = this.indexAt(at);
    return index < this.total && this.startAt(index) === at ? index : workMinutes(index - 1);
  }

  /** Working minutes of one day of the horizon. */
  minutesOn(day: EpochDay): WorkMinutes {
    return workMinutes(this.days[2 * day + 2]! - this.days[2 * day]!);
  }

  /** The n-th worked day from the day `from` on, counting from 1; `null` past the horizon. */
  workedDay(from: number, n: number): EpochDay | null {
    const day = this.workedDays[this.workedCountBefore(from) + n - 1];
    return day === undefined ? null : epochDay(day);
  }

  /** Worked days of the horizon before a day. */
  workedCountBefore(day: number): number {
    const days = this.workedDays;
    let low = 0;
    let high = days.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (days[middle]! < day) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** The worked day, as a position among worked days, in which working minute `index`+1 lies. */
  private workedDayOf(index: number): number {
    const { worked } = this;
    let low = this.hints[index >> HINT_SHIFT]!;
    if (worked[3 * low + 3]! > index) return low;
    low++;
    if (worked[3 * low + 3]! > index) return low;
    let high = this.hints[(index >> HINT_SHIFT) + 1]!;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (worked[3 * middle]! <= index) low = middle;
      else high = middle - 1;
    }
    return low;
  }
}
