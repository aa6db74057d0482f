import { FITNESS_WORDS, type Fitness } from "../quality/verdict.ts";
import { countWords, dayWords, numberWords, percentWords } from "../words/numberWords.ts";
import type { Condition } from "./conditionSchema.ts";

export type ConditionKind = Condition["kind"];

/** A condition in words. */
export function conditionWords(condition: Condition, severityName: (id: string) => string = (id) => id): string {
  switch (condition.kind) {
    case "baseline":
      return "A baseline is approved";
    case "plan":
      return condition.fitness === "fit" ? "The plan is fit to approve" : "The plan is fit, or fit with mends";
    case "deadlines":
      return "No deadline is broken or will be";
    case "cost":
      return condition.percent === 0
        ? "The estimate at completion is within the budget"
        : `The estimate at completion is at most ${percentWords(condition.percent / 100, 1)} over the budget`;
    case "drift":
      return condition.days === 0 ? "The finish is not late" : `The finish is at most ${dayWords(condition.days)} late`;
    case "deliverables":
      return "The deliverables of the stage are accepted";
    case "unblocked":
      return "No work is blocked";
    case "issued":
      return "The report of the period is issued";
    case "issues":
      return `No open issue is ${severityName(condition.severity)} or worse`;
    case "confirmed":
      return condition.text;
  }
}

/** What is known of a project that conditions are held against. Money in minor units, days in working days. */
export interface GateFacts {
  /** The number of the baseline in force; `null` where none is. */
  readonly baseline: number | null;
  readonly fitness: Fitness;
  /** Names of deadlines that are broken or will be, and how many there are in all. */
  readonly broken: readonly string[];
  readonly deadlines: number;
  readonly budgetMinor: number | null;
  readonly estimateMinor: number | null;
  /** By how much the finish lies after the approved one; below 0 where before. */
  readonly driftDays: number | null;
  /** The deliverables of the stage. */
  readonly deliverables: readonly { readonly name: string; readonly accepted: boolean }[];
  /** Names of work that is blocked. */
  readonly blocked: readonly string[];
  /** The open reporting period, and the one last issued for the project. */
  readonly openPeriod: number | null;
  readonly issuedPeriod: number | null;
  /** The scale of severity, the least first, and the open issues, each with its step. */
  readonly severities: readonly { readonly id: string; readonly name: string }[];
  readonly issues: readonly { readonly title: string; readonly severity: string | null }[];
  /** Who confirmed what, in words, by the id of the condition. */
  readonly confirmed: Readonly<Record<string, string>>;
}

/** Whether a condition is met, and what says so; `null` where there is nothing to hold it against. */
export interface Held {
  readonly met: boolean | null;
  readonly says: string;
}

const NAMED = 3;
/** The first few of some names. */
const some = (names: readonly string[]): string =>
  `${names
    .slice(0, NAMED)
    .map((name) => `“${name}”`)
    .join(", ")}${names.length > NAMED ? ` and ${names.length - NAMED} more` : ""}`;

function costHeld(percentOver: number, { budgetMinor, estimateMinor }: GateFacts): Held {
  if (budgetMinor === null || estimateMinor === null || budgetMinor === 0)
    return { met: null, says: "There is no approved budget, or no estimate yet." };
  const over = (estimateMinor - budgetMinor) / budgetMinor;
  const words =
    over === 0 ? "is the budget" : `is ${percentWords(Math.abs(over), 1)} ${over > 0 ? "over" : "below"} it`;
  return { met: over * 100 <= percentOver + 1e-9, says: `The estimate ${words}.` };
}

function driftHeld(days: number, { driftDays }: GateFacts): Held {
  if (driftDays === null) return { met: null, says: "There is no approved finish to hold it against." };
  const words =
    driftDays === 0 ? "as approved" : `${dayWords(Math.abs(driftDays))} ${driftDays > 0 ? "late" : "early"}`;
  return { met: driftDays <= days, says: `The finish is ${words}.` };
}

function deliverablesHeld({ deliverables }: GateFacts): Held {
  if (deliverables.length === 0) return { met: null, says: "No deliverable belongs to this stage." };
  const missing = deliverables.filter(({ accepted }) => !accepted).map(({ name }) => name);
  if (missing.length === 0) return { met: true, says: `All ${numberWords(deliverables.length)} are accepted.` };
  return { met: false, says: `${missing.length} of ${deliverables.length} not accepted: ${some(missing)}.` };
}

function issuedHeld({ openPeriod, issuedPeriod }: GateFacts): Held {
  if (openPeriod === null) return { met: null, says: "No reporting period is open." };
  if (issuedPeriod === openPeriod) return { met: true, says: `Period ${openPeriod} is issued.` };
  return { met: false, says: `Period ${openPeriod} is open and not issued.` };
}

function issuesHeld(severity: string, { severities, issues }: GateFacts): Held {
  const rank = (id: string | null): number => severities.findIndex((step) => step.id === id);
  const least = rank(severity);
  if (least < 0) return { met: null, says: "The scale of severity has no such step any more." };
  // An issue of which nobody has said how severe it is may be any.
  const found = issues.filter((issue) => rank(issue.severity) >= least || rank(issue.severity) < 0);
  if (found.length === 0)
    return { met: true, says: issues.length === 0 ? "None is open." : `${issues.length} open, none of them.` };
  return { met: false, says: `${found.length}: ${some(found.map(({ title }) => title))}.` };
}

const noneOf = (names: readonly string[]): Held =>
  names.length === 0 ? { met: true, says: "None is." } : { met: false, says: `${names.length}: ${some(names)}.` };

const FITNESS_ENOUGH: Readonly<Record<"fit" | "mend", readonly Fitness[]>> = { fit: ["fit"], mend: ["fit", "mend"] };

/** Holds a condition of a gate against what is known of the project. */
export function holdCondition(condition: Condition, facts: GateFacts): Held {
  switch (condition.kind) {
    case "baseline":
      return facts.baseline === null
        ? { met: false, says: "None is approved yet." }
        : { met: true, says: `Baseline ${facts.baseline} is in force.` };
    case "plan":
      return {
        met: FITNESS_ENOUGH[condition.fitness].includes(facts.fitness),
        says: `${FITNESS_WORDS[facts.fitness]}.`,
      };
    case "deadlines":
      if (facts.deadlines === 0) return { met: null, says: "The plan has no deadlines." };
      return facts.broken.length === 0
        ? { met: true, says: `${countWords(facts.deadlines, "deadline", "deadlines")}, none broken.` }
        : { met: false, says: `${facts.broken.length} of ${facts.deadlines}: ${some(facts.broken)}.` };
    case "cost":
      return costHeld(condition.percent, facts);
    case "drift":
      return driftHeld(condition.days, facts);
    case "deliverables":
      return deliverablesHeld(facts);
    case "unblocked":
      return noneOf(facts.blocked);
    case "issued":
      return issuedHeld(facts);
    case "issues":
      return issuesHeld(condition.severity, facts);
    case "confirmed": {
      const by = facts.confirmed[condition.id];
      return by === undefined ? { met: false, says: "Nobody has confirmed it yet." } : { met: true, says: by };
    }
  }
}

/** The stage in which a project is: the first whose gate it has not passed; `null` where it has passed all. */
export const stageAt = <T extends { readonly id: string }>(stages: readonly T[], passed: readonly string[]): T | null =>
  stages.find(({ id: stage }) => !passed.includes(stage)) ?? null;
