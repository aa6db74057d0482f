/** Between groups of three digits: a space that does not break, as ISO 80000-1:2022, 7.3.1 has it; a narrower one is lost in tables. */
const GROUP = "\u00a0";

const formats = new Map<string, Intl.NumberFormat>();

function formatOf(least: number, most: number): Intl.NumberFormat {
  const key = `${least} ${most}`;
  const known = formats.get(key);
  if (known !== undefined) return known;
  // eslint-disable-next-line no-restricted-syntax -- the one place where numbers are written
  const made = new Intl.NumberFormat("en", { minimumFractionDigits: least, maximumFractionDigits: most });
  formats.set(key, made);
  return made;
}

/**
 * A number as it is written everywhere, in pages and in sentences, whatever the reader's machine is set to: `4 200`, `1 234.5`.
 * Halves are rounded away from zero, so that late and early round alike.
 * @param most digits behind the point at most
 * @param least and at least
 */
export const numberWords = (value: number, most = 1, least = 0): string =>
  formatOf(least, most)
    .format(value)
    .replaceAll(",", GROUP)
    .replace(/^-(?=[0.]*$)/, "");

/** What was written by {@link numberWords}, or typed alike, without the spaces between groups. */
export const ungrouped = (text: string): string => text.replace(/(?<=\d)[\u202f\u00a0](?=\d{3})/g, "");

/** Minor units as whole units of the currency, `4 200`; `null` as a dash. */
export const moneyWords = (minor: number | null, minorDigits: number): string =>
  minor === null ? "–" : numberWords(minor / 10 ** minorDigits, 0);

/** A share 0 to 1 as `42%`. */
export const percentWords = (share: number | null, most = 0): string =>
  share === null ? "–" : `${numberWords(share * 100, most)}%`;

/** An index with two digits, and a third where two would say that all is as planned and it is not. */
export function ratioWords(value: number | null): string {
  if (value === null) return "–";
  const two = numberWords(value, 2, 2);
  return two === "1.00" ? numberWords(value, 3, 2) : two;
}

/** Working days, `2.5 d`. */
export const dayWords = (days: number): string => `${numberWords(days)} d`;

/** "1 person", "1 200 people". */
export const countWords = (count: number, one: string, many: string): string =>
  `${numberWords(count, 0)} ${count === 1 ? one : many}`;
