import type { Activity, Assignment, Link, PlanBundle } from "../plan/schema.ts";

/** The tables that a plan is computed from, by id or by what tells a row from the others. */
export interface Tables {
  readonly calendars: ReadonlyMap<string, PlanBundle["calendars"][number]>;
  readonly people: ReadonlyMap<string, NonNullable<PlanBundle["people"]>[number]>;
  readonly activities: ReadonlyMap<string, Activity>;
  readonly links: ReadonlyMap<string, Link>;
  readonly assignments: ReadonlyMap<string, Assignment>;
}
type Row<T extends keyof Tables> = Tables[T] extends ReadonlyMap<string, infer R> ? R : never;

/** Lists of tables, as long as these stay as they are. */
const lists = new WeakMap<ReadonlyMap<string, unknown>, readonly unknown[]>();

/** A plan on its way from the one state to the other. A table is copied when it is first changed: most changes touch one of them. */
export class Draft {
  private readonly copied = new Set<keyof Tables>();
  private readonly now: Tables;

  constructor(
    public project: PlanBundle["project"],
    tables: Tables,
  ) {
    this.now = { ...tables };
  }

  get tables(): Tables {
    return this.now;
  }

  get<T extends keyof Tables>(table: T, key: string): Row<T> | undefined {
    return this.now[table].get(key) as Row<T> | undefined;
  }

  has(table: keyof Tables, key: string): boolean {
    return this.now[table].has(key);
  }

  private own<T extends keyof Tables>(table: T): Map<string, Row<T>> {
    const map = this.now[table] as unknown as Map<string, Row<T>>;
    lists.delete(map);
    if (this.copied.has(table)) return map;
    this.copied.add(table);
    return this.replace(table, new Map(map));
  }

  set<T extends keyof Tables>(table: T, key: string, row: Row<T>): void {
    this.own(table).set(key, row);
  }

  delete(table: keyof Tables, key: string): void {
    this.own(table).delete(key);
  }

  /** Puts other rows in the place of all. */
  replace<T extends keyof Tables>(table: T, rows: Map<string, Row<T>>): Map<string, Row<T>> {
    (this.now as Record<keyof Tables, unknown>)[table] = rows;
    return rows;
  }
}

export const linkKey = ({ from, to, type = "FS", lagMinutes = 0, lagIn = "successor" }: Link): string =>
  JSON.stringify([from, to, type, lagMinutes, lagIn]);
export const workKey = ({ activity, person }: Assignment): string => JSON.stringify([activity, person]);
export const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

export const draftOf = (plan: PlanBundle): Draft =>
  new Draft(plan.project, {
    calendars: new Map(plan.calendars.map((row) => [row.id, row])),
    people: new Map((plan.people ?? []).map((row) => [row.id, row])),
    activities: new Map(plan.activities.map((row) => [row.id, row])),
    links: new Map((plan.links ?? []).map((row) => [linkKey(row), row])),
    assignments: new Map((plan.assignments ?? []).map((row) => [workKey(row), row])),
  });

/** The rows of a table; the same list for the same table. */
function listOf<T>(rows: ReadonlyMap<string, T>): T[] {
  let list = lists.get(rows);
  if (list === undefined) lists.set(rows, (list = [...rows.values()]));
  return list as T[];
}

export function bundleOf({ project, tables }: Draft): PlanBundle {
  return {
    format: "chronometra-plan",
    version: 1,
    project,
    calendars: listOf(tables.calendars),
    people: listOf(tables.people),
    activities: listOf(tables.activities),
    links: listOf(tables.links),
    assignments: listOf(tables.assignments),
  };
}

/** Fields of a row as another has them. */
export function withFields<T extends object>(row: T, other: T, fields: readonly (keyof T)[]): T {
  const next = { ...row };
  for (const field of fields) {
    if (other[field] === undefined) delete next[field];
    else next[field] = other[field];
  }
  return next;
}

export const differs = <T extends object>(a: T, b: T, fields: readonly (keyof T)[]): boolean =>
  fields.some((field) => !same(a[field], b[field]));

export function grouped<T>(rows: ReadonlyMap<string, T>, by: (row: T) => string): Map<string, T[]> {
  const found = new Map<string, T[]>();
  for (const row of rows.values()) {
    const list = found.get(by(row));
    if (list === undefined) found.set(by(row), [row]);
    else list.push(row);
  }
  return found;
}
