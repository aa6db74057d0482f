import type { ChancesRequest } from "@chronometra/contract";
import { RANGE_CLASSES, type ActivityRange, type RangeClass } from "@chronometra/core";
import type { Tone } from "../shared/words/words.ts";

const CLASSES = Object.keys(RANGE_CLASSES) as RangeClass[];
export const CLASS_WORDS: Record<RangeClass, string> = {
  exact: "exact",
  narrow: "narrow",
  usual: "usual",
  wide: "wide",
};

/** A range as it is typed and read: `90 100 135`, or the class that it is. */
export const rangeWords = ({ low, likely, high }: ActivityRange): string =>
  CLASSES.find(
    (each) =>
      RANGE_CLASSES[each].low === low && RANGE_CLASSES[each].likely === likely && RANGE_CLASSES[each].high === high,
  ) ?? `${low} ${likely} ${high}`;

/** A range as typed: the name of a class, three percents that rise, or two around 100; `null` where it is none. */
export function readRange(text: string): ActivityRange | null {
  const named = CLASSES.find((each) => each === text.trim().toLowerCase());
  if (named !== undefined) return { ...RANGE_CLASSES[named] };
  const numbers = text
    .trim()
    .split(/[\s,;/–-]+/)
    .map((each) => Number(each.replace("%", "")));
  const [low, likely, high] = numbers.length === 2 ? [numbers[0]!, 100, numbers[1]!] : numbers;
  if (
    numbers.length < 2 ||
    numbers.length > 3 ||
    [low, likely, high].some((each) => each === undefined || !Number.isFinite(each) || each <= 0 || each > 1000)
  )
    return null;
  return low! <= likely! && likely! <= high! ? { low: low!, likely: likely!, high: high! } : null;
}

/** How likely something is, in words: `in 34 of 100`, and never all or none where one run says otherwise. */
export function chanceWords(chance: number): string {
  if (chance === 0 || chance === 1) return chance === 1 ? "in all runs" : "in no run";
  const of = Math.round(chance * 100);
  return `in ${of === 0 ? "under 1" : of === 100 ? "over 99" : of} of 100`;
}

const LIKELY = 0.8;
const UNLIKELY = 0.5;

export const chanceTone = (chance: number): Tone =>
  chance < UNLIKELY ? "adverse" : chance < LIKELY ? "undecided" : "favourable";

/** As a part of a hundred, for tables: `34%`. */
export const chancePercent = (chance: number): string =>
  `${chance > 0 && chance < 0.005 ? "<1" : chance < 1 && chance >= 0.995 ? ">99" : Math.round(chance * 100)}%`;

const whole = (text: string | null, least: number, most: number, otherwise: number): number => {
  const value = Number(text ?? "");
  return text !== null && text !== "" && Number.isInteger(value) && value >= least && value <= most ? value : otherwise;
};

/** What is asked for, as the address has it; anything odd is what it is otherwise. */
export function askedIn(params: URLSearchParams): ChancesRequest {
  const otherwise = CLASSES.find((each) => each === params.get("otherwise")) ?? "usual";
  return {
    runs: whole(params.get("runs"), 100, 100_000, 2000),
    seed: whole(params.get("seed"), 0, 2_147_483_647, 1),
    correlation: whole(params.get("together"), 0, 100, 20) / 100,
    otherwise,
  };
}
