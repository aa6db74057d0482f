import type {
  Alternates,
  Block,
  Carried,
  Category,
  Meeting,
  OwnField,
  OwnValues,
  Placeholder,
  Promised,
  ActivityRange,
  Risk,
  Team,
} from "./ownTables.ts";
import type {
  Activity,
  ActualCost,
  Assignment,
  Baseline,
  Calendar,
  CostLine,
  Link,
  Person,
  PlanBundle,
  ProjectHead,
  TimeEntry,
} from "./schema.ts";

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
  readonly fields: OwnField;
  /** By activity. */
  readonly ownValues: OwnValues;
  readonly teams: Team;
  readonly categories: Category;
  readonly placeholders: Placeholder;
  /** By the key of the link. */
  readonly carried: Carried;
  /** By activity. */
  readonly blocks: Block;
  /** By activity. */
  readonly promises: Promised;
  /** By activity. */
  readonly ranges: ActivityRange;
  readonly risks: Risk;
  readonly meetings: Meeting;
  readonly alternates: Alternates;
}

export type PlanTable = keyof PlanTables;

/** The tables of the open format. */
const BUNDLE_TABLES = [
  "calendars",
  "people",
  "activities",
  "links",
  "assignments",
  "costs",
  "baselines",
  "timeEntries",
  "actualCosts",
] as const;
export type BundleTable = (typeof BUNDLE_TABLES)[number];

/** The tables that a plan keeps besides. */
export const OWN_TABLES = [
  "fields",
  "ownValues",
  "teams",
  "categories",
  "placeholders",
  "carried",
  "blocks",
  "promises",
  "ranges",
  "risks",
  "meetings",
  "alternates",
] as const;

export const PLAN_TABLES: readonly PlanTable[] = [...BUNDLE_TABLES, ...OWN_TABLES];

/** Rows by key, in the order in which they are shown. */
export type Rows<T> = ReadonlyMap<string, T>;

/**
 * A plan as a value: never altered, only made anew by changes.
 * Calendars, people, activities and costs are keyed by id, baselines by number, own values by activity, placeholders by
 * person, the others by a key of their own.
 */
export type Plan = { readonly project: ProjectHead } & { readonly [T in PlanTable]: Rows<PlanTables[T]> };

/** The plan as a bundle, keys left out. */
export function toBundle(plan: Plan): PlanBundle {
  const rows = <T extends BundleTable>(table: T): PlanTables[T][] => [...plan[table].values()] as PlanTables[T][];
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
export const emptyOwnTables = (): Pick<Plan, (typeof OWN_TABLES)[number]> => ({
  fields: new Map(),
  ownValues: new Map(),
  teams: new Map(),
  categories: new Map(),
  placeholders: new Map(),
  carried: new Map(),
  blocks: new Map(),
  promises: new Map(),
  ranges: new Map(),
  risks: new Map(),
  meetings: new Map(),
  alternates: new Map(),
});
