import {
  PLAN_TABLES,
  type Baseline,
  type Plan,
  type PlanTable,
  type PlanTables,
  type ProjectHead,
  remembered,
  type Rows,
  succession,
} from "@chronometra/core";
import { In, type EntityManager } from "typeorm";
import { orNotFound } from "../../shared/failure.ts";
import { NOWHERE, placesBetween, placesOf, rememberPlaces, type Places } from "./places.ts";
import { PlanRowEntity } from "./planEntities.ts";

type Row = PlanTables[PlanTable];

/** Rows of the tables kept in plan_row; baselines have a table of their own, written once. */
const ROW_TABLES = PLAN_TABLES.filter((table) => table !== "baselines");

/**
 * Plans by project as of a revision. Only a cache: a plan of a revision never changes, so another server's copy is the
 * same, and a revision that is not here is read from the database. What a transaction made comes here once it is
 * carried out.
 */
const cache = new Map<string, { readonly revision: number; readonly plan: Plan; readonly rows: number }>();

/** How many rows of plans are kept at hand, some 1 kB each; the newest plan is, however large. */
let cachedRows = 100_000;

/** Sets how many rows are kept at hand; gives what was set before. */
export function keepAtHand(rows: number): number {
  const before = cachedRows;
  cachedRows = rows;
  dropOldest();
  return before;
}

const rowsIn = (plan: Plan): number => PLAN_TABLES.reduce((sum, table) => sum + plan[table].size, 0);

function dropOldest(): void {
  let rows = 0;
  for (const [i, [id, kept]] of [...cache].reverse().entries()) {
    rows += kept.rows;
    if (rows > cachedRows && i > 0) cache.delete(id);
  }
}

/** Keeps a plan that is stored at hand, unless a newer one is. */
export function rememberPlan(projectId: string, revision: number, plan: Plan): void {
  const known = cache.get(projectId);
  if (known !== undefined && known.revision > revision) return;
  cache.delete(projectId);
  cache.set(projectId, { revision, plan, rows: known?.plan === plan ? known.rows : rowsIn(plan) });
  dropOldest();
}

interface RawRow {
  table_name: PlanTable | "project";
  row_key: string;
  position: number;
  doc: string;
}

/**
 * One statement, and so one state: the head with its revision, the rows, the baselines. Read in two, rows of a newer
 * revision would be taken for those of the older one. Raw rows: making an entity of each would cost more than all the
 * rest.
 */
const PLAN_SQL = `select 'project' as table_name, cast(revision as char) as row_key, 0 as position, head as doc from project where id = ?
  union all select table_name, row_key, position, doc from plan_row where project_id = ?
  union all select 'baselines', cast(number as char), number, content from baseline where project_id = ?`;

async function readPlan(manager: EntityManager, id: string): Promise<{ revision: number; plan: Plan } | null> {
  const rows = (await manager.query(PLAN_SQL, [id, id, id])) as RawRow[];
  const tables = Object.fromEntries(PLAN_TABLES.map((table) => [table, new Map<string, Row>()])) as Record<
    PlanTable,
    Map<string, Row>
  >;
  let head: { revision: number; project: ProjectHead } | null = null;
  for (const { table_name, row_key, doc } of rows.sort((a, b) => a.position - b.position)) {
    const content: unknown = JSON.parse(doc);
    if (table_name === "project") head = { revision: Number(row_key), project: content as ProjectHead };
    else
      tables[table_name].set(
        row_key,
        table_name === "baselines" ? (content as { baseline: Baseline }).baseline : (content as Row),
      );
  }
  return head === null
    ? null
    : { revision: head.revision, plan: { project: head.project, ...tables } as unknown as Plan };
}

/**
 * The plan of a project as its row says. Where someone has written it since the row was read, the plan is the newer
 * one, and the row given is brought to that revision: what is told of it belongs together.
 */
export async function loadPlan(
  manager: EntityManager,
  project: { id: string; revision: number; head: ProjectHead },
): Promise<Plan> {
  const known = cache.get(project.id);
  if (known?.revision === project.revision) return known.plan;
  const read = orNotFound(await readPlan(manager, project.id), "project of that address");
  // Within a transaction it may be one that is never carried out.
  if (manager.queryRunner?.isTransactionActive !== true) rememberPlan(project.id, read.revision, read.plan);
  project.revision = read.revision;
  project.head = read.plan.project;
  return read.plan;
}

const INSERTED_AT_ONCE = 1000;

/** Where the rows of a table stand: as this server remembers, or as the database says. */
async function placesIn(manager: EntityManager, projectId: string, table: PlanTable, was: Rows<Row>): Promise<Places> {
  const known = was.size === 0 ? new Float64Array(0) : placesOf(was);
  if (known !== undefined) return known;
  const rows = (await manager.query("select row_key, position from plan_row where project_id = ? and table_name = ?", [
    projectId,
    table,
  ])) as { row_key: string; position: number }[];
  const positions = new Map(rows.map(({ row_key, position }) => [row_key, position]));
  return Float64Array.from(keysOf(was), (key) => positions.get(key) ?? NOWHERE);
}

const keysOf = remembered((rows: Rows<Row>): readonly string[] => [...rows.keys()]);
const rowsOf = remembered((rows: Rows<Row>): readonly Row[] => [...rows.values()]);
const NO_ROWS: Rows<Row> = new Map();

/** Finds out ahead how the rows of two plans differ, so that they are only written under the lock. */
export function compareAhead(before: Plan, after: Plan): void {
  for (const table of ROW_TABLES)
    if (before[table] !== after[table]) {
      succession(keysOf(before[table]), keysOf(after[table]));
      rowsOf(after[table]);
    }
}

/** Writes what differs between two plans of one project; baselines are written by the approval that froze them. */
export async function storeDifference(
  manager: EntityManager,
  projectId: string,
  before: Plan | null,
  after: Plan,
): Promise<void> {
  for (const table of ROW_TABLES) {
    const was: Rows<Row> = before?.[table] ?? NO_ROWS;
    const now: Rows<Row> = after[table];
    if (was !== now) await storeTable(manager, projectId, table, was, now);
  }
}

/** Where rows stand so far, in the order in which they are now. */
function placesNow(known: Places, from: Int32Array): Places {
  const places = new Float64Array(from.length).fill(NOWHERE);
  for (let at = 0; at < from.length; at++) if (from[at]! >= 0) places[at] = known[from[at]!]!;
  return places;
}

/** The same of one table. Rows are compared by where they stand in it: mostly nearly all stand where they stood. */
async function storeTable(
  manager: EntityManager,
  projectId: string,
  table: PlanTable,
  was: Rows<Row>,
  now: Rows<Row>,
): Promise<void> {
  const keys = keysOf(now);
  const [rowsBefore, rows] = [rowsOf(was), rowsOf(now)];
  const { from, gone, inPlace } = succession(keysOf(was), keys);
  const removed = gone.map((at) => keysOf(was)[at]!);
  for (let i = 0; i < removed.length; i += INSERTED_AT_ONCE)
    await manager.delete(PlanRowEntity, {
      projectId,
      tableName: table,
      rowKey: In(removed.slice(i, i + INSERTED_AT_ONCE)),
    });
  const known = inPlace ? placesOf(was) : await placesIn(manager, projectId, table, was);
  const before = inPlace ? known : placesNow(known!, from);
  const places = inPlace ? known : placesBetween(before!);
  const written: number[] = [];
  for (let at = 0; at < rows.length; at++)
    if (rowsBefore[from[at]!] !== rows[at] || before?.[at] !== places?.[at]) written.push(at);
  // The places of rows that stand where they stood need not be known.
  const position = inPlace ? "position" : "values(position)";
  for (let i = 0; i < written.length; i += INSERTED_AT_ONCE)
    await upsertRows(
      manager,
      written
        .slice(i, i + INSERTED_AT_ONCE)
        .map((at) => rowOf(projectId, table, keys[at]!, rows[at]!, places?.[at] ?? 0)),
      position,
    );
  if (places !== undefined) rememberPlaces(now, places);
}

function rowOf(
  projectId: string,
  table: PlanTable,
  key: string,
  row: Row,
  position: number,
): (string | number | null)[] {
  const personId =
    table === "assignments" || table === "timeEntries" ? (row as PlanTables["assignments"]).person : null;
  return [projectId, table, key, position, personId, JSON.stringify(row)];
}

/** @param position what a row that is there already gets for its place: the one given, or its own */
async function upsertRows(
  manager: EntityManager,
  rows: (string | number | null)[][],
  position: "values(position)" | "position",
): Promise<void> {
  const places = rows.map(() => "(?, ?, ?, ?, ?, ?)").join(", ");
  await manager.query(
    `insert into plan_row (project_id, table_name, row_key, position, person_id, doc) values ${places}
     on duplicate key update position = ${position}, person_id = values(person_id), doc = values(doc)`,
    rows.flat(),
  );
}
