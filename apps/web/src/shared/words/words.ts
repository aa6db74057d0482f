import { dateWords, dayWords, moneyWords as money, MONTHS, ratioWords } from "@chronometra/core";

export {
  countWords,
  dateWords,
  dayWords,
  moneyWords as money,
  numberWords,
  percentWords,
  ratioWords,
  readDate,
  shortDateWords,
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

/** To a tenth, half away from zero, so that early and late round alike. */
export const roundedDays = (days: number): number => (Math.sign(days) * Math.round(Math.abs(days) * 10)) / 10;

/** Working days as "12 d late", "3 d early", "on the day". */
export function driftWords(days: number | null): string {
  if (days === null) return "–";
  const rounded = roundedDays(days);
  if (rounded === 0) return "on the day";
  return `${dayWords(Math.abs(rounded))} ${rounded > 0 ? "late" : "early"}`;
}

export const driftTone = (days: number | null): Tone => {
  const rounded = days === null ? 0 : roundedDays(days);
  return rounded > 0 ? "adverse" : rounded < 0 ? "favourable" : "plain";
};

/** Working days that a date has moved, as "12 d later", "3 d earlier"; `still` where nothing worked lies between. */
export const movedWords = (days: number | null, still = "no worked time apart"): string =>
  driftWords(days).replace("late", "later").replace("early", "earlier").replace("on the day", still);

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

/** Days of margin as "5 d in hand", "3 d short". */
export function marginWords(days: number): string {
  const rounded = roundedDays(days);
  return rounded < 0 ? `${dayWords(-rounded)} short` : `${dayWords(rounded)} in hand`;
}

/** How a promise stands, with its margin where it has one. */
export const standingWords = (state: DeadlineState, marginDays: number | null): string =>
  marginDays === null ? DEADLINE_WORDS[state] : `${DEADLINE_WORDS[state]}, ${marginWords(marginDays)}`;

/** Which way a variance goes, "over"; "even" where nothing of it would be shown. */
export const sideWords = (minor: number | null, digits: number, adverse: string, favourable: string): string =>
  minor === null ? "" : money(minor, digits) === "0" ? "even" : minor < 0 ? adverse : favourable;

/** A variance in words: "4 200 over", "900 behind". */
export function varianceWords(minor: number | null, digits: number, adverse: string, favourable: string): string {
  if (minor === null) return "–";
  const side = sideWords(minor, digits, adverse, favourable);
  return side === "even" ? side : `${money(Math.abs(minor), digits)} ${side}`;
}

export const varianceTone = (value: number | null): Tone =>
  value === null || value === 0 ? "plain" : value < 0 ? "adverse" : "favourable";

/** Tone of an index where 1 is on plan and below is adverse, as far as its digits tell. */
export const indexTone = (value: number | null): Tone =>
  value === null || ratioWords(value) === "1.00" ? "plain" : value < 1 ? "adverse" : "favourable";

/** Deadline states in words. */
export const DEADLINE_WORDS = {
  metOnTime: "kept",
  metLate: "kept late",
  dropped: "dropped",
  breached: "broken",
  willBreach: "will break",
  tight: "tight",
  safe: "safe",
} as const;
export type DeadlineState = keyof typeof DEADLINE_WORDS;
export const DEADLINE_TONES: Record<DeadlineState, Tone> = {
  metOnTime: "favourable",
  metLate: "adverse",
  dropped: "undecided",
  breached: "adverse",
  willBreach: "adverse",
  tight: "undecided",
  safe: "plain",
};

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
