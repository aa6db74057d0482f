import { createHash, randomUUID } from "node:crypto";
import type { Me, ProjectRecord } from "@chronometra/contract";
import { canonicalText } from "@chronometra/core";
import { In, type EntityManager } from "typeorm";
import { hashPassword } from "../access/accounts.ts";
import { AccountEntity } from "../access/accountEntity.ts";
import { createProject, type NewProject } from "../begin/createProject.ts";
import { ReportingPeriodEntity } from "../cycle/cycleEntities.ts";
import { houseFacts } from "../exchange/record/houseFacts.ts";
import { meetHouse, type Met } from "../exchange/record/meetHouse.ts";
import { DocumentVersionEntity } from "../documents/documentEntities.ts";
import { kindOf } from "../documents/fileKind.ts";
import { LifeCycleEntity } from "../gates/gateEntities.ts";
import { ProjectEntity, ProjectFieldEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";
import { noteHouse } from "../shared/noted/noteHouse.ts";
import { KEPT, KEPT_TABLES, storedRow, type KeptTable } from "./recordTables.ts";

type Row = Record<string, unknown>;

const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

/** Tables whose rows bear an id of their own, that is no other's in the installation. */
const WITH_ID = [
  ...(["matters", "approvals", "whatIfs", "reserves", "locks", "reports", "talk", "talkFiles", "documents"] as const),
];

/** New ids for all of a record where any of its own is taken here; else none, and every address stays what it was. */
async function renewed(manager: EntityManager, record: ProjectRecord): Promise<Map<string, string>> {
  const own = new Map<string, string>([[record.project.id, randomUUID()]]);
  let taken = await manager.getRepository(ProjectEntity).existsBy({ id: record.project.id });
  for (const table of WITH_ID) {
    const ids = (record[table] ?? []).map(({ id }) => id);
    for (const id of ids) if (!id.includes(":")) own.set(id, randomUUID());
    if (!taken && ids.length > 0) {
      const { tableName } = manager.getRepository(KEPT[table].entity).metadata;
      taken = ((await manager.query(`select 1 from ${tableName} where id in (?) limit 1`, [ids])) as []).length > 0;
    }
  }
  const contents = [...new Set((record.documentVersions ?? []).map(({ contentId }) => contentId))];
  for (const id of contents) own.set(id, randomUUID());
  const versions = manager.getRepository(DocumentVersionEntity);
  const isTaken = taken || (contents.length > 0 && (await versions.existsBy({ contentId: In(contents) })));
  return isTaken ? own : new Map();
}

/** A record with other ids in place of some, wherever they stand. */
function withIds(record: ProjectRecord, ids: ReadonlyMap<string, string>): ProjectRecord {
  return JSON.parse(JSON.stringify(record).replace(UUID, (id) => ids.get(id) ?? id)) as ProjectRecord;
}

/** Adds to the installation what a record speaks of and it does not have. */
async function addToHouse(manager: EntityManager, me: Me, { added }: Met, code: string): Promise<void> {
  const { accounts = [], periods = [], lifeCycles = [], projectFields = [] } = added;
  // Nobody knows the password: an administrator who gives them a role gives them one too.
  const passwordHash = accounts.length === 0 ? "" : await hashPassword(randomUUID());
  for (const { id, login, name } of accounts) {
    await manager
      .getRepository(AccountEntity)
      .insert({ id, login, name, passwordHash, roles: [], only: null, personId: null, timeZone: null });
    await noteHouse(manager, me, { about: "account", subject: name }, null, [
      { field: "Added", words: `named by ${code}, without a role` },
    ]);
  }
  if (periods.length > 0) await manager.getRepository(ReportingPeriodEntity).insert(periods);
  for (const { id, kind, content } of lifeCycles)
    await manager.getRepository(LifeCycleEntity).insert({ id, kind, content: JSON.stringify(content) });
  if (projectFields.length > 0) await manager.getRepository(ProjectFieldEntity).insert(projectFields as never);
}

/** Files are what their bytes say, whatever the file that brings them says; programs are not taken. */
async function withKinds(record: ProjectRecord): Promise<ProjectRecord> {
  const heads = new Map<string, Buffer>();
  for (const { contentId, part, bytes } of record.documentParts ?? [])
    if (part === 0) heads.set(contentId, Buffer.from(bytes, "base64"));
  const versions = record.documentVersions ?? [];
  const documentVersions = await Promise.all(
    versions.map(async (version) => ({
      ...version,
      type: await kindOf(version.file, heads.get(version.contentId) ?? Buffer.alloc(0)),
    })),
  );
  return versions.length === 0 ? record : { ...record, documentVersions };
}

/** One comes in at a time: what the first adds to the installation, such as accounts, the second finds there. */
const oneAtATime = (manager: EntityManager): Promise<unknown> =>
  manager.query("insert into setting (name, value) values ('bringing', '') on duplicate key update value = value");

const digestOf = (text: string): string => createHash("sha256").update(text).digest("hex");

/** A stored row as this installation has it: with its numbers of periods, its life cycles and fields. */
function placed(table: KeptTable, row: Row, met: Met): Row | null {
  if (table === "lives") return { ...row, lifeCycleId: met.lifeCycles.get(row["lifeCycleId"] as string) };
  if (table === "values") return { ...row, fieldId: met.projectFields.get(row["fieldId"] as string) };
  const ofBaseline = table === "baselinePlans";
  if (!("number" in row) || ofBaseline) return row;
  const number = met.periods.get(row["number"] as number);
  if (number === undefined) return null;
  // Its links lead to the project as it is called here.
  return { ...row, number, ...(table === "issuedReports" ? { digest: digestOf(row["content"] as string) } : {}) };
}

const TEXT_AT_ONCE = 1_000_000;

/** Rows in parts that one statement holds. */
function* parts(rows: readonly Row[]): Generator<Row[]> {
  let part: Row[] = [];
  let size = 0;
  for (const row of rows) {
    size += Object.values(row).reduce<number>((sum, value) => sum + (typeof value === "string" ? value.length : 8), 0);
    part.push(row);
    if (size < TEXT_AT_ONCE && part.length < 500) continue;
    yield part;
    [part, size] = [[], 0];
  }
  if (part.length > 0) yield part;
}

async function insertTable(
  manager: EntityManager,
  table: KeptTable,
  record: ProjectRecord,
  met: Met,
  events: Map<number, number>,
): Promise<void> {
  const { entity, of } = KEPT[table];
  const belongs = (row: Row): Row => {
    if (of === "place" || table === "talkFiles")
      return { projectId: row["about"] === "matter" ? "" : record.project.id };
    return typeof of === "string" ? { [of]: record.project.id } : {};
  };
  const rows = ((record[table] ?? []) as Row[]).flatMap((told) => {
    const row = placed(table, storedRow(table, told), met);
    return row === null ? [] : [{ ...row, ...belongs(row) }];
  });
  const repository = manager.getRepository(entity);
  if (table === "gateEvents")
    for (const { id, ...row } of rows as (Row & { id: number })[]) {
      const { identifiers } = await repository.insert(row);
      events.set(id, (identifiers[0] as { id: number }).id);
    }
  else if (table === "gateActions")
    await repository.insert(rows.map((row) => ({ ...row, eventId: events.get(row["eventId"] as number) })));
  else for (const part of parts(rows)) await repository.insert(part);
}

/**
 * Stores a project with all that it kept where it comes from; all ids stay as they are where they are free here.
 * @param record as `checkRecord` took it
 * @throws {Failure} for a code that is taken, and where whoever brings it may not
 */
export async function arriveRecord(
  manager: EntityManager,
  me: Me,
  wanted: NewProject,
  brought: ProjectRecord,
): Promise<ProjectEntity> {
  await oneAtATime(manager);
  const house = await houseFacts(manager, me);
  if (!house.mayBring)
    throw new Failure(
      "notAllowed",
      "A project comes with its history where a controller of the whole house brings it.",
    );
  const met = meetHouse(brought, house);
  const ids = new Map([...met.accounts, ...(await renewed(manager, brought))]);
  const record = await withKinds(withIds(brought, ids));
  const { id, revision } = record.project;
  const baselines = new Map((record.baselines ?? []).map(({ number, content }) => [number, canonicalText(content)]));
  await addToHouse(manager, me, met, wanted.plan.project.code);
  const project = await createProject(manager, me, { ...wanted, lived: { id, revision, baselines } });
  const events = new Map<number, number>();
  for (const table of KEPT_TABLES) if (table !== "baselines") await insertTable(manager, table, record, met, events);
  await noteHouse(manager, me, { about: "project", subject: project.code }, null, [
    { field: "Brought in", words: `${wanted.label}, with its history up to revision ${revision}` },
  ]);
  return project;
}
