import { createHash } from "node:crypto";
import {
  type Activity,
  deadlineStandings,
  epochDay,
  formatDate,
  parseInstant,
  type Plan,
  type PlanBundle,
  remainingWork,
  slipsAgainst,
  startDayOf,
} from "@chronometra/core";
import type { EntityManager } from "typeorm";
import type { ComputedPlan } from "./summarise.ts";
import type { Kept, Writer } from "./writer.ts";
import { cut, deleteRows, insertRows, type Cell } from "./writeRows.ts";

/** The columns of `activity_row` after its key and marks, in the order in which `activityRows` gives them. */
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

function branchNames(bundle: PlanBundle): (activity: Activity) => string {
  const byId = new Map(bundle.activities.map((each) => [each.id, each]));
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
}

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

function timeByActivity(bundle: PlanBundle): Map<string, { minutes: number; last: string }> {
  const found = new Map<string, { minutes: number; last: string }>();
  for (const { activity, date, minutes, state } of bundle.timeEntries ?? []) {
    if (state !== "posted") continue;
    const so = found.get(activity);
    if (so === undefined) found.set(activity, { minutes, last: date });
    else {
      so.minutes += minutes;
      if (date > so.last) so.last = date;
    }
  }
  return found;
}

function countLinks(bundle: PlanBundle): { into: Map<string, number>; outOf: Map<string, number> } {
  const into = new Map<string, number>();
  const outOf = new Map<string, number>();
  for (const { from, to } of bundle.links ?? []) {
    into.set(to, (into.get(to) ?? 0) + 1);
    outOf.set(from, (outOf.get(from) ?? 0) + 1);
  }
  return { into, outOf };
}

const valueCells = (name: string, value: string | number | boolean): readonly [string, string | null, number | null] =>
  typeof value === "number"
    ? [name, null, value]
    : [name, typeof value === "boolean" ? (value ? "yes" : "no") : cut(value, 500), null];

/** What all activities of a plan are read with. */
function reader({ bundle, computed }: ComputedPlan, plan: Plan) {
  const { schedule, performance, baseline } = computed;
  return {
    bundle,
    plan,
    schedule,
    performance,
    branchOf: branchNames(bundle),
    work: workByActivity(bundle),
    time: timeByActivity(bundle),
    links: countLinks(bundle),
    slips: baseline === null ? null : slipsAgainst(bundle, schedule, baseline.content),
    approved: new Map(baseline?.content.activities.map((row) => [row.id, row])),
    deadlines: deadlineStandings(bundle, schedule),
    names: new Map((bundle.people ?? []).map(({ id, name }) => [id, cut(name, 500)])),
  };
}
type Reader = ReturnType<typeof reader>;

const shownDay = (day: number | undefined): string | null => (day === undefined ? null : formatDate(epochDay(day)));

/** What is done of an activity in percent: of work that nobody has begun nothing, of what spans others what they have earned. */
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
  const slip = slips?.get(activity.id);
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

/** What is kept of each activity, branches and parked work included. */
function activityRows(whole: ComputedPlan, plan: Plan): KeptActivity[] {
  const read = reader(whole, plan);
  const { currency, minorDigits = 2 } = whole.bundle.project;
  return whole.bundle.activities.map((activity, i): KeptActivity => {
    const { id } = activity;
    const block = plan.blocks.get(id);
    const own = Object.entries(plan.ownValues.get(id) ?? {});
    return {
      id,
      people: [...(read.work.get(id)?.people.values() ?? [])],
      values: own.flatMap(([field, value]) =>
        plan.fields.has(field) ? [valueCells(plan.fields.get(field)!.name, value)] : [],
      ),
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

const markOf = (text: string): string => createHash("md5").update(text).digest("base64").slice(0, 22);

/** Rows of a plan as texts, by their key within the plan. */
type Texts = ReadonlyMap<string, string>;

/**
 * What was kept of plans that this server wrote itself and still holds, so that the next change compares texts and asks the
 * database nothing. A plan whose transaction was not carried out is never written upon; one that was read anew is compared
 * by the marks in the database.
 */
const keptOf = new WeakMap<Plan, { readonly cells: Texts; readonly sides: Texts }>();

interface Marks {
  readonly cells: Texts;
  readonly sides: Texts;
  /** What stands in the place of a row's text. */
  readonly of: (text: string) => string;
}

async function marksOf(manager: EntityManager, projectId: string): Promise<Marks> {
  const rows = (await manager.query(
    "select activity_id as id, mark, side_mark as side from activity_row where project_id = ?",
    [projectId],
  )) as { id: string; mark: string; side: string }[];
  return {
    cells: new Map(rows.map(({ id, mark }) => [id, mark])),
    sides: new Map(rows.map(({ id, side }) => [id, side])),
    of: markOf,
  };
}

/** Writes what differs between the rows that are kept of activities and those of the plan. */
async function write({ manager, projectId, before, after, whole }: Kept): Promise<void> {
  const rows = activityRows(whole, after);
  const texts = before === null ? undefined : keptOf.get(before);
  const was: Marks = texts === undefined ? await marksOf(manager, projectId) : { ...texts, of: (text) => text };
  const cells = new Map(rows.map((row) => [row.id, JSON.stringify(row.cells)]));
  const sides = new Map(rows.map((row) => [row.id, JSON.stringify([row.people, row.values])]));
  const changed: (readonly Cell[])[] = [];
  const aside: KeptActivity[] = [];
  for (const row of rows) {
    const [text, side] = [cells.get(row.id)!, sides.get(row.id)!];
    const sameSide = was.sides.get(row.id) === was.of(side);
    if (!sameSide || was.cells.get(row.id) !== was.of(text))
      changed.push([projectId, row.id, markOf(text), markOf(side), ...row.cells]);
    if (!sameSide && (was.sides.has(row.id) || row.people.length + row.values.length > 0)) aside.push(row);
  }
  const gone = [...was.cells.keys()].filter((id) => !cells.has(id));
  await deleteRows(manager, "activity_row", projectId, "activity_id", gone);
  const others = [...gone, ...aside.map(({ id }) => id)];
  for (const table of ["activity_person", "activity_value"])
    await deleteRows(manager, table, projectId, "activity_id", others);
  await insertRows(manager, "activity_row", ["project_id", "activity_id", "mark", "side_mark", ...COLUMNS], changed, [
    "mark",
    "side_mark",
    ...COLUMNS,
  ]);
  await insertRows(
    manager,
    "activity_person",
    ["project_id", "activity_id", "person_id", "name", "role"],
    aside.flatMap(({ id, people }) => people.map((person) => [projectId, id, ...person])),
  );
  await insertRows(
    manager,
    "activity_value",
    ["project_id", "activity_id", "field", "text", "number"],
    aside.flatMap(({ id, values }) => values.map((value) => [projectId, id, ...value])),
  );
  keptOf.set(after, { cells, sides });
}

/** A row for each activity, with its people and values. */
export const keptActivities: Writer = { tables: ["activity_row", "activity_person", "activity_value"], write };
