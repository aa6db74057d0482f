import { dayWords, moneyWords } from "./numberWords.ts";

/** To a tenth, half away from zero, so that early and late round alike. */
export const roundedDays = (days: number): number => (Math.sign(days) * Math.round(Math.abs(days) * 10)) / 10;

/** Working days as "12 d late", "3 d early", "on the day". */
export function driftWords(days: number | null): string {
  if (days === null) return "–";
  const rounded = roundedDays(days);
  if (rounded === 0) return "on the day";
  return `${dayWords(Math.abs(rounded))} ${rounded > 0 ? "late" : "early"}`;
}

/** Working days that a date has moved, as "12 d later", "3 d earlier"; `still` where nothing worked lies between. */
export const movedWords = (days: number | null, still = "no worked time apart"): string =>
  driftWords(days).replace("late", "later").replace("early", "earlier").replace("on the day", still);

/** Days of margin as "5 d in hand", "3 d short". */
export function marginWords(days: number): string {
  const rounded = roundedDays(days);
  return rounded < 0 ? `${dayWords(-rounded)} short` : `${dayWords(rounded)} in hand`;
}

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
/** How a deadline stands. */
export type DeadlineState = keyof typeof DEADLINE_WORDS;
/** Whether how a deadline stands is bad news, good news or undecided. */
export const DEADLINE_TONES: Readonly<Record<DeadlineState, "adverse" | "favourable" | "undecided" | "plain">> = {
  metOnTime: "favourable",
  metLate: "adverse",
  dropped: "undecided",
  breached: "adverse",
  willBreach: "adverse",
  tight: "undecided",
  safe: "plain",
};

/** How a promise stands, with its margin where it has one. */
export const standingWords = (state: DeadlineState, marginDays: number | null): string =>
  marginDays === null ? DEADLINE_WORDS[state] : `${DEADLINE_WORDS[state]}, ${marginWords(marginDays)}`;

/** Which way a variance goes, "over"; "even" where nothing of it would be shown. */
export const sideWords = (minor: number | null, digits: number, adverse: string, favourable: string): string =>
  minor === null ? "" : moneyWords(minor, digits) === "0" ? "even" : minor < 0 ? adverse : favourable;

/** A variance in words: "4 200 over", "900 behind". */
export function varianceWords(minor: number | null, digits: number, adverse: string, favourable: string): string {
  if (minor === null) return "–";
  const side = sideWords(minor, digits, adverse, favourable);
  return side === "even" ? side : `${moneyWords(Math.abs(minor), digits)} ${side}`;
}
