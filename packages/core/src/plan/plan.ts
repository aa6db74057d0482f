import { activitiesInBoxes } from "./boxed.ts";
import { remembered } from "./derived/remembered.ts";
import type { PlanTables } from "./rowSchemas.ts";
import type { Baseline, PlanBundle, ProjectHead } from "./schema.ts";
import { OWN_TABLES, type BundleTable, type OwnTable, type PlanTable } from "./tables.ts";

/** Rows by key, in the order in which they are shown. */
export type Rows<T> = ReadonlyMap<string, T>;

/**
 * A plan as a value: never altered, only made anew by changes.
 * Calendars, people, activities and costs are keyed by id, baselines by number, own values by activity, placeholders by
 * person, the others by a key of their own.
 */
export type Plan = { readonly project: ProjectHead } & { readonly [T in PlanTable]: Rows<PlanTables[T]> };

/** The rows of a table as a list: of a table that a change has left as it was it is the same list. */
const listOf = remembered((rows: Rows<unknown>): unknown[] => [...rows.values()]);

/**
 * The plan as a bundle, keys left out; work in a timebox bears the bound of it as a date wish. Of one plan it is one
 * bundle, never to be altered.
 */
export const toBundle = remembered((plan: Plan): PlanBundle => {
  const rows = <T extends BundleTable>(table: T): PlanTables[T][] => listOf(plan[table]) as PlanTables[T][];
  return {
    format: "chronometra-plan",
    version: 1,
    project: plan.project,
    calendars: rows("calendars"),
    people: rows("people"),
    activities: plan.boxed.size === 0 ? rows("activities") : activitiesInBoxes(plan),
    links: rows("links"),
    assignments: rows("assignments"),
    costs: rows("costs"),
    baselines: rows("baselines"),
    timeEntries: rows("timeEntries"),
    actualCosts: rows("actualCosts"),
  };
});

/** The key of a row that carries its own name; `null` for tables whose rows have none. */
function ownKey(table: BundleTable, row: PlanTables[BundleTable]): string | null {
  if ("id" in row) return row.id;
  return table === "baselines" ? String((row as Baseline).number) : null;
}

/** A checked bundle as a plan; rows without an id get keys counted from 1. */
export function fromBundle(bundle: PlanBundle): Plan {
  const keyed = <T extends BundleTable>(table: T): Rows<PlanTables[T]> =>
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
    ...emptyOwnTables(),
  };
}

/** The tables besides the bundle, with nothing in them. */
export const emptyOwnTables = (): Pick<Plan, OwnTable> =>
  Object.fromEntries(OWN_TABLES.map((table) => [table, new Map()])) as unknown as Pick<Plan, OwnTable>;
