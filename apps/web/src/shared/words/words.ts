import { dateWords, type DeadlineState, MONTHS, ratioWords, roundedDays } from "@chronometra/core";

export {
  countWords,
  dateWords,
  dayWords,
  DEADLINE_TONES,
  DEADLINE_WORDS,
  driftWords,
  marginWords,
  moneyWords as money,
  movedWords,
  numberWords,
  percentWords,
  ratioWords,
  readDate,
  roundedDays,
  shortDateWords,
  sideWords,
  standingWords,
  varianceWords,
  type DeadlineState,
} from "@chronometra/core";

/** What to do where a text is no date. */
export const NOT_A_DATE = "Write a date as 24 Nov 2026.";

/** The day of an instant by the reader's clock, "24 Nov 2026". */
const dayOf = (at: Date): string => `${at.getDate()} ${MONTHS[at.getMonth()]} ${at.getFullYear()}`;

/** An ISO instant as "24 Nov 2026, 14:05" by the reader's clock. */
export function momentWords(at: string): string {
  const moment = new Date(at);
  return `${dayOf(moment)}, ${String(moment.getHours()).padStart(2, "0")}:${String(moment.getMinutes()).padStart(2, "0")}`;
}

/** An axis of time of a chart: each mark says month and year, and the day where it is not the first. */
export const timeAxis = (text: object): object => {
  const day = (time: number): string => dayOf(new Date(time));
  return {
    type: "time",
    axisLabel: { ...text, hideOverlap: true, formatter: (time: number) => day(time).replace(/^1 /, "") },
    axisPointer: { label: { formatter: ({ value }: { value: number }) => day(value) } },
  };
};

/** Whether a figure is bad news, good news, or neither. */
export type Tone = "adverse" | "favourable" | "undecided" | "plain";

export const driftTone = (days: number | null): Tone => {
  const rounded = days === null ? 0 : roundedDays(days);
  return rounded > 0 ? "adverse" : rounded < 0 ? "favourable" : "plain";
};

/** What a movement is measured from: "Since period 9" where it is one period for all. */
export const sinceWords = (periods: readonly number[]): string =>
  new Set(periods).size === 1 ? `Since period ${periods[0]}` : "Since last period";

/** Two dates as "24 Nov 2026 → 2 Dec 2026", with the times of day where it is the same date. */
export const fromToWords = ({
  from,
  to,
  clock,
}: {
  readonly from: string | null;
  readonly to: string | null;
  readonly clock: { readonly from: string; readonly to: string } | null;
}): string =>
  clock === null ? `${dateWords(from)} → ${dateWords(to)}` : `${dateWords(from)}, ${clock.from} → ${clock.to}`;

export const varianceTone = (value: number | null): Tone =>
  value === null || value === 0 ? "plain" : value < 0 ? "adverse" : "favourable";

/** Tone of an index where 1 is on plan and below is adverse, as far as its digits tell. */
export const indexTone = (value: number | null): Tone =>
  value === null || ratioWords(value) === "1.00" ? "plain" : value < 1 ? "adverse" : "favourable";

/** Whether nothing can change any more about how a promise was kept. */
export const isSettled = (state: DeadlineState): boolean =>
  state === "metOnTime" || state === "metLate" || state === "dropped";

/** From the worst to the best. */
export const DEADLINE_ORDER: readonly DeadlineState[] = [
  "breached",
  "willBreach",
  "metLate",
  "tight",
  "safe",
  "dropped",
  "metOnTime",
];

/** "2 d 6 h" from one instant to another, "1 d 3 h over" where it has passed. */
export function timeLeftWords(until: Date, now: Date): string {
  const hours = Math.floor(Math.abs(until.getTime() - now.getTime()) / 3_600_000);
  const days = Math.floor(hours / 24);
  const words = days > 0 ? `${days} d ${hours % 24} h` : `${hours} h`;
  return until < now ? `${words} over` : words;
}
