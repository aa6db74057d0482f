import { numberWords, percentWords } from "../words/numberWords.ts";
import type { CheckResult } from "./measureChecks.ts";
import type { Found } from "./findAll.ts";

/** Whether a plan is fit to be approved, and its dates to be believed. */
export type Fitness = "fit" | "mend" | "unfit";

export const FITNESS_WORDS: Readonly<Record<Fitness, string>> = {
  fit: "Fit to approve",
  mend: "Fit with mends",
  unfit: "Not fit",
};

/** Checks whose failure makes every date doubtful; what the others find can be mended beside the work. Common practice, no source. */
export const GRAVE: ReadonlySet<number> = new Set([1, 7, 9, 12]);

/** What would help most, and how many rows of it are enough. */
export interface BestMend {
  readonly check: number;
  readonly rows: number;
  readonly words: string;
}

/** A verdict with its reasons in words; no score. */
export interface Verdict {
  readonly fitness: Fitness;
  /** What falls short, the gravest first. */
  readonly reasons: readonly { readonly check: number | null; readonly grave: boolean; readonly words: string }[];
  readonly best: BestMend | null;
}

/** A limit in words: `at most 5%`, `at least 0.95`. */
export function limitWords({
  check: { rule, limit: published, number },
  limit,
}: Pick<CheckResult, "check" | "limit">): string {
  if (rule === "holds") return `must hold, give or take ${published} d`;
  const much = number >= 13 ? String(limit) : limit === 0 ? "none" : percentWords(limit);
  return limit === 0 ? "none allowed" : `${rule === "atMost" ? "at most" : "at least"} ${much}`;
}

/** What a check found, in words: `12 of 80 (15%)`. */
export function valueWords({ count, outOf, value, passes, check }: CheckResult): string {
  if (check.rule === "holds") return passes === null ? "nothing to test" : passes ? "holds" : "does not hold";
  if (value === null) return "nothing to count";
  return count === null ? numberWords(value, 2) : `${count} of ${outOf} (${percentWords(value, 1)})`;
}

/** How many offending rows must be mended before a check keeps its limit. */
function rowsToMend({ check, count, outOf, limit, offences }: CheckResult): number {
  if (count === null || outOf === null) return offences.length;
  if (check.rule === "atLeast") return Math.ceil(limit * outOf - 1e-9) - count;
  return count - Math.floor(limit * outOf + 1e-9);
}

const MENDS: Readonly<Record<number, (rows: number) => string>> = {
  1: (rows) => `link ${rows} more to what comes before or after them`,
  2: (rows) => `say what ${rows} really wait for in the place of a lead`,
  3: (rows) => `make an activity of ${rows} of the lags`,
  4: (rows) => `turn ${rows} links into finish to start`,
  5: (rows) => `let ${rows} of the hard wishes go, or make deadlines of them`,
  6: (rows) => `find what waits for ${rows} of those with so much float`,
  7: (rows) => `shorten what leads to ${rows === 1 ? "the one" : `the ${rows}`} below zero, or move the promise`,
  8: (rows) => `divide ${rows} of the long ones`,
  9: (rows) => `put ${rows} impossible dates right`,
  10: (rows) => `say who does ${rows} of them, or what they cost`,
  12: () => "look at what holds the finish in the place of logic",
};

function bestOf(failed: readonly CheckResult[]): BestMend | null {
  const mendable = failed
    .filter(({ check }) => check.number in MENDS)
    .map((result) => ({ result, rows: rowsToMend(result) }));
  mendable.sort(
    (a, b) =>
      Number(GRAVE.has(b.result.check.number)) - Number(GRAVE.has(a.result.check.number)) ||
      a.rows - b.rows ||
      a.result.check.number - b.result.check.number,
  );
  const [first] = mendable;
  if (first === undefined) return null;
  const { check } = first.result;
  return {
    check: check.number,
    rows: first.rows,
    words: `${check.name}: ${MENDS[check.number]!(first.rows)}, and the check ${check.number === 12 ? "can hold" : "holds"}`,
  };
}

/** How far beyond its limit a check lies, as a share; of one that only holds or does not, the whole. */
function beyondLimit({ check: { rule }, value, limit }: CheckResult): number {
  if (rule === "holds" || value === null) return 1;
  return rule === "atMost" ? value - limit : limit - value;
}

/** The verdict that goes with the numbers of failed checks and how much work has no length. */
export const fitnessOf = (failed: readonly number[], undated: number): Fitness =>
  failed.some((number) => GRAVE.has(number)) ? "unfit" : failed.length > 0 || undated > 0 ? "mend" : "fit";

/**
 * Judges a plan: not fit where a grave check fails, fit with mends where another does or work has no dates, fit otherwise.
 * @param results what `measureChecks` gave
 * @param found what `findAll` gave
 */
export function judge(results: readonly CheckResult[], found: readonly Found[]): Verdict {
  const failed = results.filter(({ passes }) => passes === false);
  const undated = found.find(({ finding }) => finding.key === "unscheduled")?.offences.length ?? 0;
  const grave = failed.filter(({ check }) => GRAVE.has(check.number));
  const byWeight = (results: readonly CheckResult[]): CheckResult[] =>
    [...results].sort((a, b) => beyondLimit(b) - beyondLimit(a));
  const reasons = [...byWeight(grave), ...byWeight(failed.filter((result) => !grave.includes(result)))].map(
    (result) => ({
      check: result.check.number,
      grave: grave.includes(result),
      words: `${result.check.name}: ${valueWords(result)}, ${limitWords(result)}`,
    }),
  );
  return {
    fitness: fitnessOf(
      failed.map(({ check }) => check.number),
      undated,
    ),
    reasons:
      undated > 0
        ? [...reasons, { check: null, grave: false, words: `${undated} without a duration, so without dates` }]
        : reasons,
    best: bestOf(failed),
  };
}
