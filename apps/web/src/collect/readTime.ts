import { parseDuration } from "@chronometra/core";

/** What someone typed as time: minutes and the words after it, or what is wrong. */
export type TypedTime = { readonly minutes: number; readonly note: string } | { readonly fault: string };

const LEADING_TIME = /^\s*(\d+:\d\d|[\d.,]+\s*(?:h|hrs?|hours?|m|mins?|minutes?)?)(?:\s+(.*))?$/i;
const NO_DAYS = 480;

/**
 * Reads time as typed on the desk: "1.5h", "1:30", "90m", "2 drawings for leaf B". A bare number is hours.
 * @returns whole minutes above 0 and up to 24 hours, with the words that follow
 */
export function readTime(text: string): TypedTime {
  const match = LEADING_TIME.exec(text);
  const minutes = match === null ? null : parseDuration(match[1]!, NO_DAYS, "hours");
  if (minutes === null) return { fault: `“${text.trim()}” is no time; write 1.5h, 1:30 or 90m, then a note if you like.` };
  if (minutes <= 0) return { fault: "Time must be above 0." };
  if (minutes > 1440) return { fault: "A day has 24 hours." };
  return { minutes, note: (match![2] ?? "").trim() };
}
