import type { DriftLedgerView } from "@chronometra/contract";
import { movedWords } from "../../shared/words/words.ts";

export { causeWords, GROUP_WORDS, progressWords } from "@chronometra/core";

type Cause = DriftLedgerView["causes"][number];

const DAY_FRACTION = 0.05;

/** What a cause would have moved by itself, where that is not what it moved. */
export const aloneWords = ({ days: count, alone }: Pick<Cause, "days" | "alone">): string | null =>
  alone === null || Math.abs(alone - count) < DAY_FRACTION
    ? null
    : Math.abs(alone) < DAY_FRACTION
      ? "by itself nothing"
      : `by itself ${movedWords(alone)}`;

export interface Bar {
  readonly cause: Cause;
  /** Where the date stood before and after this cause, in days from where it began. */
  readonly from: number;
  readonly to: number;
}

/** The causes as a bridge: each begins where the one before it ends. */
export function bridgeOf(causes: readonly Cause[]): {
  readonly bars: readonly Bar[];
  readonly least: number;
  readonly most: number;
} {
  let at = 0;
  let [least, most] = [0, 0];
  const bars = causes.map((cause): Bar => {
    const from = at;
    at += cause.days;
    least = Math.min(least, at);
    most = Math.max(most, at);
    return { cause, from, to: at };
  });
  return { bars, least, most };
}
