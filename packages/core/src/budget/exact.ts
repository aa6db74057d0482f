/** A share as numerator over denominator, both whole, so that no figure hangs on a binary fraction. */
export interface Share {
  readonly part: number;
  readonly whole: number;
}

export const NOTHING: Share = { part: 0, whole: 1 };
export const EVERYTHING: Share = { part: 1, whole: 1 };

/** round(a x b / c), half away from zero, formed in whole numbers before the one division; c is not 0. */
export function mulDivRound(a: number, b: number, c: number): number {
  const product = a * b;
  if (Number.isSafeInteger(product) && Number.isSafeInteger(2 * product)) {
    const quotient = Math.abs(product) / Math.abs(c);
    const down = Math.floor(quotient);
    const rest = Math.abs(product) - down * Math.abs(c);
    const size = rest * 2 >= Math.abs(c) ? down + 1 : down;
    return size === 0 ? 0 : product < 0 !== c < 0 ? -size : size;
  }
  return divRound(BigInt(a) * BigInt(b), BigInt(c));
}

/** round(a / b), half away from zero; b is not 0. */
export function divRound(a: bigint, b: bigint): number {
  const negative = a < 0n !== b < 0n;
  const top = a < 0n ? -a : a;
  const bottom = b < 0n ? -b : b;
  const size = (2n * top + bottom) / (2n * bottom);
  return Number(negative ? -size : size);
}

/** ceil(a x b / c) for whole numbers not below 0, c above 0. */
export function mulDivCeil(a: number, b: number, c: number): number {
  const product = a * b;
  if (Number.isSafeInteger(product)) {
    const down = Math.floor(product / c);
    return down * c === product ? down : down + 1;
  }
  return Number((BigInt(a) * BigInt(b) + BigInt(c) - 1n) / BigInt(c));
}

/** Digits behind the point of a decimal as it is written, none for whole numbers. */
function decimalsOf(value: number): number {
  const [mantissa, exponent] = String(value).split("e");
  const digits = (mantissa!.split(".")[1] ?? "").length;
  return Math.max(0, digits - Number(exponent ?? 0));
}

/**
 * Two decimals as written, scaled by one power of ten to whole numbers.
 * @example wholes([33.3, 100]) is [333, 1000]
 */
export function wholes(values: readonly number[]): number[] {
  if (values.every(Number.isInteger)) return [...values];
  const digits = Math.max(...values.map(decimalsOf));
  return values.map((value) => Math.round(value * 10 ** digits));
}

/**
 * An amount in whole units as minor units, half away from zero: the decimal as written decides, and no binary fraction.
 * @example minorOf(1.005, 2) is 101, minorOf(-0.5, 0) is -1
 */
export function minorOf(amount: number, digits: number): number {
  const [part, whole] = wholes([amount, 1]) as [number, number];
  return divRound(BigInt(part) * 10n ** BigInt(digits), BigInt(whole));
}

/** A percentage as a share of 100. */
export function shareOfPercent(percent: number): Share {
  const [part, whole] = wholes([percent, 100]);
  return { part: part!, whole: whole! };
}

/** What is left of a share. */
export const restOf = (share: Share): Share => ({ part: share.whole - share.part, whole: share.whole });

/** round(amount x share). */
export const takeShare = (amount: number, share: Share): number => mulDivRound(amount, share.part, share.whole);

/** a / b, or `null` (not defined) where b is 0. */
export const ratio = (a: number, b: number): number | null => (b === 0 ? null : a === 0 ? 0 : a / b);
