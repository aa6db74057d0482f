import {
  type Activity,
  deadlineStandings,
  epochDay,
  formatDate,
  type Plan,
  type PlanBundle,
  positionsOf,
  remainingWork,
  remembered,
} from "@chronometra/core";
import type { ComputedPlan } from "../plan/held/computedPlan.ts";
import type { HeldPlan } from "../plan/held/heldPlan.ts";
import type { Cell, TableRows, Writer } from "../plan/held/writer.ts";
import { approvedStarts } from "./approvedStarts.ts";
import { cut } from "./cut.ts";

/** The columns of `activity_row` after its key, in the order in which `activityRows` gives them. */
const COLUMNS = [
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

interface KeptActivity {
  readonly id: string;
  readonly cells: readonly Cell[];
  /** Person, name, role. */
  readonly people: readonly (readonly [string, string, string | null])[];
  /** Field, text, number. */
  readonly values: readonly (readonly [string, string | null, number | null])[];
}

/** What most activities have of people, or of values of their own: one list for all. */
const NONE: readonly never[] = [];

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

interface Work {
  planned: number;
  remaining: number;
  readonly people: Map<string, readonly [string, string, string | null]>;
}

function workByActivity(bundle: PlanBundle): Map<string, Work> {
  const people = new Map((bundle.people ?? []).map((person) => [person.id, person]));
  const positions = positionsOf(bundle.activities);
  const found = new Map<string, Work>();
  for (const assignment of bundle.assignments ?? []) {
    const { activity, person } = assignment;
    let work = found.get(activity);
    if (work === undefined) found.set(activity, (work = { planned: 0, remaining: 0, people: new Map() }));
    work.planned += assignment.plannedMinutes;
    work.remaining += remainingWork(assignment, bundle.activities[positions.get(activity)!]!);
    work.people.set(person, [person, cut(people.get(person)?.name ?? person, 500), people.get(person)?.role ?? null]);
  }
  return found;
}

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

const namesOf = remembered(
  (people: NonNullable<PlanBundle["people"]>) => new Map(people.map(({ id, name }) => [id, cut(name, 500)])),
);

const valueCells = (name: string, value: string | number | boolean): readonly [string, string | null, number | null] =>
  typeof value === "number"
    ? [name, null, value]
    : [name, typeof value === "boolean" ? (value ? "yes" : "no") : cut(value, 500), null];

/** What all activities of a plan are read with. */
function reader({ bundle, computed, slips }: ComputedPlan, plan: Plan) {
  const { schedule, performance, baseline } = computed;
  return {
    bundle,
    plan,
    schedule,
    performance,
    branchOf: branchNames(bundle.activities),
    work: workByActivity(bundle),
    time: timeByActivity(bundle.timeEntries ?? []),
    links: countLinks(bundle.links ?? []),
    slips,
    approvedStarts: approvedStarts(baseline?.content.activities),
    deadlines: deadlineStandings(bundle, schedule),
    names: namesOf(bundle.people ?? []),
  };
}
type Reader = ReturnType<typeof reader>;

// What stands where there is none.
const NO_DATES = { startDay: null, finishDay: null, totalFloat: null, critical: false, state: "unscheduled" } as const;
const NO_SLIP = { baselineFinishDay: null, workingDays: null };
const NO_DEADLINE = { marginDays: null, state: null };
const NO_WORK = { planned: 0, remaining: 0 };
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
function cellsOf(read: Reader, activity: Activity, i: number): Cell[] {
  const { id, name, kind = "work", owner } = activity;
  const { schedule, time, links } = read;
  const { project } = read.bundle;
  const row = schedule.rows[i] ?? NO_DATES;
  const approvedStart = read.approvedStarts.get(id);
  const slip = read.slips.get(id) ?? NO_SLIP;
  const deadline = read.deadlines.get(id) ?? NO_DEADLINE;
  const { dayMinutes } = schedule.calendars.get(activity.calendar ?? project.calendar);
  const work = read.work.get(id) ?? NO_WORK;
  const posted = time.get(id) ?? NO_TIME;
  const figures = read.performance?.activities[i] ?? NO_FIGURES;
  const block = read.plan.blocks.get(id);
  return [
    cut(name, 500),
    read.branchOf(activity),
    kind,
    schedule.tree.parked.has(id) ? "parked" : row.state,
    owner ?? null,
    owner === undefined ? null : (read.names.get(owner) ?? owner),
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
function rowOf(read: Reader, activity: Activity, i: number): KeptActivity {
  const { id } = activity;
  const people = read.work.get(id)?.people;
  return {
    id,
    cells: cellsOf(read, activity, i),
    people: people === undefined ? NONE : [...people.values()],
    values: ownValues(read.plan, id),
  };
}

type Rows = ReadonlyMap<string, KeptActivity>;

const known = new WeakMap<HeldPlan, Rows>();

/**
 * What is kept of each activity, branches and parked work included.
 * @param was the rows of the plan before: of those that stay as they are, the same are taken
 */
function rowsById(held: HeldPlan, was: Rows): Rows {
  let rows = known.get(held);
  if (rows === undefined) {
    const read = reader(held.whole, held.plan);
    rows = new Map(
      held.whole.bundle.activities.map((activity, i) => {
        const row = rowOf(read, activity, i);
        const former = was.get(activity.id);
        return [activity.id, former !== undefined && sameRow(former, row) ? former : row];
      }),
    );
    known.set(held, rows);
  }
  return rows;
}

const sameCells = (a: readonly Cell[], b: readonly Cell[]): boolean =>
  a.length === b.length && a.every((cell, i) => cell === b[i]);
const sameLists = (a: readonly (readonly Cell[])[], b: readonly (readonly Cell[])[]): boolean =>
  a.length === b.length && a.every((cells, i) => sameCells(cells, b[i]!));
const sameAside = (a: KeptActivity | undefined, b: KeptActivity): boolean =>
  a === undefined
    ? b.people.length + b.values.length === 0
    : sameLists(a.people, b.people) && sameLists(a.values, b.values);

const sameRow = (a: KeptActivity, b: KeptActivity): boolean => sameCells(a.cells, b.cells) && sameAside(a, b);

/** What differs between the rows of two plans: people and values of an activity are written anew together. */
function differences(was: Rows, now: Rows): TableRows[] {
  const gone = [...was.keys()].filter((id) => !now.has(id));
  const others = [...now.values()].filter((row) => was.get(row.id) !== row);
  const changed = others.filter(({ id, cells }) => !sameCells(was.get(id)?.cells ?? NONE, cells));
  const aside = others.filter((row) => !sameAside(was.get(row.id), row));
  const sidesGone = {
    by: ["activity_id"],
    keys: [...gone, ...aside.flatMap(({ id }) => (was.has(id) ? [id] : []))].map((id) => [id]),
  };
  return [
    {
      table: "activity_row",
      key: ["activity_id"],
      columns: COLUMNS,
      gone: { by: ["activity_id"], keys: gone.map((id) => [id]) },
      rows: changed.map(({ id, cells }) => [id, ...cells]),
    },
    {
      table: "activity_person",
      key: ["activity_id", "person_id"],
      columns: ["name", "role"],
      gone: sidesGone,
      rows: aside.flatMap(({ id, people }) => people.map((person) => [id, ...person])),
    },
    {
      table: "activity_value",
      key: ["activity_id", "field"],
      columns: ["text", "number"],
      gone: sidesGone,
      rows: aside.flatMap(({ id, values }) => values.map((value) => [id, ...value])),
    },
  ];
}

const NO_ROWS: Rows = new Map();

/** A row for each activity, with its people and values. */
export const keptActivities: Writer = {
  tables: ["activity_row", "activity_person", "activity_value"],
  rows: ({ before, after }) => {
    const was = before === null ? NO_ROWS : rowsById(before, NO_ROWS);
    return differences(was, rowsById(after, was));
  },
};
