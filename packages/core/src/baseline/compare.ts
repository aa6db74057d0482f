import { plannedBudget } from "./plannedBudget.ts";
import { schedulePlan } from "../network/schedule.ts";
import { linkTexts } from "../plan/typed/linkText.ts";
import { fromBundle } from "../plan/plan.ts";
import { wishText } from "../plan/words/wishWords.ts";
import type { Activity, Baseline, Link, PlanBundle } from "../plan/schema.ts";
import { finishDayOf, formatDate, parseInstant, startDayOf, type LocalMinute } from "../time/instant.ts";
import type { WorkCalendar } from "../time/workCalendar.ts";
import { durationOf } from "./freeze.ts";

/** An activity as it stood at some moment; instants in local minutes, dates as shown, money in minor units. */
export interface StateRow {
  readonly id: string;
  readonly name: string;
  /** The branch it lies in, names from the top. */
  readonly path: string;
  readonly milestone: boolean;
  readonly start: LocalMinute | null;
  readonly finish: LocalMinute | null;
  readonly startDate: string | null;
  readonly finishDate: string | null;
  readonly durationMinutes: number | null;
  readonly minutes: number;
  readonly budgetMinor: number;
  readonly deadline: string | null;
  readonly parked: boolean;
  /** What it comes after, in words, and what was wished. */
  readonly logic: readonly string[];
}

/** A plan as it stood at some moment: a baseline, an issued period, or now. Summaries are not among the rows. */
export interface PlanState {
  readonly rows: ReadonlyMap<string, StateRow>;
}

function pathsOf(activities: readonly Activity[]): (id: string) => string {
  const byId = new Map(activities.map((activity) => [activity.id, activity]));
  return (id) => {
    const names: string[] = [];
    for (let at = byId.get(id)?.parent; at !== undefined && names.length < 100; at = byId.get(at)?.parent)
      names.unshift(byId.get(at)?.name ?? at);
    return names.join(" / ");
  };
}

const wishWords = (wish: Activity["wish"]): string[] => (wish === undefined ? [] : [wishText(wish)]);

/** What an activity was called that has left the plan. */
type Names = ReadonlyMap<string, string>;
const nameIn = (names: Names, id: string): string => names.get(id) ?? "an activity that was removed";

/** Links in words by activity. */
function logicOf(plan: PlanBundle, links: readonly Link[], names: Names = new Map()): (id: string) => string[] {
  const known = new Set(plan.activities.map(({ id }) => id));
  const gone = [...new Set(links.flatMap(({ from, to }) => [from, to]))].filter((id) => !known.has(id));
  const texts = linkTexts(
    fromBundle({
      ...plan,
      activities: [...plan.activities, ...gone.map((id) => ({ id, name: nameIn(names, id) }))],
      links: [...links],
    }),
  );
  return (id) => texts.get(id)?.split("; ").sort() ?? [];
}

/**
 * A plan as it stands, with its progress.
 * @throws {PlanProblems} where it cannot be scheduled
 */
export function stateOfPlan(plan: PlanBundle): PlanState {
  const schedule = schedulePlan(plan);
  const budget = plannedBudget(plan, schedule);
  const pathOf = pathsOf(plan.activities);
  const logic = logicOf(plan, plan.links ?? []);
  const rows = new Map<string, StateRow>();
  plan.activities.forEach((activity, i) => {
    if (activity.kind === "summary") return;
    const dates = schedule.rows[i] ?? null;
    rows.set(activity.id, {
      id: activity.id,
      name: activity.name,
      path: pathOf(activity.id),
      milestone: activity.kind === "milestone",
      start: dates?.start ?? null,
      finish: dates?.finish ?? null,
      startDate: dates === null ? null : formatDate(dates.startDay),
      finishDate: dates === null ? null : formatDate(dates.finishDay),
      durationMinutes:
        dates === null || activity.kind === "milestone" ? null : durationOf(activity, dates, plan, schedule),
      minutes: budget.minutes[i]!,
      budgetMinor: budget.minor[i]!,
      deadline: activity.deadline ?? null,
      parked: schedule.tree.parked.has(activity.id),
      logic: [...logic(activity.id), ...wishWords(activity.wish)],
    });
  });
  return { rows };
}

/** What is stored with a baseline besides its rows: the logic it was frozen with. */
export interface FrozenLogic {
  readonly links?: readonly Link[];
  readonly wishes?: Readonly<Record<string, NonNullable<Activity["wish"]>>>;
}

/**
 * A baseline as it was frozen. A baseline carries no names: they are today's, or those that are told of what has left
 * the plan.
 * @param plan today's plan
 */
export function stateOfBaseline(
  plan: PlanBundle,
  baseline: Baseline,
  frozen: FrozenLogic,
  names: Names = new Map(),
): PlanState {
  const byId = new Map(plan.activities.map((activity) => [activity.id, activity]));
  const pathOf = pathsOf(plan.activities);
  const logic = logicOf(plan, frozen.links ?? [], names);
  const rows = new Map<string, StateRow>();
  for (const row of baseline.activities) {
    const start = parseInstant(row.start)!;
    const finish = parseInstant(row.finish)!;
    const milestone = row.durationMinutes === 0 && row.start === row.finish;
    rows.set(row.id, {
      id: row.id,
      name: byId.get(row.id)?.name ?? nameIn(names, row.id),
      path: pathOf(row.id),
      milestone,
      start,
      finish,
      startDate: formatDate(startDayOf(start)),
      finishDate: formatDate(finishDayOf(finish)),
      durationMinutes: milestone ? null : row.durationMinutes,
      minutes: row.minutes,
      budgetMinor: row.evenMinor + row.startMinor + row.finishMinor,
      deadline: row.deadline ?? null,
      parked: false,
      logic: [...logic(row.id), ...wishWords(frozen.wishes?.[row.id])],
    });
  }
  return { rows };
}

/** What became of an activity from one state to another. */
export interface ComparedRow {
  readonly id: string;
  readonly name: string;
  readonly path: string;
  readonly what: "added" | "dropped" | "parked" | "woken" | "changed";
  readonly from: StateRow | null;
  readonly to: StateRow | null;
  /** Working days of the project calendar, later is positive; `null` where it has no dates on one side. */
  readonly startDays: number | null;
  readonly finishDays: number | null;
  readonly logicAdded: readonly string[];
  readonly logicDropped: readonly string[];
}

export interface Comparison {
  /** Only what differs, in the order of the later state; what was dropped stands last. */
  readonly rows: readonly ComparedRow[];
  readonly finish: { readonly from: string | null; readonly to: string | null; readonly days: number | null };
  readonly budgetMinor: { readonly from: number; readonly to: number };
  readonly minutes: { readonly from: number; readonly to: number };
  /** How many activities stand alike in both. */
  readonly alike: number;
}

const counting = ({ rows }: PlanState): StateRow[] => [...rows.values()].filter(({ parked }) => !parked);
const sum = (rows: readonly StateRow[], of: (row: StateRow) => number): number =>
  rows.reduce((total, row) => total + of(row), 0);

function whatBecame(from: StateRow | null, to: StateRow | null): ComparedRow["what"] {
  if (from === null) return to!.parked ? "parked" : "added";
  if (to === null) return "dropped";
  if (from.parked !== to.parked) return to.parked ? "parked" : "woken";
  return "changed";
}

const FIELDS = [
  "name",
  "path",
  "start",
  "finish",
  "durationMinutes",
  "minutes",
  "budgetMinor",
  "deadline",
  "parked",
] as const;

/**
 * Compares two states of a plan, activity by activity. What is parked in both, or comes parked, counts for nothing.
 * @param calendar the project's, in which days are counted
 */
export function compareStates(from: PlanState, to: PlanState, calendar: WorkCalendar): Comparison {
  const days = (a: LocalMinute | null, b: LocalMinute | null): number | null =>
    a === null || b === null ? null : (calendar.indexAt(b) - calendar.indexAt(a)) / calendar.dayMinutes;
  const rows: ComparedRow[] = [];
  let alike = 0;
  const take = (was: StateRow | null, will: StateRow | null): void => {
    if ((was === null || was.parked) && (will === null || will.parked)) return;
    const same =
      was !== null &&
      will !== null &&
      FIELDS.every((field) => was[field] === will[field]) &&
      was.logic.join("; ") === will.logic.join("; ");
    if (same) return void alike++;
    const { id, name, path } = will ?? was!;
    const logic = (of: StateRow | null, without: StateRow | null): string[] =>
      of === null || without === null ? [] : of.logic.filter((words) => !without.logic.includes(words));
    rows.push({
      id,
      name,
      path,
      what: whatBecame(was, will),
      from: was,
      to: will,
      startDays: days(was?.start ?? null, will?.start ?? null),
      finishDays: days(was?.finish ?? null, will?.finish ?? null),
      logicAdded: logic(will, was),
      logicDropped: logic(was, will),
    });
  };
  for (const [id, row] of to.rows) take(from.rows.get(id) ?? null, row);
  for (const [id, row] of from.rows) if (!to.rows.has(id)) take(row, null);
  const [earlier, later] = [counting(from), counting(to)];
  const last = (of: readonly StateRow[]): StateRow | null =>
    of.reduce<StateRow | null>(
      (most, row) => (row.finish !== null && (most === null || row.finish > most.finish!) ? row : most),
      null,
    );
  return {
    rows,
    finish: {
      from: last(earlier)?.finishDate ?? null,
      to: last(later)?.finishDate ?? null,
      days: days(last(earlier)?.finish ?? null, last(later)?.finish ?? null),
    },
    budgetMinor: {
      from: sum(earlier, ({ budgetMinor }) => budgetMinor),
      to: sum(later, ({ budgetMinor }) => budgetMinor),
    },
    minutes: { from: sum(earlier, ({ minutes }) => minutes), to: sum(later, ({ minutes }) => minutes) },
    alike,
  };
}
