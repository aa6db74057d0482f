/**
 * Reads an amount of money as minor units: `1200`, `1 200.50`, `1.200,50`.
 * @returns `null` where the text is none, has more digits than the currency, or could be read in two ways
 */
export function readAmount(text: string, minorDigits: number): number | null {
  const plain = text.replace(/[\s\u00a0']/g, "");
  // Of a currency with three digits an amount is shown so itself: what was shown is read as it was meant.
  if (minorDigits === 3 && /^-?\d+\.\d{3}$/.test(plain)) return minorIn(plain.replace(".", ""));
  const match = /^(-?)([1-9]\d{0,2}(?:[.,]\d{3})+|\d+)(?:([.,])(\d+))?$/.exec(plain);
  if (match === null) return null;
  const [, sign, whole = "", mark, digits = ""] = match;
  const marks = new Set(whole.replace(/\d/g, ""));
  // "1.200" alone may be a thousand or one and a fifth; with two marks, or two groups, there is no doubt.
  if (mark !== undefined && marks.has(mark)) return null;
  if (marks.size > 1) return null;
  if (mark === undefined && marks.size === 1 && whole.replace(/\d/g, "").length === 1 && minorDigits > 0) return null;
  if (mark !== undefined && marks.size === 0 && digits.length === 3 && minorDigits < 3) return null;
  if (digits.length > minorDigits) return null;
  return minorIn(`${sign}${whole.replace(/[.,]/g, "")}${digits.padEnd(minorDigits, "0")}`);
}

/** Digits as a number of minor units, where it can be told exactly. */
function minorIn(digits: string): number | null {
  const minor = Number(digits);
  return Number.isSafeInteger(minor) ? minor || 0 : null;
}

/** As `readAmount`, for what must be above nothing. */
export function readAmountAbove0(text: string, minorDigits: number): number | null {
  const minor = readAmount(text, minorDigits);
  return minor !== null && minor > 0 ? minor : null;
}

/** Minor units as they are typed, `1200.50`. */
export function amountText(minor: number, minorDigits: number): string {
  const text = (Math.abs(minor) / 10 ** minorDigits).toFixed(minorDigits);
  return `${minor < 0 ? "-" : ""}${text}`;
}

/** Why an amount was not understood. */
export const AMOUNT_FAULT = "Write an amount as 1200 or 1200.50, without marks between thousands.";

/** "15", "-3" or "0.5" as a number; `null` where it is none. A comma between digits is taken as a decimal point. */
export function readNumber(text: string): number | null {
  const plain = text.trim().replace(/^(-?\d+),(\d+)$/, "$1.$2");
  return /^-?\d+(?:\.\d+)?$/.test(plain) ? Number(plain) : null;
}
