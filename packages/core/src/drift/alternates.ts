import { computePlan } from "../analyse.ts";
import { plannedBudget } from "../baseline/plannedBudget.ts";
import { finishDayOf, formatDate } from "../time/instant.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import type { Change } from "../plan/change.ts";
import { checkWholePlan } from "../plan/check/checkOwnTables.ts";
import { parkRows, wakeRows } from "../plan/acts/parking.ts";
import { toBundle, type Plan } from "../plan/plan.ts";
import { PlanProblems, type Problem } from "../plan/problem.ts";

/** What a plan would come to with one of several ways live. Money in minor units. */
export interface Alternate {
  readonly activity: string;
  readonly name: string;
  readonly live: boolean;
  /** The project's finish as shown; `null` where nothing has dates. */
  readonly finish: string | null;
  /** Working days of the project calendar from the finish with the live way; later is positive. */
  readonly finishDays: number | null;
  readonly budgetMinor: number;
  /** Hours by person that the way itself asks for, the most first. */
  readonly load: readonly { readonly person: string; readonly minutes: number }[];
  /** Why it cannot be made live, as where the live way has begun; `null` where it can. */
  readonly fault: string | null;
}

/** Makes rows ways of one step: the first stays live, the others are parked. */
export function makeAlternates(
  plan: Plan,
  id: string,
  name: string,
  members: readonly string[],
  newKey: () => string,
): Change[] {
  const [, ...others] = members;
  return [
    ...parkRows(plan, others, { carried: false, newKey }),
    { type: "addRow", table: "alternates", key: id, row: { id, name, members: [...members] } },
  ];
}

/** The changes that make one of the ways live in the place of the one that is; none where it is. */
export function liveAlternate(plan: Plan, group: string, member: string, newKey: () => string): Change[] {
  const members = plan.alternates.get(group)?.members ?? [];
  const others = members.filter((id) => id !== member && plan.activities.get(id)?.parked !== true);
  const parked = parkRows(plan, others, { carried: false, newKey });
  return [...parked, ...wakeRows(applyChanges(plan, parked).plan, [member], newKey)];
}

/** Every way of a group with what the plan would come to with it, worked out side by side; the plan stays as it is. */
export function compareAlternates(plan: Plan, group: string): Alternate[] {
  let count = 0;
  const newKey = (): string => `way-${++count}`;
  const live = finishOf(plan);
  return (plan.alternates.get(group)?.members ?? []).map((activity): Alternate => {
    const isLive = plan.activities.get(activity)?.parked !== true;
    const name = plan.activities.get(activity)?.name ?? activity;
    try {
      const trial = applyChanges(plan, liveAlternate(plan, group, activity, newKey)).plan;
      const faults = checkWholePlan(trial);
      if (faults.length > 0) throw new PlanProblems(faults);
      const { finish, calendar, budgetMinor } = finishOf(trial);
      const days =
        finish === null || live.finish === null
          ? null
          : (calendar.indexAt(finish) - calendar.indexAt(live.finish)) / calendar.dayMinutes;
      return {
        activity,
        name,
        live: isLive,
        finish: finish === null ? null : formatDate(finishDayOf(finish)),
        finishDays: days,
        budgetMinor,
        load: loadOf(trial, activity),
        fault: null,
      };
    } catch (error) {
      if (!(error instanceof PlanProblems)) throw error;
      return {
        activity,
        name,
        live: isLive,
        finish: null,
        finishDays: null,
        budgetMinor: 0,
        load: [],
        fault: faultWords(plan, error.problems[0]!),
      };
    }
  });
}

const faultWords = (plan: Plan, { table, row, message }: Problem): string =>
  table === "activities" ? `"${plan.activities.get(row)?.name ?? row}" ${message}` : message;

function finishOf(plan: Plan) {
  const bundle = toBundle(plan);
  const { schedule } = computePlan(bundle);
  const budget = plannedBudget(bundle, schedule);
  return {
    finish: schedule.finish,
    calendar: schedule.calendars.get(plan.project.calendar),
    budgetMinor: bundle.activities.reduce(
      (sum, { id, kind }, i) =>
        kind === "summary" || schedule.tree.parked.has(id) ? sum : sum + (budget.minor[i] ?? 0),
      0,
    ),
  };
}

/** Hours of an activity and all below it, by person. */
function loadOf(plan: Plan, top: string): { person: string; minutes: number }[] {
  const within = new Set([top]);
  for (let size = 0; size !== within.size;) {
    size = within.size;
    for (const { id, parent } of plan.activities.values())
      if (parent !== undefined && within.has(parent)) within.add(id);
  }
  const minutes = new Map<string, number>();
  for (const { activity, person, plannedMinutes } of plan.assignments.values())
    if (within.has(activity)) minutes.set(person, (minutes.get(person) ?? 0) + plannedMinutes);
  return [...minutes]
    .map(([person, total]) => ({ person: plan.people.get(person)?.name ?? person, minutes: total }))
    .sort((a, b) => b.minutes - a.minutes);
}
