import { succession } from "@chronometra/core";
import type { HeldPlan } from "../../plan/held/heldPlan.ts";
import type { Cell, Edit, TableRows, Writer } from "../../plan/held/writer.ts";
import { COLUMNS, NONE, reader, rowOf, type KeptActivity, type Reader } from "./activityRow.ts";
import { touchedBetween } from "./touched.ts";

/** What is kept of a plan's activities, by position, and what it was read with. */
interface Kept {
  readonly read: Reader;
  readonly rows: readonly KeptActivity[];
}

const known = new WeakMap<HeldPlan, Kept>();

/** Gives the row of an activity from before, by its position now, where all that it rests on is what it was. */
function rowsBefore(read: Reader, was: Kept | null): (i: number) => KeptActivity | null {
  if (was === null) return () => null;
  const { read: before, rows } = was;
  const touched = touchedBetween(before, read);
  if (touched === "all") return () => null;
  const { from } = succession(before.bundle.activities, read.bundle.activities);
  const isSameTree = before.schedule.tree === read.schedule.tree;
  const isSameBranch = before.branchOf === read.branchOf;
  const parkedBefore = before.schedule.tree.parked;
  return (i) => {
    const place = from[i]!;
    const activity = read.bundle.activities[i]!;
    const same =
      before.bundle.activities[place] === activity &&
      before.schedule.rows[place] === read.schedule.rows[i] &&
      before.performance?.activities[place] === read.performance?.activities[i] &&
      before.slips[place] === read.slips[i] &&
      !touched.has(activity.id) &&
      (isSameTree || parkedBefore.has(activity.id) === read.schedule.tree.parked.has(activity.id)) &&
      (isSameBranch || before.branchOf(activity) === read.branchOf(activity));
    return same ? rows[place]! : null;
  };
}

/**
 * What is kept of each activity, branches and parked work included.
 * @param was what is kept of the plan before: rows that stay as they are, are the same objects
 */
function keptOf(held: HeldPlan, was: Kept | null): Kept {
  let kept = known.get(held);
  if (kept === undefined) {
    const read = reader(held.whole, held.plan, was?.read);
    const before = rowsBefore(read, was);
    const from = was === null ? null : succession(was.read.bundle.activities, read.bundle.activities).from;
    const rows = read.bundle.activities.map((activity, i) => {
      const former = before(i);
      if (former !== null) return former;
      const row = rowOf(read, activity, i);
      const old = from === null ? undefined : was!.rows[from[i]!];
      return old !== undefined && sameRow(old, row) ? old : row;
    });
    known.set(held, (kept = { read, rows }));
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

/** A row that is kept now, and what was kept of its activity before. */
interface Change {
  readonly row: KeptActivity;
  readonly was: KeptActivity | undefined;
}

/** Rows that differ from those before in the same columns, where they are many; and the rest. */
function alikeIn(changed: readonly Change[]): { edits: Edit[]; rest: KeptActivity[] } {
  const groups = new Map<string, { places: number[]; of: KeptActivity[] }>();
  const rest: KeptActivity[] = [];
  for (const { row, was } of changed) {
    if (was === undefined) {
      rest.push(row);
      continue;
    }
    const places = COLUMNS.flatMap((_, i) => (row.cells[i] === was.cells[i] ? [] : [i]));
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

/** Rows that are other than before, and the ids of what is gone. */
function changesOf(was: Kept | null, now: Kept): { changes: Change[]; gone: string[] } {
  if (was === null) return { changes: now.rows.map((row) => ({ row, was: undefined })), gone: [] };
  const { from, gone } = succession(was.read.bundle.activities, now.read.bundle.activities);
  const changes: Change[] = [];
  now.rows.forEach((row, i) => {
    const before = was.rows[from[i]!];
    if (before !== row) changes.push({ row, was: before });
  });
  return { changes, gone: gone.map((at) => was.rows[at]!.id) };
}

/** What differs between the rows of two plans: people and values of an activity are written anew together. */
function differences(before: Kept | null, now: Kept): TableRows[] {
  const { changes, gone } = changesOf(before, now);
  const { edits, rest } = alikeIn(changes.filter(({ row, was }) => !sameCells(was?.cells ?? NONE, row.cells)));
  const aside = changes.filter(({ row, was }) => !sameAside(was, row));
  const sidesGone = {
    by: ["activity_id"],
    keys: [...gone, ...aside.flatMap(({ was }) => (was === undefined ? [] : [was.id]))].map((id) => [id]),
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
      rows: aside.flatMap(({ row: { id, people } }) => people.map((person) => [id, ...person])),
    },
    {
      table: "activity_value",
      key: ["activity_id", "field"],
      columns: ["text", "number"],
      gone: sidesGone,
      rows: aside.flatMap(({ row: { id, values } }) => values.map((value) => [id, ...value])),
    },
  ];
}

/** A row for each activity, with its people and values. */
export const keptActivities: Writer = {
  tables: ["activity_row", "activity_person", "activity_value"],
  rows: ({ before, after }) => {
    const was = before === null ? null : keptOf(before, null);
    return differences(was, keptOf(after, was));
  },
};
