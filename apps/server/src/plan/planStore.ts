import { longestAscending, PLAN_TABLES, type Baseline, type Plan, type PlanTable, type PlanTables, type ProjectHead, type Rows } from "@chronometra/core";
import { In, type EntityManager } from "typeorm";
import { BaselineEntity } from "../approve/approveEntities.ts";
import { PlanRowEntity } from "./planEntities.ts";

type Row = PlanTables[PlanTable];

/** Rows of the tables kept in plan_row; baselines have a table of their own, written once. */
const ROW_TABLES = PLAN_TABLES.filter((table) => table !== "baselines");

/**
 * Plans by project as of a revision. Only a cache: a plan of a revision never changes, so another server's copy is the
 * same, and a revision that is not here is read from the database.
 */
const CACHED_PLANS = 12;
const cache = new Map<string, { revision: number; plan: Plan }>();

export function rememberPlan(projectId: string, revision: number, plan: Plan): void {
  cache.delete(projectId);
  cache.set(projectId, { revision, plan });
  for (const oldest of cache.keys()) {
    if (cache.size <= CACHED_PLANS) break;
    cache.delete(oldest);
  }
}

interface RawRow {
  table_name: PlanTable;
  row_key: string;
  doc: string;
}

/** The plan of a project as of the revision that its row names. */
export async function loadPlan(manager: EntityManager, project: { id: string; revision: number; head: ProjectHead }): Promise<Plan> {
  const known = cache.get(project.id);
  if (known?.revision === project.revision) return known.plan;
  const tables = Object.fromEntries(PLAN_TABLES.map((table) => [table, new Map<string, Row>()])) as Record<PlanTable, Map<string, Row>>;
  // Raw rows: making an entity of each would cost more than all the rest.
  const rows = (await manager.query("select table_name, row_key, doc from plan_row where project_id = ? order by table_name, position", [project.id])) as RawRow[];
  for (const row of rows) tables[row.table_name].set(row.row_key, JSON.parse(row.doc) as Row);
  for (const row of await manager.getRepository(BaselineEntity).find({ where: { projectId: project.id }, order: { number: "ASC" } })) {
    tables.baselines.set(String(row.number), (JSON.parse(row.content) as { baseline: Baseline }).baseline);
  }
  const plan = { project: project.head, ...tables } as unknown as Plan;
  rememberPlan(project.id, project.revision, plan);
  return plan;
}

const INSERTED_AT_ONCE = 1000;
/** Between two rows that stand closer than this there is no room for another; the whole table is numbered anew. */
const LEAST_GAP = 1e-6;

type Positions = Map<string, number>;

/** Where the rows of a table stand, asked for only where one came or went between others. */
async function positionsOf(manager: EntityManager, projectId: string, table: PlanTable): Promise<Positions> {
  const rows = (await manager.query("select row_key, position from plan_row where project_id = ? and table_name = ?", [projectId, table])) as { row_key: string; position: number }[];
  return new Map(rows.map(({ row_key, position }) => [row_key, position]));
}

/**
 * Positions for rows in an order, those that ascend already kept and the others put between them.
 * @returns `null` where there is no room
 */
export function placesBetween(order: readonly string[], known: Positions): Positions | null {
  const there = order.filter((key) => known.has(key));
  const kept = new Set([...longestAscending(there.map((key) => known.get(key)!))].map((i) => there[i]!));
  const places: Positions = new Map();
  let last = -1;
  for (let i = 0; i < order.length; ) {
    if (kept.has(order[i]!)) {
      last = known.get(order[i]!)!;
      places.set(order[i++]!, last);
      continue;
    }
    let end = i;
    while (end < order.length && !kept.has(order[end]!)) end++;
    const next = end < order.length ? known.get(order[end]!)! : last + (end - i) + 1;
    const gap = (next - last) / (end - i + 1);
    if (gap < LEAST_GAP) return null;
    for (let n = 1; i < end; i++, n++) places.set(order[i]!, last + gap * n);
    last = next - gap;
  }
  return places;
}

const sameOrder = (a: Iterable<string>, b: Iterable<string>): boolean => {
  const other = b[Symbol.iterator]();
  for (const key of a) if (other.next().value !== key) return false;
  return true;
};

/** Writes what differs between two plans of one project; baselines are written by the approval that froze them. */
export async function storeDifference(manager: EntityManager, projectId: string, before: Plan | null, after: Plan): Promise<void> {
  for (const table of ROW_TABLES) {
    const was: Rows<Row> = before?.[table] ?? new Map();
    const now: Rows<Row> = after[table];
    if (was === now) continue;
    const removed = [...was.keys()].filter((key) => !now.has(key));
    if (removed.length > 0) await manager.delete(PlanRowEntity, { projectId, tableName: table, rowKey: In(removed) });
    const moved = was.size !== now.size || !sameOrder(was.keys(), now.keys());
    const known: Positions | null = !moved ? null : was.size === 0 ? new Map() : await positionsOf(manager, projectId, table);
    const places = known === null ? null : placesBetween([...now.keys()], known);
    if (places === null && !moved) await updateRows(manager, projectId, table, was, now);
    else {
      const rows = [...now].flatMap(([key, row], i) => {
        const place = places?.get(key) ?? i;
        return was.get(key) === row && known?.get(key) === place ? [] : [rowOf(projectId, table, key, row, place)];
      });
      for (let i = 0; i < rows.length; i += INSERTED_AT_ONCE) await upsertRows(manager, rows.slice(i, i + INSERTED_AT_ONCE));
    }
  }
}

/** Rows whose content changed and whose place did not. */
async function updateRows(manager: EntityManager, projectId: string, table: PlanTable, was: Rows<Row>, now: Rows<Row>): Promise<void> {
  const changed = [...now].filter(([key, row]) => was.get(key) !== row);
  if (changed.length === 0) return;
  for (let i = 0; i < changed.length; i += INSERTED_AT_ONCE) await upsertRows(manager, changed.slice(i, i + INSERTED_AT_ONCE).map(([key, row]) => rowOf(projectId, table, key, row, 0)), "position");
}

function rowOf(projectId: string, table: PlanTable, key: string, row: Row, position: number): (string | number | null)[] {
  const personId = table === "assignments" || table === "timeEntries" ? (row as PlanTables["assignments"]).person : null;
  return [projectId, table, key, position, personId, JSON.stringify(row)];
}

/** @param position what a row that is there already gets for its place: the one given, or its own */
async function upsertRows(manager: EntityManager, rows: (string | number | null)[][], position: "values(position)" | "position" = "values(position)"): Promise<void> {
  const places = rows.map(() => "(?, ?, ?, ?, ?, ?)").join(", ");
  await manager.query(
    `insert into plan_row (project_id, table_name, row_key, position, person_id, doc) values ${places}
     on duplicate key update position = ${position}, person_id = values(person_id), doc = values(doc)`,
    rows.flat(),
  );
}
