import { readNumber } from "../../shared/words/amounts.ts";

/** A probability typed as a percent, 0 to 1; `null` where it is none. */
export function chanceTyped(text: string): number | null {
  const percent = readNumber(text.replace("%", ""));
  return percent === null || percent < 0 || percent > 100 ? null : Number((percent / 100).toFixed(6));
}
