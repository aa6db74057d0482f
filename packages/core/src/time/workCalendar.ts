import { HORIZON_DAYS, HORIZON_END, MINUTES_PER_DAY, type LocalMinute } from "./instant.ts";

/** `[from, to)` in minutes of the day, ascending, not overlapping; they may touch. */
export type Shift = readonly [from: number, to: number];

/** Thrown where a date would lie outside 1990-01-01 to 2099-12-31; the caller adds whose date it is. */
export class OutsideHorizon extends Error {
  constructor() {
    super("runs outside 1990-01-01 to 2099-12-31");
    this.name = "OutsideHorizon";
  }
}

/** One hint per this many working minutes; the search between two hints is short. */
const HINT_SHIFT = 9;

/**
 * Working time as an index. `indexAt` is W, `startAt` is S and `finishAt` is F of calculations.md section 1.
 * All three look up a table by day or by hint and search at most the working days between two hints.
 */
export class WorkCalendar {
  /** Working minutes in the whole horizon. */
  readonly total: number;
  /** W at 00:00 of each day of the horizon, and at its end. */
  private readonly before: Int32Array;
  private readonly patternOf: Uint16Array;
  private readonly workedDays: Int32Array;
  /** W at 00:00 of each worked day, and the total. */
  private readonly workedBefore: Int32Array;
  private readonly hints: Int32Array;

  /**
   * @param patterns the distinct days this calendar has, each a list of shifts
   * @param patternOf the pattern of each day of the horizon
   * @param dayMinutes what one shown day stands for
   */
  constructor(
    private readonly patterns: readonly (readonly Shift[])[],
    patternOf: Uint16Array,
    readonly dayMinutes: number,
  ) {
    this.patternOf = patternOf;
    const minutesOf = patterns.map((shifts) => shifts.reduce((sum, [from, to]) => sum + to - from, 0));
    const before = new Int32Array(HORIZON_DAYS + 1);
    let workedCount = 0;
    for (let day = 0; day < HORIZON_DAYS; day++) {
      const minutes = minutesOf[patternOf[day]!]!;
      before[day + 1] = before[day]! + minutes;
      if (minutes > 0) workedCount++;
    }
    this.before = before;
    this.total = before[HORIZON_DAYS]!;
    this.workedDays = new Int32Array(workedCount);
    this.workedBefore = new Int32Array(workedCount + 1);
    for (let day = 0, k = 0; day < HORIZON_DAYS; day++) {
      if (before[day + 1]! === before[day]!) continue;
      this.workedDays[k] = day;
      this.workedBefore[k++] = before[day]!;
    }
    this.workedBefore[workedCount] = this.total;
    this.hints = new Int32Array((this.total >> HINT_SHIFT) + 2);
    for (let h = 0, k = 0; h < this.hints.length; h++) {
      while (k + 1 < workedCount && this.workedBefore[k + 1]! <= h << HINT_SHIFT) k++;
      this.hints[h] = k;
    }
  }

  /** W(t): working minutes from the beginning of the horizon to `at`. Throws {@link OutsideHorizon}. */
  indexAt(at: number): number {
    if (!(at >= 0 && at <= HORIZON_END)) throw new OutsideHorizon();
    const day = (at / MINUTES_PER_DAY) | 0;
    const minute = at - day * MINUTES_PER_DAY;
    let index = this.before[day]!;
    if (minute === 0) return index;
    const shifts = this.patterns[this.patternOf[day]!]!;
    for (let s = 0; s < shifts.length; s++) {
      const shift = shifts[s]!;
      if (minute <= shift[0]) break;
      index += (minute < shift[1] ? minute : shift[1]) - shift[0];
    }
    return index;
  }

  /** S(i): the latest instant with no more than `index` working minutes before it. Throws {@link OutsideHorizon}. */
  startAt(index: number): LocalMinute {
    if (!(index >= 0 && index < this.total)) throw new OutsideHorizon();
    const k = this.workedDayOf(index);
    const day = this.workedDays[k]!;
    let rest = index - this.workedBefore[k]!;
    const shifts = this.patterns[this.patternOf[day]!]!;
    for (let s = 0; ; s++) {
      const shift = shifts[s]!;
      const length = shift[1] - shift[0];
      if (rest < length) return (day * MINUTES_PER_DAY + shift[0] + rest) as LocalMinute;
      rest -= length;
    }
  }

  /** F(i): the earliest instant with at least `index` working minutes before it. Throws {@link OutsideHorizon}. */
  finishAt(index: number): LocalMinute {
    if (!(index >= 0 && index <= this.total)) throw new OutsideHorizon();
    if (index === 0) return 0 as LocalMinute;
    const k = this.workedDayOf(index - 1);
    const day = this.workedDays[k]!;
    let rest = index - this.workedBefore[k]!;
    const shifts = this.patterns[this.patternOf[day]!]!;
    for (let s = 0; ; s++) {
      const shift = shifts[s]!;
      const length = shift[1] - shift[0];
      if (rest <= length) return (day * MINUTES_PER_DAY + shift[0] + rest) as LocalMinute;
      rest -= length;
    }
  }

  /** The largest i with S(i) <= `at`: the last working minute that begins no later. May be -1. */
  lastStartIndex(at: number): number {
    const index = this.indexAt(at);
    return index < this.total && this.startAt(index) === at ? index : index - 1;
  }

  /** Working minutes of one day of the horizon. */
  minutesOn(day: number): number {
    return this.before[day + 1]! - this.before[day]!;
  }

  /** The n-th worked day from the day `from` on, counting from 1; `null` past the horizon. */
  workedDay(from: number, n: number): number | null {
    return this.workedDays[this.workedCountBefore(from) + n - 1] ?? null;
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
    const h = index >> HINT_SHIFT;
    let low = this.hints[h]!;
    let high = this.hints[h + 1]!;
    const before = this.workedBefore;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (before[middle]! <= index) low = middle;
      else high = middle - 1;
    }
    return low;
  }
}
