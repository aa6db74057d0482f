import type { Change } from "../change.ts";
import { ownRowsOf } from "./hanging.ts";
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

/** How the activities that are wanted differ from those of a plan, with the changes that would make them so. */
export function activityDifferences(
  plan: Plan,
  wanted: readonly Activity[],
): { written: RowDifference[]; removed: RowDifference[] } {
  const place = new Map([...plan.activities.keys()].map((id, i) => [id, i]));
  const known = wanted.filter(({ id }) => place.has(id));
  const stays = longestAscending(known.map(({ id }) => place.get(id)!));
  const moved = new Set(known.filter((_row, i) => !stays.has(i)).map(({ id }) => id));
  const written: RowDifference[] = [];
  wanted.forEach((row, i) => {
    const { id, name } = row;
    const key = `activities/${id}`;
    // Rows are taken over from the last to the first, so that the one they stand before is there.
    const before = wanted[i + 1]?.id ?? null;
    const was = plan.activities.get(id);
    if (was === undefined) {
      written.push({
        key,
        table: "activities",
        what: "added",
        name,
        fields: [],
        both: false,
        changes: [{ type: "addRow", table: "activities", key: id, row, ...(before === null ? {} : { before }) }],
      });
      return;
    }
    const fields = fieldsBetween(was as Loose, row as Loose, ["id", "parent"]);
    const elsewhere = was.parent !== row.parent;
    if (fields.length === 0 && !moved.has(id) && !elsewhere) return;
    const nameOf = (parent: string | undefined): string | null =>
      parent === undefined ? null : (plan.activities.get(parent)?.name ?? parent);
    written.push({
      key,
      table: "activities",
      what: "changed",
      name: was.name,
      fields: [
        ...fields,
        ...(elsewhere
          ? [{ field: "parent", from: nameOf(was.parent), to: nameOf(row.parent) }]
          : moved.has(id)
            ? [{ field: "place", from: null, to: before === null ? "last" : `before ${wanted[i + 1]!.name}` }]
            : []),
      ],
      both: false,
      changes: [
        ...fields.map(({ field, to }) => activityChange(id, field, to)),
        ...(elsewhere || moved.has(id)
          ? [{ type: "moveBranch", activity: id, parent: row.parent ?? null, before } as const]
          : []),
      ],
    });
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
  const rows = plan[table] as Rows<PlanTables[T]>;
  const waiting = new Map<string, [string, PlanTables[T]][]>();
  for (const [key, row] of rows)
    waiting.set(matchOf(table, row), [...(waiting.get(matchOf(table, row)) ?? []), [key, row]]);
  const found: RowDifference[] = [];
  for (const row of wanted) {
    const match = waiting.get(matchOf(table, row))?.shift();
    const name = nameOf(row);
    if (match === undefined) {
      const key = "id" in row ? row.id : newKey();
      found.push({
        key: `${table}/${key}`,
        table,
        what: "added",
        name,
        fields: Object.entries(row).map(([field, to]) => ({ field, from: null, to })),
        both: false,
        changes: [{ type: "addRow", table, key, row } as Change],
      });
      continue;
    }
    const fields = fieldsBetween(match[1] as Loose, row as Loose, ["id"]);
    if (fields.length === 0) continue;
    const set = Object.fromEntries(fields.map(({ field, to }) => [field, to]));
    found.push({
      key: `${table}/${match[0]}`,
      table,
      what: "changed",
      name,
      fields,
      both: false,
      changes: [{ type: "editRow", table, key: match[0], set } as Change],
    });
  }
  for (const left of waiting.values())
    for (const [key, row] of left)
      found.push({
        key: `${table}/${key}`,
        table,
        what: "removed",
        name: nameOf(row),
        fields: [],
        both: false,
        changes: [{ type: "removeRow", table, key }],
      });
  return found;
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
