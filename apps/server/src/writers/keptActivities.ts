import {
  type Activity,
  baselineRows,
  deadlineStandings,
  epochDay,
  formatDate,
  parseInstant,
  type Plan,
  type PlanBundle,
  remainingWork,
  remembered,
  startDayOf,
} from "@chronometra/core";
import type { ComputedPlan } from "../plan/held/computedPlan.ts";
import type { HeldPlan } from "../plan/held/heldPlan.ts";
import type { Cell, TableRows, Writer } from "../plan/held/writer.ts";
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

/** The names of the branches above an activity, the outermost first. */
const branchNames = remembered((activities: PlanBundle["activities"]): ((activity: Activity) => string) => {
  const byId = new Map(activities.map((each) => [each.id, each]));
  const known = new Map<string, string>();
  const pathOf = (id: string | undefined): string => {
    if (id === undefined) return "";
    let path = known.get(id);
    if (path === undefined) {
      const parent = byId.get(id);
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
  const byId = new Map(bundle.activities.map((each) => [each.id, each]));
  const found = new Map<string, Work>();
  for (const assignment of bundle.assignments ?? []) {
    const { activity, person } = assignment;
    let work = found.get(activity);
    if (work === undefined) found.set(activity, (work = { planned: 0, remaining: 0, people: new Map() }));
    work.planned += assignment.plannedMinutes;
    work.remaining += remainingWork(assignment, byId.get(activity)!);
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
    approved: baselineRows(baseline?.content.activities ?? []),
    deadlines: deadlineStandings(bundle, schedule),
    names: namesOf(bundle.people ?? []),
  };
}
type Reader = ReturnType<typeof reader>;

const shownDay = (day: number | undefined): string | null => (day === undefined ? null : formatDate(epochDay(day)));

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

function dateCells(
  { bundle, schedule, performance, approved, slips, deadlines }: Reader,
  activity: Activity,
  i: number,
): Cell[] {
  const row = schedule.rows[i] ?? undefined;
  const start = approved.get(activity.id)?.start;
  const slip = slips.get(activity.id);
  const deadline = deadlines.get(activity.id);
  const { dayMinutes } = schedule.calendars.get(activity.calendar ?? bundle.project.calendar);
  const float = row?.totalFloat ?? null;
  return [
    shownDay(row?.startDay),
    shownDay(row?.finishDay),
    start === undefined ? null : formatDate(startDayOf(parseInstant(start)!)),
    shownDay(slip?.baselineFinishDay),
    slip?.workingDays ?? null,
    float === null ? null : float / dayMinutes,
    row?.critical === true ? 1 : 0,
    percentOf(activity, row?.state, performance?.activities[i]?.percentComplete ?? null),
    activity.deadline ?? null,
    deadline?.marginDays ?? null,
    deadline?.state ?? null,
    activity.wish?.type ?? null,
    activity.durationMinutes === undefined ? null : activity.durationMinutes / dayMinutes,
  ];
}

function workCells({ work, time, performance }: Reader, { id }: Activity, i: number): Cell[] {
  const own = work.get(id);
  const figures = performance?.activities[i];
  return [
    own?.planned ?? 0,
    own?.remaining ?? 0,
    time.get(id)?.minutes ?? 0,
    figures?.bac ?? 0,
    figures?.pv ?? 0,
    figures?.ev ?? 0,
    figures?.ac ?? 0,
    figures?.eacBottomUp ?? 0,
  ];
}

function nameCells({ branchOf, schedule, names }: Reader, activity: Activity, i: number): Cell[] {
  const { name, kind = "work", owner } = activity;
  const state = schedule.tree.parked.has(activity.id) ? "parked" : (schedule.rows[i]?.state ?? "unscheduled");
  return [
    cut(name, 500),
    branchOf(activity),
    kind,
    state,
    owner ?? null,
    owner === undefined ? null : (names.get(owner) ?? owner),
  ];
}

/** What most activities have of people, or of values of their own: one list for all. */
const NONE: readonly never[] = [];

function ownValues({ ownValues, fields }: Plan, id: string): KeptActivity["values"] {
  const own = ownValues.get(id);
  if (own === undefined) return NONE;
  return Object.entries(own).flatMap(([field, value]) =>
    fields.has(field) ? [valueCells(fields.get(field)!.name, value)] : [],
  );
}

/** What is kept of each activity, branches and parked work included. */
function activityRows(whole: ComputedPlan, plan: Plan): KeptActivity[] {
  const read = reader(whole, plan);
  const { currency, minorDigits = 2 } = whole.bundle.project;
  return whole.bundle.activities.map((activity, i): KeptActivity => {
    const { id } = activity;
    const block = plan.blocks.get(id);
    const people = read.work.get(id)?.people;
    return {
      id,
      people: people === undefined ? NONE : [...people.values()],
      values: ownValues(plan, id),
      cells: [
        ...nameCells(read, activity, i),
        ...dateCells(read, activity, i),
        ...workCells(read, activity, i),
        currency,
        10 ** minorDigits,
        block === undefined ? 0 : 1,
        block?.by ?? null,
        read.time.get(id)?.last ?? null,
        read.links.into.get(id) ?? 0,
        read.links.outOf.get(id) ?? 0,
        activity.parent ?? null,
      ],
    };
  });
}

type Rows = ReadonlyMap<string, KeptActivity>;

const known = new WeakMap<HeldPlan, Rows>();

function rowsById(held: HeldPlan): Rows {
  let rows = known.get(held);
  if (rows === undefined)
    known.set(held, (rows = new Map(activityRows(held.whole, held.plan).map((row) => [row.id, row]))));
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

/** What differs between the rows of two plans: people and values of an activity are written anew together. */
function differences(was: Rows, now: Rows): TableRows[] {
  const gone = [...was.keys()].filter((id) => !now.has(id));
  const changed = [...now.values()].filter(({ id, cells }) => !sameCells(was.get(id)?.cells ?? [], cells));
  const aside = [...now.values()].filter((row) => !sameAside(was.get(row.id), row));
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

/** A row for each activity, with its people and values. */
export const keptActivities: Writer = {
  tables: ["activity_row", "activity_person", "activity_value"],
  rows: ({ before, after }) => differences(before === null ? new Map() : rowsById(before), rowsById(after)),
};
