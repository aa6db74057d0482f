import type { ProjectRecord, RecordTable } from "@chronometra/contract";
import { In, Like, type EntityManager, type FindOptionsWhere, type ObjectLiteral } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import { ReportingPeriodEntity } from "../cycle/cycleEntities.ts";
import { LifeCycleEntity } from "../gates/gateEntities.ts";
import { ProjectFieldEntity, type ProjectEntity } from "../project/projectEntity.ts";
import { KEPT, KEPT_TABLES, toldRow, type KeptTable } from "./recordTables.ts";

type Row = Record<string, unknown>;

/** Files of more bytes than this together stay where they are: what takes a file in takes no larger one. */
const MOST_BYTES = 30 * 1024 * 1024;

const listed = (record: Row, table: KeptTable, field: string): string[] =>
  ((record[table] ?? []) as Row[]).map((row) => row[field] as string);

/** Where the rows of a table lie that belong to a project. */
function whereOf(projectId: string, table: KeptTable, got: Row): FindOptionsWhere<ObjectLiteral>[] {
  const { of } = KEPT[table];
  if (of === "place") {
    const register = { projectId: "", about: "matter" };
    return [
      { projectId },
      { ...register, aboutId: In(listed(got, "matters", "id")) },
      { ...register, aboutId: Like(`${projectId}:%`) },
    ];
  }
  if (typeof of === "string") return [{ [of]: projectId }];
  return [{ [of.field]: In(of.in.flatMap((other) => listed(got, other, of.by ?? "id"))) }];
}

/** The rows of a table that belong to a project, in the order of their keys. */
async function rowsOf(manager: EntityManager, projectId: string, table: KeptTable, got: Row): Promise<Row[]> {
  const repository = manager.getRepository(KEPT[table].entity);
  const order = Object.fromEntries(repository.metadata.primaryColumns.map(({ propertyName }) => [propertyName, "ASC"]));
  return repository.find({ where: whereOf(projectId, table, got), order: order as never });
}

/** Takes files out of a record that are too large together, with the documents that they are. */
function withoutLargeFiles(rows: Row): Row {
  const versions = (rows["documentVersions"] ?? []) as { documentId: string; size: number }[];
  const bytes = versions.reduce((sum, { size }) => sum + size, 0);
  if (bytes <= MOST_BYTES) return rows;
  const { documentVersions: _versions, talkFiles: _talk, documents, project, ...rest } = rows;
  const links = ((documents ?? []) as Row[]).filter(({ link }) => link !== undefined);
  const filesLeftOut = { count: versions.length, bytes };
  return { project: { ...(project as Row), filesLeftOut }, ...rest, ...(links.length > 0 ? { documents: links } : {}) };
}

const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

/** What of the installation the rows speak of. */
async function houseOf(manager: EntityManager, record: Row): Promise<Row> {
  const told = (table: RecordTable, rows: readonly object[]): Row[] => rows.map((row) => toldRow(table, row as Row));
  const mentioned = [...new Set(JSON.stringify(record).match(UUID) ?? [])];
  const accounts = await manager
    .getRepository(AccountEntity)
    .find({ where: { id: In(mentioned) }, order: { login: "ASC" } });
  const periods = await manager.getRepository(ReportingPeriodEntity).find({ order: { number: "ASC" } });
  const lifeCycles = await manager
    .getRepository(LifeCycleEntity)
    .findBy({ id: In(listed(record, "lives", "lifeCycleId")) });
  const fields = await manager
    .getRepository(ProjectFieldEntity)
    .find({ where: { id: In(listed(record, "values", "fieldId")) }, order: { position: "ASC" } });
  return {
    accounts: told("accounts", accounts),
    periods: told("periods", periods),
    lifeCycles: lifeCycles.map(({ id, kind, content }) => ({ id, kind, content: JSON.parse(content) as unknown })),
    projectFields: told("projectFields", fields),
  };
}

/** What happened at gates is counted from 1 in each record: by what the installation counts it, says nothing elsewhere. */
function countGateEvents(rows: Row): void {
  const events = (rows["gateEvents"] ?? []) as Row[];
  const count = new Map(events.map(({ id }, i) => [id, i + 1]));
  if (events.length > 0) rows["gateEvents"] = events.map((event) => ({ ...event, id: count.get(event["id"]) }));
  const actions = (rows["gateActions"] ?? []) as Row[];
  if (actions.length > 0)
    rows["gateActions"] = actions.map((action) => ({ ...action, eventId: count.get(action["eventId"]) }));
}

/**
 * What a project keeps besides its plan, with what of the installation it speaks of.
 * @param manager of a transaction in which the project was read, so that both are of one moment
 */
export async function recordOf(
  manager: EntityManager,
  { id, revision, managerId }: ProjectEntity,
): Promise<ProjectRecord> {
  let rows: Row = { project: { id, revision, manager: managerId } };
  for (const table of KEPT_TABLES) {
    if (table === "documentParts") rows = withoutLargeFiles(rows);
    const found = await rowsOf(manager, id, table, rows);
    if (found.length > 0) rows[table] = found.map((row) => toldRow(table, row));
  }
  countGateEvents(rows);
  const { documentParts, ...words } = rows;
  const house = await houseOf(manager, words);
  const filled = Object.entries(house).filter(([, list]) => (list as Row[]).length > 0);
  return {
    ...{ project: rows["project"], ...Object.fromEntries(filled), ...words },
    ...(documentParts === undefined ? {} : { documentParts }),
  } as unknown as ProjectRecord;
}
