import type { BeginEffectAsked } from "@chronometra/contract";
import { addDays, civilOf, currencyDigits, formatDate, MONTHS, parseDate } from "@chronometra/core";
import { readAmount } from "../shared/words/amounts.ts";

/** A stage as it is typed. */
export interface TypedStage {
  readonly id: string;
  readonly name: string;
  readonly from: string;
  readonly to: string;
  readonly budget: string;
}

export interface TypedMilestone {
  readonly id: string;
  readonly name: string;
  readonly date: string;
}

let made = 0;
export const newStage = (): TypedStage => ({ id: `stage ${++made}`, name: "", from: "", to: "", budget: "" });
export const newMilestone = (): TypedMilestone => ({ id: `milestone ${++made}`, name: "", date: "" });

const MOST_MONTHS = 120;

/**
 * A stage a month from one day to another, the first and last cut at those.
 * @returns none where the days are not in order or too far apart
 */
export function monthsBetween(from: string, to: string): TypedStage[] {
  const [first, last] = [parseDate(from), parseDate(to)];
  if (first === null || last === null || last < first) return [];
  const stages: TypedStage[] = [];
  for (let day = first; day <= last && stages.length < MOST_MONTHS;) {
    const { year, month } = civilOf(day);
    const next = parseDate(month === 12 ? `${year + 1}-01-01` : `${year}-${String(month + 1).padStart(2, "0")}-01`);
    const end = next === null || next > last ? last : addDays(next, -1);
    stages.push({ ...newStage(), name: `${MONTHS[month - 1]} ${year}`, from: formatDate(day), to: formatDate(end) });
    day = addDays(end, 1);
  }
  return stages;
}

const isEmptyStage = ({ name, from, to, budget }: TypedStage): boolean =>
  [name, from, to, budget].every((each) => each === "");

const digitsOf = (currency: string): number => currencyDigits(currency) ?? 2;

/** What keeps a stage from being understood; `null` where nothing does. */
export function stageFault(stage: TypedStage, currency: string): string | null {
  if (isEmptyStage(stage)) return null;
  if (stage.name.trim() === "") return "Give it a name.";
  if (stage.from === "" || stage.to === "") return "Say from which day to which.";
  if (stage.to < stage.from) return "It ends before it begins.";
  if (stage.budget !== "" && readAmount(stage.budget, digitsOf(currency)) === null)
    return "Write an amount, as 12 000.";
  return null;
}

export function milestoneFault({ name, date }: TypedMilestone): string | null {
  if (name === "" && date === "") return null;
  if (name.trim() === "") return "Give it a name.";
  return date === "" ? "Say on which day." : null;
}

/** What is asked of the server, once enough is said. */
export function handSource(
  stages: readonly TypedStage[],
  milestones: readonly TypedMilestone[],
  currency: string,
): BeginEffectAsked["parts"][number]["source"] | null {
  const rows = stages.filter((stage) => !isEmptyStage(stage));
  const points = milestones.filter(({ name, date }) => name !== "" || date !== "");
  const faults = [...rows.map((stage) => stageFault(stage, currency)), ...points.map(milestoneFault)];
  if (rows.length + points.length === 0 || faults.some((fault) => fault !== null)) return null;
  return {
    currency,
    stages: rows.map(({ name, from, to, budget }) => ({
      ...{ name: name.trim(), from, to },
      budgetMinor: budget === "" ? 0 : readAmount(budget, digitsOf(currency))!,
    })),
    milestones: points.map(({ name, date }) => ({ name: name.trim(), date })),
  };
}
