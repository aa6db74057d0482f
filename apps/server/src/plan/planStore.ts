import { PLAN_TABLES, type Baseline, type Plan, type PlanTable, type PlanTables, type ProjectHead, type Rows } from "@chronometra/core";
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

/** Positions of rows with room between them, kept where they still ascend, made anew for a table where they do not. */
function changedRows(before: Rows<Row>, after: Rows<Row>): { written: Map<string, Row>; removed: string[]; reordered: boolean } {
  const written = new Map<string, Row>();
  for (const [key, row] of after) if (before.get(key) !== row) written.set(key, row);
  const removed = [...before.keys()].filter((key) => !after.has(key));
  const gone = new Set(removed);
  const kept = [...before.keys()].filter((key) => !gone.has(key));
  const order = [...after.keys()];
  return { written, removed, reordered: kept.some((key, i) => order[i] !== key) };
}

const INSERTED_AT_ONCE = 1000;

/** Writes what differs between two plans of one project; baselines are written by the approval that froze them. */
export async function storeDifference(manager: EntityManager, projectId: string, before: Plan | null, after: Plan): Promise<void> {
  for (const table of ROW_TABLES) {
    const was: Rows<Row> = before?.[table] ?? new Map();
    const now: Rows<Row> = after[table];
    if (was === now) continue;
    const { written, removed, reordered } = changedRows(was, now);
    if (removed.length > 0) await manager.delete(PlanRowEntity, { projectId, tableName: table, rowKey: In(removed) });
    const rows = [...now].flatMap(([key, row], position) => (reordered || written.has(key) ? [rowOf(projectId, table, key, row, position)] : []));
    for (let i = 0; i < rows.length; i += INSERTED_AT_ONCE) await upsertRows(manager, rows.slice(i, i + INSERTED_AT_ONCE));
  }
}

function rowOf(projectId: string, table: PlanTable, key: string, row: Row, position: number): (string | number | null)[] {
  const personId = "person" in row ? row.person : null;
  return [projectId, table, key, position, personId, JSON.stringify(row)];
}

async function upsertRows(manager: EntityManager, rows: (string | number | null)[][]): Promise<void> {
  const places = rows.map(() => "(?, ?, ?, ?, ?, ?)").join(", ");
  await manager.query(
    `insert into plan_row (project_id, table_name, row_key, position, person_id, doc) values ${places}
     on duplicate key update position = values(position), person_id = values(person_id), doc = values(doc)`,
    rows.flat(),
  );
}
