const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** `2026-11-24` as "24 Nov 2026"; `null` as a dash. */
export function dateWords(date: string | null): string {
  if (date === null) return "–";
  return `${Number(date.slice(8, 10))} ${MONTHS[Number(date.slice(5, 7)) - 1]} ${date.slice(0, 4)}`;
}

/** `2026-11-24` as "24 Nov". */
export const shortDateWords = (date: string): string => dateWords(date).slice(0, -5);

const MONTH_OF = new Map(MONTHS.map((name, i) => [name.toLowerCase(), i + 1]));

/**
 * A date as typed, `2026-11-24` or "24 Nov 2026" or "24 November" (of the year given), as ISO.
 * @returns `null` where it is none, or could be read in two ways
 */
export function readDate(text: string, year: string): string | null {
  const plain = text.trim().toLowerCase();
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(plain);
  const words = /^(\d{1,2})[ .-]*([a-z]{3})[a-z]*[ .,-]*(\d{4})?$/.exec(plain);
  const parts = iso !== null ? [iso[1]!, iso[2]!, iso[3]!] : words !== null && MONTH_OF.has(words[2]!) ? [words[3] ?? year, String(MONTH_OF.get(words[2]!)), words[1]!] : null;
  if (parts === null) return null;
  const date = `${parts[0]}-${parts[1]!.padStart(2, "0")}-${parts[2]!.padStart(2, "0")}`;
  const at = new Date(`${date}T00:00:00Z`);
  return !Number.isNaN(at.getTime()) && at.toISOString().slice(0, 10) === date ? date : null;
}

/** An ISO instant as "24 Nov 2026, 14:05" by the reader's clock. */
export function momentWords(at: string): string {
  const moment = new Date(at);
  const date = `${moment.getDate()} ${MONTHS[moment.getMonth()]} ${moment.getFullYear()}`;
  return `${date}, ${String(moment.getHours()).padStart(2, "0")}:${String(moment.getMinutes()).padStart(2, "0")}`;
}

const oneDigit = new Intl.NumberFormat(undefined, { maximumFractionDigits: 1 });
const twoDigits = new Intl.NumberFormat(undefined, { minimumFractionDigits: 2, maximumFractionDigits: 2 });

/** Whether a figure is bad news, good news, or neither. */
export type Tone = "adverse" | "favourable" | "undecided" | "plain";

/** To a tenth, half away from zero, so that early and late round alike. */
const roundedDays = (days: number): number => (Math.sign(days) * Math.round(Math.abs(days) * 10)) / 10;

/** Working days as "12 d late", "3 d early", "on the day". */
export function driftWords(days: number | null): string {
  if (days === null) return "–";
  const rounded = roundedDays(days);
  if (rounded === 0) return "on the day";
  return `${oneDigit.format(Math.abs(rounded))} d ${rounded > 0 ? "late" : "early"}`;
}

export const driftTone = (days: number | null): Tone => {
  const rounded = days === null ? 0 : roundedDays(days);
  return rounded > 0 ? "adverse" : rounded < 0 ? "favourable" : "plain";
};

/** Working days that a date has moved, as "12 d later", "3 d earlier"; `still` where nothing worked lies between. */
export const movedWords = (days: number | null, still = "no worked time apart"): string => driftWords(days).replace("late", "later").replace("early", "earlier").replace("on the day", still);

/** Two dates as "24 Nov 2026 → 2 Dec 2026", with the times of day where it is the same date. */
export const fromToWords = ({ from, to, clock }: { readonly from: string | null; readonly to: string | null; readonly clock: { readonly from: string; readonly to: string } | null }): string =>
  clock === null ? `${dateWords(from)} → ${dateWords(to)}` : `${dateWords(from)}, ${clock.from} → ${clock.to}`;

/** Days of margin as "5 d in hand", "3 d short". */
export function marginWords(days: number): string {
  const rounded = roundedDays(days);
  return rounded < 0 ? `${oneDigit.format(-rounded)} d short` : `${oneDigit.format(rounded)} d in hand`;
}

/** How a promise stands, with its margin where it has one. */
export const standingWords = (state: DeadlineState, marginDays: number | null): string => (marginDays === null ? DEADLINE_WORDS[state] : `${DEADLINE_WORDS[state]}, ${marginWords(marginDays)}`);

const whole = new Intl.NumberFormat(undefined, { maximumFractionDigits: 0 });

/** Minor units as whole units of the currency, "4,200"; `null` as a dash. */
export const money = (minor: number | null, digits: number): string => (minor === null ? "–" : whole.format(minor / 10 ** digits).replace(/^-0$/, "0"));

/** A variance in words: "4,200 over", "900 behind". */
export function varianceWords(minor: number | null, digits: number, adverse: string, favourable: string): string {
  if (minor === null) return "–";
  const shown = money(Math.abs(minor), digits);
  return shown === "0" ? "even" : `${shown} ${minor < 0 ? adverse : favourable}`;
}

export const varianceTone = (value: number | null): Tone => (value === null || value === 0 ? "plain" : value < 0 ? "adverse" : "favourable");

/** An index with two digits. */
export const ratioWords = (value: number | null): string => (value === null ? "–" : twoDigits.format(value));

/** Tone of an index where 1 is on plan and below is adverse. */
export const indexTone = (value: number | null): Tone => (value === null ? "plain" : value < 0.995 ? "adverse" : value >= 1.005 ? "favourable" : "plain");

/** A share 0 to 1 as "42%". */
export const percentWords = (share: number | null): string => (share === null ? "–" : `${whole.format(share * 100)}%`);

export const countWords = (count: number, one: string, many: string): string => `${whole.format(count)} ${count === 1 ? one : many}`;

/** Deadline states in words. */
export const DEADLINE_WORDS = { metOnTime: "kept", metLate: "kept late", dropped: "dropped", breached: "broken", willBreach: "will break", tight: "tight", safe: "safe" } as const;
export type DeadlineState = keyof typeof DEADLINE_WORDS;
export const DEADLINE_TONES: Record<DeadlineState, Tone> = { metOnTime: "favourable", metLate: "adverse", dropped: "undecided", breached: "adverse", willBreach: "adverse", tight: "undecided", safe: "plain" };

/** Whether nothing can change any more about how a promise was kept. */
export const isSettled = (state: DeadlineState): boolean => state === "metOnTime" || state === "metLate" || state === "dropped";

/** From the worst to the best. */
export const DEADLINE_ORDER: readonly DeadlineState[] = ["breached", "willBreach", "metLate", "tight", "safe", "dropped", "metOnTime"];

/** "2 d 6 h" from one instant to another, "1 d 3 h over" where it has passed. */
export function timeLeftWords(until: Date, now: Date): string {
  const hours = Math.floor(Math.abs(until.getTime() - now.getTime()) / 3_600_000);
  const days = Math.floor(hours / 24);
  const words = days > 0 ? `${days} d ${hours % 24} h` : `${hours} h`;
  return until < now ? `${words} over` : words;
}
