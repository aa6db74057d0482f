import type { Activity, ActualCost, Assignment, Baseline, Calendar, CostLine, Link, Person, PlanBundle, ProjectHead, TimeEntry } from "./schema.ts";

/** The rows of each table of a plan. */
export interface PlanTables {
  readonly calendars: Calendar;
  readonly people: Person;
  readonly activities: Activity;
  readonly links: Link;
  readonly assignments: Assignment;
  readonly costs: CostLine;
  readonly baselines: Baseline;
  readonly timeEntries: TimeEntry;
  readonly actualCosts: ActualCost;
}

export type PlanTable = keyof PlanTables;

export const PLAN_TABLES: readonly PlanTable[] = ["calendars", "people", "activities", "links", "assignments", "costs", "baselines", "timeEntries", "actualCosts"];

/** Rows by key, in the order in which they are shown. */
export type Rows<T> = ReadonlyMap<string, T>;

/**
 * A plan as a value: never altered, only made anew by changes.
 * Calendars, people, activities and costs are keyed by id, baselines by number, the others by a key of their own.
 */
export type Plan = { readonly project: ProjectHead } & { readonly [T in PlanTable]: Rows<PlanTables[T]> };

/** The plan as a bundle, keys left out. */
export function toBundle(plan: Plan): PlanBundle {
  const rows = <T extends PlanTable>(table: T): PlanTables[T][] => [...plan[table].values()] as PlanTables[T][];
  return {
    format: "chronometra-plan",
    version: 1,
    project: plan.project,
    calendars: rows("calendars"),
    people: rows("people"),
    activities: rows("activities"),
    links: rows("links"),
    assignments: rows("assignments"),
    costs: rows("costs"),
    baselines: rows("baselines"),
    timeEntries: rows("timeEntries"),
    actualCosts: rows("actualCosts"),
  };
}

/** The key of a row that carries its own name; `null` for tables whose rows have none. */
function ownKey(table: PlanTable, row: PlanTables[PlanTable]): string | null {
  if ("id" in row) return row.id;
  return table === "baselines" ? String((row as Baseline).number) : null;
}

/** A checked bundle as a plan; rows without an id get keys counted from 1. */
export function fromBundle(bundle: PlanBundle): Plan {
  const keyed = <T extends PlanTable>(table: T): Rows<PlanTables[T]> =>
    new Map(((bundle[table] ?? []) as PlanTables[T][]).map((row, i) => [ownKey(table, row) ?? String(i + 1), row]));
  return {
    project: bundle.project,
    calendars: keyed("calendars"),
    people: keyed("people"),
    activities: keyed("activities"),
    links: keyed("links"),
    assignments: keyed("assignments"),
    costs: keyed("costs"),
    baselines: keyed("baselines"),
    timeEntries: keyed("timeEntries"),
    actualCosts: keyed("actualCosts"),
  };
}
