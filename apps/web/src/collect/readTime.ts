import { parseDuration } from "@chronometra/core";

/** What someone typed as time: minutes and the words after it, or what is wrong, and what may have been meant. */
export type TypedTime =
  { readonly minutes: number; readonly note: string } | { readonly fault: string; readonly offer?: string };

/** What fields for time show while they are empty; it can be typed as it stands. */
export const TIME_HINT = "1.5h, a note";

const NUMBER = "(?:\\d+(?:[.,]\\d+)?|[.,]\\d+)";
const HOURS = "(?:hours?|hrs?|h)";
const MINUTES = "(?:minutes?|mins?|m)";
/** `1:30`, `1h 30m`, `90m`, `1.5h`, `2`; then words, set off by a comma or a space. */
const TIME = new RegExp(
  `^(\\d+:\\d\\d|${NUMBER}\\s*${HOURS}\\s*${NUMBER}\\s*${MINUTES}|${NUMBER}\\s*(?:${HOURS}|${MINUTES})?)(?:\\s*([,;:])\\s*(.*)|\\s+(.*))?$`,
  "i",
);
const SECOND = new RegExp(`^${NUMBER}\\s*(?:${HOURS}|${MINUTES})(?![a-z])`, "i");
const BARE = new RegExp(`^${NUMBER}$`);
const NO_DAYS = 480;
const DAY = 1440;

/**
 * Reads time as typed on the desk: "1.5h", "1:30", "90m", "1h 30m", "2 drawings for leaf B", "1.5h, a note". A bare number is hours.
 * @param least whether no time is time too, as where what was booked is taken back
 * @returns whole minutes above 0 and up to 24 hours, with the words that follow
 */
export function readTime(text: string, least: "some" | "none too" = "some"): TypedTime {
  const match = TIME.exec(text.trim());
  const minutes = match === null ? null : parseDuration(match[1]!, NO_DAYS, "hours");
  if (match === null || minutes === null)
    return { fault: `“${text.trim()}” is no time; write 1.5h, 1:30 or 90m, then a note if you like.` };
  const [, time = "", mark, marked, spaced] = match;
  const note = (marked ?? spaced ?? "").trim();
  // After a comma it is a note, whatever it begins with.
  if (mark === undefined && SECOND.test(note))
    return { fault: `“${text.trim()}” has two times in it; write their sum, or a comma before the note.` };
  if (minutes === 0 && least === "some") return { fault: "Time must be above 0." };
  if (minutes > DAY && BARE.test(time) && Number(time.replace(",", ".")) <= DAY) {
    const offer = `${time}m${note === "" ? "" : `, ${note}`}`;
    return { fault: `A day has 24 hours. Did you mean ${time} minutes?`, offer };
  }
  if (minutes > DAY) return { fault: "A day has 24 hours." };
  return { minutes, note };
}
