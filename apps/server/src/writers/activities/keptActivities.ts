import type { Activity, Plan } from "@chronometra/core";
import type { HeldPlan } from "../../plan/held/heldPlan.ts";
import type { Cell, Edit, TableRows, Writer } from "../../plan/held/writer.ts";
import { COLUMNS, NONE, reader, rowOf, type KeptActivity, type Reader } from "./activityRow.ts";

type Rows = ReadonlyMap<string, KeptActivity>;

/** What is kept of a plan's activities, and what it was read with. */
interface Kept {
  readonly read: Reader;
  readonly rows: Rows;
}

const known = new WeakMap<HeldPlan, Kept>();

/** What rows rest on besides their activity, its dates, figures and the branches above it. */
const AROUND = [
  "project",
  "calendars",
  "people",
  "links",
  "assignments",
  "timeEntries",
  "baselines",
  "fields",
  "ownValues",
  "blocks",
] as const satisfies readonly (keyof Plan)[];

/**
 * Gives the row of an activity from before where all that it rests on is what it was; `null` where something may
 * differ.
 */
function rowBefore(read: Reader, was: Kept | null): (activity: Activity, i: number) => KeptActivity | null {
  if (was === null || AROUND.some((table) => was.read.plan[table] !== read.plan[table])) return () => null;
  const { read: before, rows } = was;
  const { indexOf, parked } = before.schedule.tree;
  return (activity, i) => {
    const { id } = activity;
    const place = indexOf.get(id) ?? -1;
    const same =
      before.bundle.activities[place] === activity &&
      before.schedule.rows[place] === read.schedule.rows[i] &&
      before.performance?.activities[place] === read.performance?.activities[i] &&
      parked.has(id) === read.schedule.tree.parked.has(id) &&
      before.branchOf(activity) === read.branchOf(activity);
    return same ? rows.get(id)! : null;
  };
}

/**
 * What is kept of each activity, branches and parked work included.
 * @param was what is kept of the plan before: rows that stay as they are, are the same objects
 */
function keptOf(held: HeldPlan, was: Kept | null): Kept {
  let kept = known.get(held);
  if (kept === undefined) {
    const read = reader(held.whole, held.plan);
    const before = rowBefore(read, was);
    const rows = read.bundle.activities.map((activity, i): [string, KeptActivity] => {
      const former = before(activity, i);
      if (former !== null) return [activity.id, former];
      const row = rowOf(read, activity, i);
      const old = was?.rows.get(activity.id);
      return [activity.id, old !== undefined && sameRow(old, row) ? old : row];
    });
    known.set(held, (kept = { read, rows: new Map(rows) }));
  }
  return kept;
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

/** Fewer rows alike are written whole. */
const MANY = 50;

/** Rows that differ from those before in the same columns, where they are many; and the rest. */
function alikeIn(changed: readonly KeptActivity[], was: Rows): { edits: Edit[]; rest: KeptActivity[] } {
  const groups = new Map<string, { places: number[]; of: KeptActivity[] }>();
  const rest: KeptActivity[] = [];
  for (const row of changed) {
    const before = was.get(row.id);
    if (before === undefined) {
      rest.push(row);
      continue;
    }
    const places = COLUMNS.flatMap((_, i) => (row.cells[i] === before.cells[i] ? [] : [i]));
    const group = groups.get(places.join()) ?? { places, of: [] };
    group.of.push(row);
    groups.set(places.join(), group);
  }
  const edits: Edit[] = [];
  for (const { places, of } of groups.values())
    if (of.length < MANY) rest.push(...of);
    else
      edits.push({
        columns: places.map((i) => COLUMNS[i]!),
        rows: of.map(({ id, cells }) => [id, ...places.map((i) => cells[i]!)]),
      });
  return { edits, rest };
}

/** What differs between the rows of two plans: people and values of an activity are written anew together. */
function differences(was: Rows, now: Rows): TableRows[] {
  const gone = [...was.keys()].filter((id) => !now.has(id));
  const others = [...now.values()].filter((row) => was.get(row.id) !== row);
  const changed = others.filter(({ id, cells }) => !sameCells(was.get(id)?.cells ?? NONE, cells));
  const { edits, rest } = alikeIn(changed, was);
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
      rows: rest.map(({ id, cells }) => [id, ...cells]),
      edits,
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
    const was = before === null ? null : keptOf(before, null);
    return differences(was?.rows ?? NO_ROWS, keptOf(after, was).rows);
  },
};
