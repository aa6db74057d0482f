import { parseTime } from "@chronometra/core";

export type Shifts = [string, string][];

/** "08:00-12:00, 13:00-17:00"; "closed" where nothing is worked. */
export const shiftText = (shifts: readonly (readonly [string, string])[]): string =>
  shifts.length === 0 ? "closed" : shifts.map(([from, to]) => `${from}-${to}`).join(", ");

const PART = /^(\d{1,2})(?:[:.h]?(\d{2}))?\s*(?:-|–|to)\s*(\d{1,2})(?:[:.h]?(\d{2}))?$/i;
const CLOSED = /^(closed|none|off|-|–)?$/i;

const time = (hours: string, minutes = "00"): string => `${hours.padStart(2, "0")}:${minutes}`;

/**
 * Reads shifts of a day: `8-12, 13-17`, `08:00-12:00 13:00-17:00`, `closed`.
 * @returns what is wrong where they cannot be
 */
export function readShifts(text: string): Shifts | { readonly fault: string } {
  if (CLOSED.test(text.trim())) return [];
  const shifts: Shifts = [];
  let last = -1;
  for (const part of text.trim().split(/\s*[,;]\s*|\s+(?=\d{1,2}(?:[:.h]?\d{2})?\s*(?:-|–|to))/)) {
    const match = PART.exec(part.trim());
    const from = match === null ? "" : time(match[1]!, match[2]);
    const to = match === null ? "" : time(match[3]!, match[4]);
    const [begins, ends] = [parseTime(from), parseTime(to)];
    if (begins === null || ends === null)
      return { fault: `“${part}” is no shift; write 08:00-12:00, 13:00-17:00 or closed.` };
    if (ends <= begins)
      return {
        fault: `${from}-${to} does not end after it begins; night shifts go on to 24:00 and begin again at 00:00 the next day.`,
      };
    if (begins < last) return { fault: `${from}-${to} begins before the shift before it ends.` };
    shifts.push([from, to]);
    last = ends;
  }
  return shifts;
}
