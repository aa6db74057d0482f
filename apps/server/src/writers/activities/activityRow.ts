import {
  type Activity,
  type Assignment,
  assignmentsByActivity,
  type Computed,
  deadlineStandings,
  epochDay,
  formatDate,
  type Plan,
  type PlanBundle,
  positionsOf,
  remainingWork,
  remembered,
  succession,
} from "@chronometra/core";
import type { ComputedPlan } from "../../plan/held/computedPlan.ts";
import type { Cell } from "../../plan/held/writer.ts";
import { approvedStarts } from "./approvedStarts.ts";
import { cut } from "./cut.ts";

/** The columns of `activity_row` after its key, in the order in which `cellsOf` gives them. */
export const COLUMNS = [
  "name",
  "branch",
  "kind",
  "state",
  "owner_id",
  "owner",
  "start",
  "finish",
  "baseline_start",
  "baseline_finish",
  "drift",
  "total_float",
  "critical",
  "percent",
  "deadline",
  "margin",
  "deadline_state",
  "wish",
  "duration",
  "planned",
  "remaining",
  "posted",
  "bac",
  "pv",
  "ev",
  "ac",
  "estimate",
  "currency",
  "scale",
  "blocked",
  "blocked_by",
  "reported",
  "links_in",
  "links_out",
  "parent_id",
] as const;

export interface KeptActivity {
  readonly id: string;
  readonly cells: readonly Cell[];
  /** Person, name, role. */
  readonly people: readonly (readonly [string, string, string | null])[];
  /** Field, text, number. */
  readonly values: readonly (readonly [string, string | null, number | null])[];
}

/** What most activities have of people, or of values of their own: one list for all. */
export const NONE: readonly never[] = [];

/** The names of the branches above an activity, the outermost first. */
const branchNames = remembered((activities: PlanBundle["activities"]): ((activity: Activity) => string) => {
  const positions = positionsOf(activities);
  const known = new Map<string, string>();
  const pathOf = (id: string | undefined): string => {
    if (id === undefined) return "";
    let path = known.get(id);
    if (path === undefined) {
      const parent = activities[positions.get(id) ?? -1];
      const above = pathOf(parent?.parent);
      path = parent === undefined ? "" : above === "" ? parent.name : `${above} / ${parent.name}`;
      known.set(id, path);
    }
    return path;
  };
  return ({ parent }) => cut(pathOf(parent), 1000);
});

/** Has the names of branches hold of activities that came of others where none is named otherwise or lies elsewhere. */
function handOnBranches(before: PlanBundle["activities"], after: PlanBundle["activities"]): void {
  const { inPlace, changed } = succession(before, after);
  const isSame = changed.every((i) => {
    const [was, now] = [before[i], after[i]!];
    return was?.name === now.name && was.parent === now.parent;
  });
  if (inPlace && isSame) branchNames.holdsOf(after, before);
}

interface Work {
  readonly planned: number;
  readonly remaining: number;
  readonly people: KeptActivity["people"];
}

/** What people have to do on an activity. */
function workOn(activity: Activity, assignments: readonly Assignment[] | undefined, people: People): Work {
  if (assignments === undefined) return NO_WORK;
  const named = new Map<string, KeptActivity["people"][number]>();
  let planned = 0;
  let remaining = 0;
  for (const assignment of assignments) {
    const { person } = assignment;
    planned += assignment.plannedMinutes;
    remaining += remainingWork(assignment, activity);
    named.set(person, [person, people.get(person)?.name ?? person, people.get(person)?.role ?? null]);
  }
  return { planned, remaining, people: [...named.values()] };
}

type People = ReadonlyMap<string, { readonly name: string; readonly role: string | null }>;

/** People by id, their names as their column holds them. */
const peopleById = remembered(
  (people: NonNullable<PlanBundle["people"]>): People =>
    new Map(people.map(({ id, name, role }) => [id, { name: cut(name, 500), role: role ?? null }])),
);

const timeByActivity = remembered((entries: NonNullable<PlanBundle["timeEntries"]>) => {
  const found = new Map<string, { minutes: number; last: string }>();
  for (const { activity, date, minutes, state } of entries) {
    if (state !== "posted") continue;
    const so = found.get(activity);
    if (so === undefined) found.set(activity, { minutes, last: date });
    else {
      so.minutes += minutes;
      if (date > so.last) so.last = date;
    }
  }
  return found;
});

const countLinks = remembered((links: NonNullable<PlanBundle["links"]>) => {
  const into = new Map<string, number>();
  const outOf = new Map<string, number>();
  for (const { from, to } of links) {
    into.set(to, (into.get(to) ?? 0) + 1);
    outOf.set(from, (outOf.get(from) ?? 0) + 1);
  }
  return { into, outOf };
});

const valueCells = (name: string, value: string | number | boolean): readonly [string, string | null, number | null] =>
  typeof value === "number"
    ? [name, null, value]
    : [name, typeof value === "boolean" ? (value ? "yes" : "no") : cut(value, 500), null];

/**
 * What all activities of a plan are read with.
 * @param before what those of the plan were read with that it came of
 */
export function reader({ bundle, computed, slips }: ComputedPlan, plan: Plan, before?: Reader): Reader {
  if (before !== undefined) handOnBranches(before.bundle.activities, bundle.activities);
  const { schedule, performance, baseline } = computed;
  return {
    bundle,
    plan,
    schedule,
    performance,
    branchOf: branchNames(bundle.activities),
    assignments: assignmentsByActivity(bundle),
    time: timeByActivity(bundle.timeEntries ?? []),
    links: countLinks(bundle.links ?? []),
    slips,
    approvedStarts: approvedStarts(baseline?.content.activities),
    deadlines: deadlineStandings(bundle, schedule),
    people: peopleById(bundle.people ?? []),
  };
}

/** What all activities of a plan are read with. */
export interface Reader {
  readonly bundle: PlanBundle;
  readonly plan: Plan;
  readonly schedule: Computed["schedule"];
  readonly performance: Computed["performance"];
  readonly branchOf: (activity: Activity) => string;
  readonly assignments: ReadonlyMap<string, readonly Assignment[]>;
  readonly time: ReadonlyMap<string, { readonly minutes: number; readonly last: string }>;
  readonly links: { readonly into: ReadonlyMap<string, number>; readonly outOf: ReadonlyMap<string, number> };
  readonly slips: ComputedPlan["slips"];
  readonly approvedStarts: ReadonlyMap<string, string>;
  readonly deadlines: ReturnType<typeof deadlineStandings>;
  readonly people: People;
}

// What stands where there is none.
const NO_DATES = { startDay: null, finishDay: null, totalFloat: null, critical: false, state: "unscheduled" } as const;
const NO_SLIP = { baselineFinishDay: null, workingDays: null };
const NO_DEADLINE = { marginDays: null, state: null };
const NO_WORK: Work = { planned: 0, remaining: 0, people: NONE };
const NO_TIME = { minutes: 0, last: null };
const NO_FIGURES = { bac: 0, pv: 0, ev: 0, ac: 0, eacBottomUp: 0, percentComplete: null };

const shownDay = (day: number | null): string | null => (day === null ? null : formatDate(epochDay(day)));

/**
 * What is done of an activity in percent: of work that nobody has begun nothing, of what spans others what they have
 * earned.
 */
function percentOf(
  { kind, percent, dropped }: Activity,
  state: string | undefined,
  earned: number | null,
): number | null {
  if (kind === "summary" || kind === "levelOfEffort") return earned === null ? null : earned * 100;
  return percent ?? (state === "complete" && dropped !== true ? 100 : 0);
}

/** The cells of an activity, in the order of the columns. Made for all of a plan at every change: in one piece. */
function cellsOf(read: Reader, activity: Activity, i: number, work: Work): Cell[] {
  const { id, name, kind = "work", owner } = activity;
  const { schedule, time, links } = read;
  const { project } = read.bundle;
  const row = schedule.rows[i] ?? NO_DATES;
  const approvedStart = read.approvedStarts.get(id);
  const slip = read.slips[i] ?? NO_SLIP;
  const deadline = read.deadlines.get(id) ?? NO_DEADLINE;
  const { dayMinutes } = schedule.calendars.get(activity.calendar ?? project.calendar);
  const posted = time.get(id) ?? NO_TIME;
  const figures = read.performance?.activities[i] ?? NO_FIGURES;
  const block = read.plan.blocks.get(id);
  return [
    cut(name, 500),
    read.branchOf(activity),
    kind,
    schedule.tree.parked.has(id) ? "parked" : row.state,
    owner ?? null,
    owner === undefined ? null : (read.people.get(owner)?.name ?? owner),
    shownDay(row.startDay),
    shownDay(row.finishDay),
    approvedStart ?? null,
    shownDay(slip.baselineFinishDay),
    slip.workingDays,
    row.totalFloat === null ? null : row.totalFloat / dayMinutes,
    row.critical ? 1 : 0,
    percentOf(activity, row.state, figures.percentComplete),
    activity.deadline ?? null,
    deadline.marginDays,
    deadline.state,
    activity.wish?.type ?? null,
    activity.durationMinutes === undefined ? null : activity.durationMinutes / dayMinutes,
    work.planned,
    work.remaining,
    posted.minutes,
    figures.bac,
    figures.pv,
    figures.ev,
    figures.ac,
    figures.eacBottomUp,
    project.currency,
    10 ** (project.minorDigits ?? 2),
    block === undefined ? 0 : 1,
    block?.by ?? null,
    posted.last,
    links.into.get(id) ?? 0,
    links.outOf.get(id) ?? 0,
    activity.parent ?? null,
  ];
}

function ownValues({ ownValues, fields }: Plan, id: string): KeptActivity["values"] {
  const own = ownValues.get(id);
  if (own === undefined) return NONE;
  return Object.entries(own).flatMap(([field, value]) =>
    fields.has(field) ? [valueCells(fields.get(field)!.name, value)] : [],
  );
}

/** What is kept of an activity. */
export function rowOf(read: Reader, activity: Activity, i: number): KeptActivity {
  const { id } = activity;
  const work = workOn(activity, read.assignments.get(id), read.people);
  return { id, cells: cellsOf(read, activity, i, work), people: work.people, values: ownValues(read.plan, id) };
}
