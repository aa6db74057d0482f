import { z } from "zod";
import { ownValuesSchema, type OwnValues } from "../ownTables.ts";
import { fromBundle, type Plan } from "../plan.ts";
import { ROW_SCHEMAS as ROWS } from "../rowSchemas.ts";
import { bundleSchema, idSchema, type PlanBundle } from "../schema.ts";
import { OWN_TABLES, PLAN_TABLES, type BundleTable, type OwnTable, type PlanTable } from "../tables.ts";

/** What what-ifs, history and logic carried across parked work call a row by that has no id of its own. */
const called = { id: z.string().min(1).max(80).optional() };
const ofActivity = { activity: idSchema };
const listOf = <S extends z.ZodType>(row: S) => z.array(row).optional();

/**
 * The plan bundle, version 2: all that a plan holds. What version 1 has means what it means there, but that the bound
 * which a timebox gives to work stands with the timebox, and no more as a date wish.
 */
export const planFileSchema = z.strictObject({
  ...bundleSchema.shape,
  version: z.literal(2),
  links: listOf(ROWS.links.extend(called)),
  assignments: listOf(ROWS.assignments.extend(called)),
  timeEntries: listOf(ROWS.timeEntries.extend(called)),
  actualCosts: listOf(ROWS.actualCosts.extend(called)),
  fields: listOf(ROWS.fields),
  ownValues: listOf(z.strictObject({ ...ofActivity, values: ownValuesSchema })),
  teams: listOf(ROWS.teams),
  categories: listOf(ROWS.categories),
  placeholders: listOf(ROWS.placeholders),
  carried: listOf(ROWS.carried.extend({ link: z.string().min(1).max(80) })),
  blocks: listOf(ROWS.blocks.extend(ofActivity)),
  promises: listOf(ROWS.promises.extend(ofActivity)),
  notes: listOf(ROWS.notes.extend(ofActivity)),
  ranges: listOf(ROWS.ranges.safeExtend(ofActivity)),
  risks: listOf(ROWS.risks),
  meetings: listOf(ROWS.meetings),
  alternates: listOf(ROWS.alternates),
  timeboxes: listOf(ROWS.timeboxes),
  boxed: listOf(ROWS.boxed.extend(ofActivity)),
  gathered: listOf(ROWS.gathered.extend(ofActivity)),
  /** What the project keeps besides its plan. Nothing is computed from it, and the app checks it when it takes it in. */
  record: z.unknown().optional(),
});
export type PlanFile = z.infer<typeof planFileSchema>;

/** By which field rows of a file say their key. */
const KEYS: Readonly<Record<Exclude<PlanTable, "baselines">, "id" | "activity" | "person" | "link">> = {
  calendars: "id",
  people: "id",
  activities: "id",
  links: "id",
  assignments: "id",
  costs: "id",
  timeEntries: "id",
  actualCosts: "id",
  fields: "id",
  ownValues: "activity",
  teams: "id",
  categories: "id",
  placeholders: "person",
  carried: "link",
  blocks: "activity",
  promises: "activity",
  notes: "activity",
  ranges: "activity",
  risks: "id",
  meetings: "id",
  alternates: "id",
  timeboxes: "id",
  boxed: "activity",
  gathered: "activity",
};
type KeyedTable = keyof typeof KEYS;
const KEYED_TABLES = PLAN_TABLES.filter((table): table is KeyedTable => table !== "baselines");

/** Tables whose rows hold their key themselves, in the plan as in the file. */
const HOLDS_KEY: ReadonlySet<PlanTable> = new Set<PlanTable>([
  ...(["calendars", "people", "activities", "costs", "fields", "teams", "categories", "placeholders"] as const),
  ...(["risks", "meetings", "alternates", "timeboxes"] as const),
]);

type Fields = Readonly<Record<string, unknown>>;

const rowTold = (table: KeyedTable, key: string, row: Fields): Fields => {
  if (HOLDS_KEY.has(table)) return row;
  return { [KEYS[table]]: key, ...(table === "ownValues" ? { values: row } : row) };
};

/** A plan whole, as version 2 of the plan bundle; tables with nothing in them are left out. */
export function toPlanFile(plan: Plan): PlanFile {
  const file: Record<string, unknown> = { format: "chronometra-plan", version: 2, project: plan.project };
  for (const table of PLAN_TABLES) {
    const rows =
      table === "baselines"
        ? [...plan.baselines.values()]
        : [...plan[table]].map(([key, row]) => rowTold(table, key, row as Fields));
    if (rows.length > 0 || table === "calendars" || table === "activities") file[table] = rows;
  }
  return file as PlanFile;
}

/** The rows of a table of a file, each with the field that says its key; one that says none has `undefined`. */
export const keysOf = (file: PlanFile, table: KeyedTable): (string | undefined)[] =>
  ((file[table] ?? []) as Fields[]).map((row) => row[KEYS[table]] as string | undefined);

/** Keys that more than one row of a table of a file says, with the field that says them. */
export const saidTwice = (file: PlanFile): { table: KeyedTable; key: string; field: string }[] =>
  KEYED_TABLES.flatMap((table) => {
    const seen = new Set<string>();
    const twice = new Set<string>();
    for (const key of keysOf(file, table)) if (key !== undefined) (seen.has(key) ? twice : seen).add(key);
    return [...twice].map((key) => ({ table, key, field: KEYS[table] }));
  });

/** What version 1 has of a file, as it has it; work in timeboxes bears no bound yet. */
export function openPart({ record: _record, ...file }: PlanFile): PlanBundle {
  const own: ReadonlySet<string> = new Set(OWN_TABLES);
  const open = Object.fromEntries(Object.entries(file).filter(([table]) => !own.has(table)));
  const without = (table: BundleTable): Fields =>
    file[table] === undefined ? {} : { [table]: (file[table] as Fields[]).map(({ id: _id, ...row }) => row) };
  const unnamed = (["links", "assignments", "timeEntries", "actualCosts"] as const).map(without);
  return Object.assign(open, { version: 1 }, ...unnamed) as PlanBundle;
}

/** Rows of a table of a file by their keys; those that say none are counted, where that is no key of another. */
function keyed(file: PlanFile, table: KeyedTable, rows: readonly unknown[]): ReadonlyMap<string, unknown> {
  const keys = keysOf(file, table);
  const taken = new Set(keys);
  let next = 0;
  const free = (): string => {
    do next++;
    while (taken.has(String(next)));
    return String(next);
  };
  return new Map(rows.map((row, i) => [keys[i] ?? free(), row]));
}

/** A row of the tables besides version 1 as a plan has it. */
const rowKept = (table: OwnTable, row: Fields): unknown => {
  if (table === "ownValues") return row["values"] as OwnValues;
  if (HOLDS_KEY.has(table)) return row;
  const { [KEYS[table]]: _key, ...kept } = row;
  return kept;
};

/** A file whose shape and keys are checked as a plan. */
export function fromPlanFile(file: PlanFile): Plan {
  const open = openPart(file);
  const tables = KEYED_TABLES.map((table) => {
    const rows = (OWN_TABLES as readonly PlanTable[]).includes(table)
      ? ((file[table] ?? []) as Fields[]).map((row) => rowKept(table as OwnTable, row))
      : (open[table as BundleTable] ?? []);
    return [table, keyed(file, table, rows)] as const;
  });
  return { ...fromBundle(open), ...Object.fromEntries(tables) };
}
