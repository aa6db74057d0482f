import type { Risk } from "../plan/ownTables.ts";

/** Three amounts of which the middle one is the likeliest. */
interface Points {
  readonly low: number;
  readonly likely: number;
  readonly high: number;
}

/** The mean of a triangular distribution. */
export const triangularMean = ({ low, likely, high }: Points): number => (low + likely + high) / 3;

/** What a risk is expected to cost, in minor units: how likely it is times the mean of its three amounts, rounded. */
export const expectedCost = ({ probability, costMinor }: Pick<Risk, "probability" | "costMinor">): number =>
  costMinor === undefined ? 0 : Math.round(probability * triangularMean(costMinor));
