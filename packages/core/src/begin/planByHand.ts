import { compileCalendars } from "../plan/compileCalendars.ts";
import { fromBundle, type Plan } from "../plan/plan.ts";
import type { Activity, CostLine } from "../plan/schema.ts";
import { closeOf, openOf, parseDate } from "../time/instant.ts";
import { dateWords } from "../words/dateWords.ts";
import { emptyPlan } from "./emptyPlan.ts";

/** A stage or a month that is kept by hand: its days and what it may cost, in minor units. */
export interface HandStage {
  readonly name: string;
  readonly from: string;
  readonly to: string;
  readonly budgetMinor: number;
}

export interface HandMilestone {
  readonly name: string;
  readonly date: string;
}

/** What stage a milestone ends or falls into is left to whoever reads it: nothing is linked. */
const onDay = (date: string): NonNullable<Activity["wish"]> => ({ type: "startOn", date });

/**
 * A project without a plan of its work: stages with their days and budget, and milestones on their dates. Each is a row
 * whose percent is said by hand, so that it takes part in periods, sums and reports like every other.
 * @returns the plan, or what is wrong with which line
 */
export function planByHand(
  head: { readonly code: string; readonly name: string; readonly currency: string },
  stages: readonly HandStage[],
  milestones: readonly HandMilestone[],
): Plan | { readonly fault: string } {
  const start = [...stages.map(({ from }) => from), ...milestones.map(({ date }) => date)].sort()[0];
  if (start === undefined) return { fault: "Say a stage or a milestone at least." };
  const bundle = emptyPlan({ ...head, start });
  const calendar = compileCalendars(bundle.calendars).set.get(bundle.project.calendar);
  const costs: CostLine[] = [];
  const rows: Activity[] = [];
  for (const [i, { name, from, to, budgetMinor }] of stages.entries()) {
    if (to < from) return { fault: `“${name}” ends on ${dateWords(to)}, before it begins on ${dateWords(from)}.` };
    const [first, last] = [parseDate(from)!, parseDate(to)!];
    const durationMinutes = calendar.indexAt(closeOf(last)) - calendar.indexAt(openOf(first));
    if (durationMinutes === 0)
      return { fault: `“${name}” has no worked day between ${dateWords(from)} and ${dateWords(to)}.` };
    const id = `stage-${i + 1}`;
    rows.push({ id, name, durationMinutes, wish: onDay(from) });
    if (budgetMinor !== 0)
      costs.push({ id: `budget-${i + 1}`, activity: id, category: "Budget", plannedMinor: budgetMinor });
  }
  for (const [i, { name, date }] of milestones.entries())
    rows.push({ id: `milestone-${i + 1}`, name, kind: "milestone", wish: onDay(date) });
  return fromBundle({ ...bundle, activities: rows, costs });
}
