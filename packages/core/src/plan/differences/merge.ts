import { same, sameFields, valueOf, type Loose } from "./fields.ts";
import type { Plan } from "../plan.ts";
import type { PlanBundle } from "../schema.ts";

/** Tables of a plan that a file may change. */
export type FileTable = "calendars" | "people" | "activities" | "links" | "assignments" | "costs";
export const FILE_TABLES: readonly FileTable[] = ["calendars", "people", "activities", "links", "assignments", "costs"];

/** By what a row is known again: its id, or what it ties. */
export function matchOf(table: FileTable, row: object): string {
  const fields = row as Loose;
  if (table === "links") return JSON.stringify([fields["from"], fields["to"], fields["type"] ?? "FS"]);
  if (table === "assignments") return JSON.stringify([fields["activity"], fields["person"]]);
  return String(fields["id"]);
}

/** Rows by what they are known by, several of one name told apart by their order. */
export function rowsByMatch(table: FileTable, rows: Iterable<object>): Map<string, Loose> {
  const counts = new Map<string, number>();
  const found = new Map<string, Loose>();
  for (const row of rows) {
    const match = matchOf(table, row);
    const count = counts.get(match) ?? 0;
    counts.set(match, count + 1);
    found.set(`${match}#${count}`, row as Loose);
  }
  return found;
}

/** What a file changed is as in the file, everything else as it is now. */
function mergedFields(base: Loose, file: Loose, now: Loose): Loose {
  const names = [...new Set([...Object.keys(base), ...Object.keys(file), ...Object.keys(now)])];
  const taken = names.map(
    (name) => [name, (same(valueOf(file, name), valueOf(base, name)) ? now : file)[name]] as const,
  );
  return Object.fromEntries(taken.filter(([, value]) => value !== undefined));
}

function mergedRow(base: Loose | undefined, file: Loose | undefined, now: Loose | undefined): Loose | null {
  if (file === undefined) return base === undefined ? (now ?? null) : null;
  if (base === undefined) return file;
  if (now === undefined) return sameFields(base, file) ? null : file;
  return mergedFields(base, file, now);
}

/** One order for all of these: the first list's, what only the second has after what it follows there. */
function merged(first: readonly string[], second: readonly string[]): string[] {
  const known = new Set(first);
  const following = new Map<string | null, string[]>();
  let before: string | null = null;
  for (const key of second)
    if (known.has(key)) before = key;
    else if (following.has(before)) following.get(before)!.push(key);
    else following.set(before, [key]);
  return [...(following.get(null) ?? []), ...first.flatMap((key) => [key, ...(following.get(key) ?? [])])];
}

function mergedTable(table: FileTable, base: PlanBundle, file: PlanBundle, now: Plan): Loose[] {
  const [was, will] = [rowsByMatch(table, base[table] ?? []), rowsByMatch(table, file[table] ?? [])];
  const is = rowsByMatch(table, now[table].values());
  const common = (keys: Iterable<string>, of: ReadonlyMap<string, unknown>): string[] =>
    [...keys].filter((key) => of.has(key));
  const isOrderKept = same(common(will.keys(), was), common(was.keys(), will));
  const [first, second] = isOrderKept ? [[...is.keys()], [...will.keys()]] : [[...will.keys()], [...is.keys()]];
  return merged(first, second).flatMap((key) => {
    const row = mergedRow(was.get(key), will.get(key), is.get(key));
    return row === null ? [] : [row];
  });
}

/**
 * What a file and a plan made of one plan, brought together: what only one of the two changed is as that one has it,
 * what both changed as the file has it.
 * @param now the plan as it is
 * @param base the plan from which the file was made
 */
export function mergedWith(now: Plan, file: PlanBundle, base: PlanBundle): PlanBundle {
  const tables = Object.fromEntries(FILE_TABLES.map((table) => [table, mergedTable(table, base, file, now)]));
  const activities = new Set(tables["activities"]!.map(({ id }) => id));
  const there = (...ids: unknown[]): boolean => ids.every((id) => activities.has(id));
  return {
    ...file,
    ...tables,
    project: mergedFields(base.project as Loose, file.project as Loose, now.project as Loose),
    links: tables["links"]!.filter(({ from, to }) => there(from, to)),
    assignments: tables["assignments"]!.filter(({ activity }) => there(activity)),
    costs: tables["costs"]!.filter(({ activity }) => there(activity)),
  } as unknown as PlanBundle;
}
