/** Months as people read them, January first. */
export const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** `2026-11-24`, or an instant of that day, as "24 Nov 2026"; `null` as a dash. */
export function dateWords(date: string | null): string {
  if (date === null) return "–";
  return `${Number(date.slice(8, 10))} ${MONTHS[Number(date.slice(5, 7)) - 1]} ${date.slice(0, 4)}`;
}

/** `2026-11-24` as "24 Nov". */
export const shortDateWords = (date: string): string => dateWords(date).slice(0, -5);

/** Days from one to another, both included: "24 Nov 2026", or "24 Nov 2026 to 2 Dec 2026". */
export const daysWords = (from: string, to: string): string =>
  from === to ? dateWords(from) : `${dateWords(from)} to ${dateWords(to)}`;

const MONTH_OF = new Map(MONTHS.map((name, i) => [name.toLowerCase(), i + 1]));

/**
 * A date as typed, `2026-11-24` or "24 Nov 2026" or "24 November" (of the year given), as ISO.
 * @returns `null` where it is none, or could be read in two ways
 */
export function readDate(text: string, year: string): string | null {
  const plain = text.trim().toLowerCase();
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(plain);
  const words = /^(\d{1,2})[ .-]*([a-z]{3})[a-z]*[ .,-]*(\d{4})?$/.exec(plain);
  const parts =
    iso !== null
      ? [iso[1]!, iso[2]!, iso[3]!]
      : words !== null && MONTH_OF.has(words[2]!)
        ? [words[3] ?? year, String(MONTH_OF.get(words[2]!)), words[1]!]
        : null;
  if (parts === null) return null;
  const date = `${parts[0]}-${parts[1]!.padStart(2, "0")}-${parts[2]!.padStart(2, "0")}`;
  const at = new Date(`${date}T00:00:00Z`);
  return !Number.isNaN(at.getTime()) && at.toISOString().slice(0, 10) === date ? date : null;
}
