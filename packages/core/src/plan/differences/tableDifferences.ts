import type { Change } from "../change.ts";
import { ownRowsOf } from "../acts/hanging.ts";
import type { Plan, Rows } from "../plan.ts";
import type { PlanTables } from "../rowSchemas.ts";
import { differing, type Loose } from "./fields.ts";
import { matchOf } from "./merge.ts";
import type { Activity, PlanBundle } from "../schema.ts";

/** What differs in one row between a plan and a file that was made from it, and the changes that would take it over. */
export interface RowDifference {
  /** Names the row among all differences. */
  readonly key: string;
  readonly table: "project" | "calendars" | "people" | "activities" | "links" | "assignments" | "costs";
  readonly what: "added" | "removed" | "changed";
  /** How the row is called. */
  readonly name: string;
  readonly fields: readonly {
    readonly field: string;
    readonly from: unknown;
    readonly to: unknown;
    /** What it was when the file was made, where the plan has changed it since too. */
    readonly then?: unknown;
  }[];
  /** Whether plan and file both changed it since the file was made. */
  readonly both: boolean;
  readonly changes: readonly Change[];
}

function fieldsBetween(from: Loose, to: Loose, apart: readonly string[]): RowDifference["fields"] {
  return differing(from, to, apart).map((field) => ({ field, from: from[field] ?? null, to: to[field] ?? null }));
}

/** The change that writes one field of an activity. */
function activityChange(id: string, field: string, value: unknown): Change {
  switch (field) {
    case "name":
      return { type: "setName", activity: id, name: value as string };
    case "kind":
      return { type: "setKind", activity: id, kind: value as NonNullable<Activity["kind"]> | null };
    case "durationMinutes":
      return { type: "setDuration", activity: id, minutes: value as number | null };
    case "deadline":
      return { type: "setDeadline", activity: id, date: value as string | null };
    case "wish":
    case "credit":
      return { type: field === "wish" ? "setWish" : "setCredit", activity: id, [field]: value } as Change;
    case "parked":
      return { type: "setParked", activity: id, parked: value === true };
    case "calendar":
    case "driver":
    case "windowPolicy":
    case "owner":
      return { type: "setWorking", activity: id, [field]: value } as Change;
    default:
      return { type: "reportProgress", activity: id, [field]: value } as Change;
  }
}

/** Positions of a longest ascending run of some numbers: what need not move when a list is put into another order. */
export function longestAscending(numbers: readonly number[]): Set<number> {
  const ends: number[] = [];
  const before: number[] = [];
  numbers.forEach((value, i) => {
    let low = 0;
    let high = ends.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (numbers[ends[middle]!]! < value) low = middle + 1;
      else high = middle;
    }
    before[i] = low === 0 ? -1 : ends[low - 1]!;
    ends[low] = i;
  });
  const kept = new Set<number>();
  for (let at = ends.at(-1) ?? -1; at >= 0; at = before[at]!) kept.add(at);
  return kept;
}

/** A row as it is wanted, and what it is to stand before; `null` at the end. */
interface Wanted {
  readonly row: Activity;
  readonly before: Activity | null;
}

const addedActivity = ({ row, before }: Wanted): RowDifference => ({
  key: `activities/${row.id}`,
  table: "activities",
  what: "added",
  name: row.name,
  fields: [],
  both: false,
  changes: [
    { type: "addRow", table: "activities", key: row.id, row, ...(before === null ? {} : { before: before.id }) },
  ],
});

/** Where an activity stands, told as a field: below another one, or elsewhere below the same. */
function placeBetween(plan: Plan, was: Activity, { row, before }: Wanted, moved: boolean): RowDifference["fields"] {
  const nameOf = (parent: string | undefined): string | null =>
    parent === undefined ? null : (plan.activities.get(parent)?.name ?? parent);
  if (was.parent !== row.parent) return [{ field: "parent", from: nameOf(was.parent), to: nameOf(row.parent) }];
  return moved ? [{ field: "place", from: null, to: before === null ? "last" : `before ${before.name}` }] : [];
}

/** @returns `null` where nothing differs */
function changedActivity(plan: Plan, was: Activity, wanted: Wanted, moved: boolean): RowDifference | null {
  const { row, before } = wanted;
  const fields = fieldsBetween(was as Loose, row as Loose, ["id", "parent"]);
  const place = placeBetween(plan, was, wanted, moved);
  if (fields.length + place.length === 0) return null;
  const changes: Change[] = fields.map(({ field, to }) => activityChange(row.id, field, to));
  if (place.length > 0)
    changes.push({ type: "moveBranch", activity: row.id, parent: row.parent ?? null, before: before?.id ?? null });
  return {
    key: `activities/${row.id}`,
    table: "activities",
    what: "changed",
    name: was.name,
    fields: [...fields, ...place],
    both: false,
    changes,
  };
}

/** How the activities that are wanted differ from those of a plan, with the changes that would make them so. */
export function activityDifferences(
  plan: Plan,
  wanted: readonly Activity[],
): { written: RowDifference[]; removed: RowDifference[] } {
  const place = new Map([...plan.activities.keys()].map((id, i) => [id, i]));
  const known = wanted.filter(({ id }) => place.has(id));
  const stays = longestAscending(known.map(({ id }) => place.get(id)!));
  const moved = new Set(known.filter((_row, i) => !stays.has(i)).map(({ id }) => id));
  const written = wanted.flatMap((row, i): RowDifference[] => {
    // Rows are taken over from the last to the first, so that the one they stand before is there.
    const so: Wanted = { row, before: wanted[i + 1] ?? null };
    const was = plan.activities.get(row.id);
    if (was === undefined) return [addedActivity(so)];
    const changed = changedActivity(plan, was, so, moved.has(row.id));
    return changed === null ? [] : [changed];
  });
  const stay = new Set(wanted.map(({ id }) => id));
  const removed = [...plan.activities.values()]
    .filter(({ id }) => !stay.has(id))
    .map(({ id, name }): RowDifference => ({
      key: `activities/${id}`,
      table: "activities",
      what: "removed",
      name,
      fields: [],
      both: false,
      changes: goneWith(plan, id),
    }));
  return { written: written.reverse(), removed: removed.reverse() };
}

/** What an activity that is taken out takes with it, besides what has a table in the file. */
const goneWith = (plan: Plan, id: string): Change[] => [
  ...ownRowsOf(plan, new Set([id])),
  { type: "removeRow", table: "activities", key: id },
];

type Paired = "links" | "assignments" | "costs" | "calendars" | "people";

/** Rows of a table matched by what they are called, several of one name in their order. */
export function tableDifferences<T extends Paired>(
  plan: Plan,
  table: T,
  wanted: readonly PlanTables[T][],
  nameOf: (row: PlanTables[T]) => string,
  newKey: () => string,
): RowDifference[] {
  const waiting = new Map<string, [string, PlanTables[T]][]>();
  for (const [key, row] of plan[table] as Rows<PlanTables[T]>)
    waiting.set(matchOf(table, row), [...(waiting.get(matchOf(table, row)) ?? []), [key, row]]);
  const told = (
    what: RowDifference["what"],
    key: string,
    row: PlanTables[T],
    fields: RowDifference["fields"],
    change: Change,
  ): RowDifference => ({
    key: `${table}/${key}`,
    table,
    what,
    name: nameOf(row),
    fields,
    both: false,
    changes: [change],
  });
  const found = wanted.flatMap((row): RowDifference[] => {
    const match = waiting.get(matchOf(table, row))?.shift();
    if (match === undefined) {
      const key = "id" in row ? row.id : newKey();
      const fields = Object.entries(row).map(([field, to]) => ({ field, from: null, to }));
      return [told("added", key, row, fields, { type: "addRow", table, key, row } as Change)];
    }
    const [key, was] = match;
    const fields = fieldsBetween(was as Loose, row as Loose, ["id"]);
    if (fields.length === 0) return [];
    const set = Object.fromEntries(fields.map(({ field, to }) => [field, to]));
    return [told("changed", key, row, fields, { type: "editRow", table, key, set } as Change)];
  });
  const left = [...waiting.values()].flat();
  return [...found, ...left.map(([key, row]) => told("removed", key, row, [], { type: "removeRow", table, key }))];
}

/** How the head of the project that is wanted differs. */
export function projectDifference(plan: Plan, wanted: PlanBundle["project"]): RowDifference[] {
  const fields = fieldsBetween(plan.project as Loose, wanted as Loose, []);
  if (fields.length === 0) return [];
  const set = Object.fromEntries(
    fields.filter(({ field }) => field !== "dataDate").map(({ field, to }) => [field, to]),
  );
  const date = fields.find(({ field }) => field === "dataDate");
  const changes: Change[] = [
    ...(Object.keys(set).length > 0 ? [{ type: "setProject", set } as Change] : []),
    ...(date === undefined ? [] : [{ type: "setDataDate", date: date.to as string | null } as const]),
  ];
  return [{ key: "project", table: "project", what: "changed", name: plan.project.name, fields, both: false, changes }];
}
