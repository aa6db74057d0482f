import type { Thresholds } from "../performance/thresholds.ts";
import { countWords, moneyWords } from "../words/numberWords.ts";
import { RATINGS, type Aspect, type Rating, type ReportFacts } from "./facts.ts";

/** A rating, and the rules that it follows from, in words. */
export interface Suggested {
  readonly rating: Rating;
  readonly rules: readonly string[];
}

const SCHEDULE_RULES: ReadonlySet<keyof Thresholds> = new Set([
  "spiBelow",
  "spitBelow",
  "driftOver",
  "movedOver",
  "deadlines",
]);

/** Beyond twice what a limit allows. A deadline allows nothing: one that is broken is trouble. */
function isGrave({ rule, value, limit }: ReportFacts["broken"][number]): boolean {
  if (rule === "deadlines") return true;
  return rule.endsWith("Below") ? value < 1 - 2 * (1 - limit) : value > 2 * limit;
}

const rated = (found: readonly (readonly [Rating, string])[], well: string): Suggested => ({
  rating: worst(found.map(([rating]) => rating)),
  rules: found.length === 0 ? [well] : found.map(([, words]) => words),
});

const worst = (ratings: readonly Rating[]): Rating =>
  RATINGS[Math.max(0, ...ratings.map((rating) => RATINGS.indexOf(rating)))]!;

const byLimits = (broken: ReportFacts["broken"], well: string): Suggested =>
  rated(
    broken.map((each) => [isGrave(each) ? "trouble" : "care", each.words] as const),
    well,
  );

function scopeOf({ isApproved, unbaselined, dropped, requestsWaiting }: ReportFacts): Suggested {
  const found: (readonly [Rating, string])[] = [];
  if (!isApproved) found.push(["care", "no plan is approved yet"]);
  if (unbaselined > 0)
    found.push(["care", `${countWords(unbaselined, "activity is", "activities are")} in no baseline`]);
  if (dropped > 0)
    found.push(["care", `${countWords(dropped, "activity was", "activities were")} ended short of the scope`]);
  if (requestsWaiting > 0)
    found.push([
      "care",
      `${countWords(requestsWaiting, "change request waits", "change requests wait")} for a decision`,
    ]);
  return rated(found, "all work is approved, and no change waits for a decision");
}

function risksOf({ risks, currency, minorDigits }: ReportFacts): Suggested {
  const { expectedMinor, contingencyMinor, blocked } = risks;
  const amount = (minor: number): string => `${moneyWords(minor, minorDigits)} ${currency}`;
  const found: (readonly [Rating, string])[] = [];
  if (expectedMinor > 0 && expectedMinor > contingencyMinor)
    found.push([
      contingencyMinor > 0 ? "trouble" : "care",
      `risks are expected to cost ${amount(expectedMinor)}, more than the contingency of ${amount(contingencyMinor)}`,
    ]);
  else if (expectedMinor * 2 > contingencyMinor && expectedMinor > 0)
    found.push([
      "care",
      `risks are expected to cost ${amount(expectedMinor)}, more than half of the contingency of ${amount(contingencyMinor)}`,
    ]);
  if (blocked > 0) found.push(["care", `${countWords(blocked, "activity is", "activities are")} blocked`]);
  const covered = risks.count === 0 ? "no risk is recorded" : "contingency covers the risks";
  return rated(found, `${covered}, and nothing is blocked`);
}

function peopleOf({ people: { missing, overloaded, unfilled } }: ReportFacts): Suggested {
  const found: (readonly [Rating, string])[] = [];
  if (missing.length > 0)
    found.push(["care", `${countWords(missing.length, "person has", "people have")} not reported`]);
  if (overloaded.length > 0)
    found.push([
      "care",
      `${countWords(overloaded.length, "person has", "people have")} more to do than time in the next four weeks`,
    ]);
  if (unfilled.length > 0)
    found.push([
      "care",
      `${countWords(unfilled.length, "role has", "roles have")} work in the next four weeks, and nobody to do it`,
    ]);
  return rated(found, "everybody has reported, and nobody has more to do than time in the next four weeks");
}

/**
 * How a project is to be rated by the portfolio's limits, each side with the rules that say so: a limit that is broken
 * asks for care, one broken by more than twice what it allows, or a broken deadline, is trouble. Overall is the worst
 * side. Common practice, no source.
 */
export function suggestRatings(facts: ReportFacts): Readonly<Record<Aspect, Suggested>> {
  const sides = {
    schedule: byLimits(
      facts.broken.filter(({ rule }) => SCHEDULE_RULES.has(rule)),
      "no limit of the schedule is broken",
    ),
    cost: byLimits(
      facts.broken.filter(({ rule }) => !SCHEDULE_RULES.has(rule)),
      "no limit of the cost is broken",
    ),
    scope: scopeOf(facts),
    risks: risksOf(facts),
    people: peopleOf(facts),
  };
  const rating = worst(Object.values(sides).map((side) => side.rating));
  const named = Object.entries(sides).flatMap(([side, each]) => (each.rating === rating ? [side] : []));
  const rules = rating === "well" ? ["all sides go well"] : [`as the worst of its sides: ${named.join(", ")}`];
  return { ...sides, overall: { rating, rules } };
}
