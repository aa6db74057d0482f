import type { Risk } from "@chronometra/core";
import { amountText, AMOUNT_FAULT, readAmount, readNumber } from "../shared/words/amounts.ts";

/** Least, likeliest and most, as typed. */
export type Points = readonly [low: string, likely: string, high: string];
export const NO_POINTS: Points = ["", "", ""];

/** A risk as it is typed. */
export interface RiskDraft {
  readonly name: string;
  /** In percent. */
  readonly chance: string;
  readonly effects: readonly { readonly activity: string; readonly days: Points }[];
  /** In whole units of the currency. */
  readonly cost: Points;
}

export const NO_RISK: RiskDraft = { name: "", chance: "", effects: [], cost: NO_POINTS };

/** What days and amounts are counted in. */
export interface RiskUnits {
  readonly dayMinutes: number;
  readonly minorDigits: number;
}

type Three = Risk["effects"][number]["minutes"];
const plain = (number: number): string => String(Math.round(number * 10_000) / 10_000);

/** A risk as one would type it. */
export function draftOf(
  { name, probability, effects, costMinor }: Risk,
  { dayMinutes, minorDigits }: RiskUnits,
): RiskDraft {
  const points = ({ low, likely, high }: Three, text: (value: number) => string): Points => [
    text(low),
    text(likely),
    text(high),
  ];
  return {
    name,
    chance: plain(probability * 100),
    effects: effects.map(({ activity, minutes }) => ({
      activity,
      days: points(minutes, (value) => plain(value / dayMinutes)),
    })),
    cost:
      costMinor === undefined
        ? NO_POINTS
        : points(costMinor, (value) => amountText(value, minorDigits).replace(/\.0+$/, "")),
  };
}

/** Three values none of which is below the one before it; `null` where they are none. */
function readPoints(points: Points, read: (text: string) => number | null): Three | null {
  const [low, likely, high] = points.map(read);
  return low == null || likely == null || high == null || low < 0 || low > likely || likely > high
    ? null
    : { low, likely, high };
}

/** What was typed as a risk without its id, or what is wrong with it. */
export function readRisk(
  { name, chance, effects, cost }: RiskDraft,
  { dayMinutes, minorDigits }: RiskUnits,
): Omit<Risk, "id"> | string {
  const percent = readNumber(chance);
  if (name.trim() === "") return "Write what may happen.";
  if (percent === null || percent <= 0 || percent > 100) return "Write the probability as a percent, as 30.";
  const costs = cost.some((text) => text.trim() !== "");
  if (effects.length === 0 && !costs) return "Select an open activity that it bears on, or write what it costs.";
  const read: Risk["effects"][number][] = [];
  for (const { activity, days } of effects) {
    const minutes = readPoints(days, (text) => {
      const number = readNumber(text);
      return number === null ? null : Math.round(number * dayMinutes);
    });
    if (minutes === null) return "Write three numbers of days that do not fall, as 2 5 10, for each activity.";
    read.push({ activity, minutes });
  }
  const costMinor = costs ? readPoints(cost, (text) => readAmount(text, minorDigits)) : undefined;
  if (costMinor === null) return `Write three amounts that do not fall, or none. ${AMOUNT_FAULT}`;
  return {
    name: name.trim(),
    probability: Number((percent / 100).toFixed(6)),
    effects: read,
    ...(costMinor === undefined ? {} : { costMinor }),
  };
}
