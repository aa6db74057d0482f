import type { ProjectRecord, RecordTable } from "@chronometra/contract";
import { In, type EntityManager, type FindOptionsWhere, type ObjectLiteral } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import { ReportingPeriodEntity } from "../cycle/cycleEntities.ts";
import { LifeCycleEntity } from "../gates/gateEntities.ts";
import { ProjectFieldEntity, type ProjectEntity } from "../project/projectEntity.ts";
import { KEPT, KEPT_TABLES, toldRow, type KeptTable } from "./recordTables.ts";

type Row = Record<string, unknown>;

/** The rows of a table that belong to a project, in the order of their keys. */
async function rowsOf(manager: EntityManager, projectId: string, table: KeptTable, got: Row): Promise<Row[]> {
  const { entity, of } = KEPT[table];
  const repository = manager.getRepository(entity);
  const order = Object.fromEntries(repository.metadata.primaryColumns.map(({ propertyName }) => [propertyName, "ASC"]));
  const where =
    typeof of === "string"
      ? { [of]: projectId }
      : { [of.field]: In(((got[of.in] ?? []) as Row[]).map(({ id }) => id as string)) };
  return repository.find({ where: where as FindOptionsWhere<ObjectLiteral>, order: order as never });
}

const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

/** What of the installation the rows speak of. */
async function houseOf(manager: EntityManager, record: Row): Promise<Row> {
  const told = (table: RecordTable, rows: readonly object[]): Row[] => rows.map((row) => toldRow(table, row as Row));
  const listed = <T>(table: KeptTable, field: string): T[] =>
    ((record[table] ?? []) as Row[]).map((row) => row[field] as T);
  const mentioned = [...new Set(JSON.stringify(record).match(UUID) ?? [])];
  const accounts = await manager
    .getRepository(AccountEntity)
    .find({ where: { id: In(mentioned) }, order: { login: "ASC" } });
  const periods = await manager.getRepository(ReportingPeriodEntity).find({ order: { number: "ASC" } });
  const lifeCycles = await manager.getRepository(LifeCycleEntity).findBy({ id: In(listed("lives", "lifeCycleId")) });
  const fields = await manager
    .getRepository(ProjectFieldEntity)
    .find({ where: { id: In(listed("values", "fieldId")) }, order: { position: "ASC" } });
  return {
    accounts: told("accounts", accounts),
    periods: told("periods", periods),
    lifeCycles: lifeCycles.map(({ id, kind, content }) => ({ id, kind, content: JSON.parse(content) as unknown })),
    projectFields: told("projectFields", fields),
  };
}

/**
 * What a project keeps besides its plan, with what of the installation it speaks of.
 * @param manager of a transaction in which the project was read, so that both are of one moment
 */
export async function recordOf(
  manager: EntityManager,
  { id, revision, managerId }: ProjectEntity,
): Promise<ProjectRecord> {
  const rows: Row = { project: { id, revision, manager: managerId } };
  for (const table of KEPT_TABLES) {
    const found = await rowsOf(manager, id, table, rows);
    if (found.length > 0) rows[table] = found.map((row) => toldRow(table, row));
  }
  const house = await houseOf(manager, rows);
  const filled = Object.entries(house).filter(([, list]) => (list as Row[]).length > 0);
  return { project: rows["project"], ...Object.fromEntries(filled), ...rows } as unknown as ProjectRecord;
}
