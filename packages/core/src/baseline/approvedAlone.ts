import { schedulePlan } from "../network/schedule.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import type { Change } from "../plan/change.ts";
import { checkPlan } from "../plan/check/checkPlan.ts";
import { fromBundle, toBundle, type Plan, type Rows } from "../plan/plan.ts";
import { OWN_TABLES } from "../plan/tables.ts";
import { PlanProblems, type Problem } from "../plan/problem.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { withoutProgress } from "./freeze.ts";

/** The approved plan with the changes of one request; or why it cannot have them by themselves. */
export type ApprovedAlone = { readonly plan: PlanBundle } | { readonly fault: string };

/** Rows under the keys that the live plan knows them by: a bundle names neither links nor assignments. */
function keyedAs<T>(rows: Iterable<T>, live: Rows<T>, identity: (row: T) => string): Map<string, T> {
  const keys = new Map<string, string[]>();
  for (const [key, row] of live) keys.set(identity(row), [...(keys.get(identity(row)) ?? []), key]);
  let gone = 0;
  return new Map(
    [...rows].map((row) => {
      const key = keys.get(identity(row))?.shift();
      return [key ?? `approved ${++gone}`, row];
    }),
  );
}

/** Rows with those that the live plan has besides: nothing among the approved ones has used them. */
const withLater = <T>(rows: Rows<T>, live: Rows<T>): Rows<T> => new Map([...live, ...rows]);

/** The plan behind a baseline as a value that the live plan's changes speak of. */
function approvedPlan(approved: PlanBundle, live: Plan): Plan {
  const plan = fromBundle(approved);
  return {
    ...plan,
    ...Object.fromEntries(OWN_TABLES.map((table) => [table, live[table]])),
    people: withLater(plan.people, live.people),
    calendars: withLater(plan.calendars, live.calendars),
    links: keyedAs(plan.links.values(), live.links, ({ from, to, type }) => JSON.stringify([from, to, type ?? "FS"])),
    assignments: keyedAs(plan.assignments.values(), live.assignments, ({ activity, person }) =>
      JSON.stringify([activity, person]),
    ),
  };
}

/** Which activity a row is, or belongs to, by its name. */
function nameOf(live: Plan, { table, row }: Problem): string {
  const activity =
    table === "links"
      ? live.links.get(row)?.to
      : table === "assignments"
        ? live.assignments.get(row)?.activity
        : table === "costs"
          ? live.costs.get(row)?.activity
          : row;
  // What has no id of its own is called by two: `A -> B`.
  const named = (id: string): string => live.activities.get(id)?.name ?? live.people.get(id)?.name ?? id;
  return row.includes(" -> ") || row.includes(" / ")
    ? row
        .split(/( -> | \/ )/)
        .map(named)
        .join("")
    : named(activity ?? row);
}

/** What keeps a plan from being computed, loops included. */
function problemsOf(plan: PlanBundle): readonly Problem[] {
  const problems = checkPlan(plan);
  if (problems.length > 0) return problems;
  try {
    schedulePlan(plan);
    return [];
  } catch (error) {
    if (!(error instanceof PlanProblems)) throw error;
    return error.problems;
  }
}

/**
 * The approved plan with the changes of one request and nothing else of what the live plan has become. Progress that
 * the changes report is no part of it; what they remove and it does not have is gone already; people and calendars that
 * came later are taken as the live plan has them.
 * @param approved the plan behind the baseline in force
 * @param live the live plan, whose keys the changes name
 */
export function approvedAlone(approved: PlanBundle, live: Plan, changes: readonly Change[]): ApprovedAlone {
  let plan = approvedPlan(approved, live);
  try {
    for (const change of changes) {
      if (change.type === "removeRow" && !(plan[change.table] as Rows<unknown>).has(change.key)) continue;
      plan = applyChanges(plan, [change]).plan;
    }
  } catch (error) {
    if (!(error instanceof PlanProblems)) throw error;
    return {
      fault: `“${nameOf(live, error.problems[0]!)}” came into the plan after that baseline was frozen, and the request changes it.`,
    };
  }
  const alone = withoutProgress(toBundle(plan));
  const [problem] = problemsOf(alone);
  if (problem === undefined) return { plan: alone };
  return { fault: `In the approved plan the request does not hold: “${nameOf(live, problem)}” ${problem.message}.` };
}
