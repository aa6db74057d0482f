import { randomUUID } from "node:crypto";
import type { BodyOf, DocumentPlace, Me, ProjectDocument, ProjectDocuments } from "@chronometra/contract";
import { In, IsNull, type DataSource, type EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { assertMayEdit, assertNotClosed, findProject, isClosed } from "../project/projectAccess.ts";
import { mayEdit, maySee } from "../project/reach.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { DocumentEntity, DocumentVersionEntity } from "./documentEntities.ts";
import type { Content } from "./fileParts.ts";
import { ownActivities } from "../project/worksIn.ts";

/** What a document is on. */
export interface Place {
  readonly about: DocumentPlace;
  readonly aboutId: string;
}

/** Says of documents whether someone may see them: all of them, or those of activities that they work on. */
async function seenBy(
  manager: DataSource | EntityManager,
  project: ProjectEntity,
  me: Me,
): Promise<(of: Place) => boolean> {
  if (maySee(me, project)) return () => true;
  const own = await ownActivities(manager, project.id, me);
  return ({ about, aboutId }) => about === "activity" && own.has(aboutId);
}

async function shownOf(
  manager: DataSource | EntityManager,
  documents: readonly DocumentEntity[],
): Promise<ProjectDocument[]> {
  const [versions, names] = await Promise.all([
    manager
      .getRepository(DocumentVersionEntity)
      .find({ where: { documentId: In(documents.map(({ id }) => id)) }, order: { number: "DESC" } }),
    accountNames(manager),
  ]);
  const of = new Map<string, DocumentVersionEntity[]>(documents.map(({ id }) => [id, []]));
  for (const version of versions) of.get(version.documentId)?.push(version);
  return documents.map(({ id, about, aboutId, name, link, accountId, at }) => ({
    ...{ id, about, aboutId, name, link, by: names.get(accountId) ?? "", at: at.toISOString() },
    versions: (of.get(id) ?? []).map((version) => ({
      ...{ number: version.number, file: version.file, type: version.type, size: version.size },
      ...{ by: names.get(version.accountId) ?? "", at: version.at.toISOString() },
    })),
  }));
}

/** What someone may see of the documents of a project, by name. */
export async function listDocuments(database: DataSource, me: Me, projectId: string): Promise<ProjectDocuments> {
  const project = await findProject(database, projectId);
  const isSeen = await seenBy(database, project, me);
  const all = await database
    .getRepository(DocumentEntity)
    .find({ where: { projectId, removedAt: IsNull() }, order: { name: "ASC", id: "ASC" } });
  return {
    mayEdit: mayEdit(me, project) && !(await isClosed(database, project)),
    documents: await shownOf(database, all.filter(isSeen)),
  };
}

/** How many documents there are on activities of some projects, by `project\0activity`. */
export async function documentCounts(
  database: DataSource,
  projectIds: readonly string[],
): Promise<ReadonlyMap<string, number>> {
  const rows = (await database.query(
    "select project_id as project, about_id as activity, count(*) as count from document where about = 'activity' and removed_at is null and project_id in (?) group by project_id, about_id",
    [[...projectIds, ""]],
  )) as { project: string; activity: string; count: string }[];
  return new Map(rows.map(({ project, activity, count }) => [`${project}\0${activity}`, Number(count)]));
}

const PLACE_SQL: Readonly<Record<Exclude<DocumentPlace, "project">, string>> = {
  activity: "select 1 from plan_row where project_id = ? and table_name = 'activities' and row_key = ?",
  deliverable:
    "select 1 from project_charter where project_id = ? and json_exists(content, concat('$.deliverables.\"', ?, '\"'))",
  gate: "select 1 from project_life l join life_cycle c on c.id = l.life_cycle_id where l.project_id = ? and json_search(json_extract(c.content, '$.stages[*].id'), 'one', ?) is not null",
  report: "select 1 from project p join reporting_period r on p.id = ? and r.number = ?",
};

/** Refuses what is not there to have a document. */
async function assertThere(manager: EntityManager, projectId: string, { about, aboutId }: Place): Promise<void> {
  if (about === "project") {
    if (aboutId !== "") throw new Failure("invalid", "A document of the project as such is of nothing else.");
    return;
  }
  const found = /^[\w.:-]+$/.test(aboutId)
    ? ((await manager.query(PLACE_SQL[about], [projectId, aboutId])) as unknown[])
    : [];
  if (found.length === 0)
    throw new Failure("notFound", `The ${about} that it is to be of is not there any more; nothing was stored.`);
}

/** A project that someone may put documents to. */
async function toWrite(manager: DataSource | EntityManager, me: Me, projectId: string): Promise<ProjectEntity> {
  const project = await findProject(manager, projectId);
  assertMayEdit(me, project);
  await assertNotClosed(manager, project);
  return project;
}

/** Refuses whoever may not put documents to a project, before anything is sent. */
export const assertMayAdd = (database: DataSource, me: Me, projectId: string): Promise<unknown> =>
  toWrite(database, me, projectId);

const findDocument = async (manager: EntityManager, projectId: string, id: string): Promise<DocumentEntity> =>
  orNotFound(
    await manager
      .getRepository(DocumentEntity)
      .findOne({ where: { id, projectId }, lock: { mode: "pessimistic_write" } }),
    "document of that address",
  );

/** Adds a document: a link, or a file of which the first version follows. */
async function add(
  manager: EntityManager,
  me: Me,
  projectId: string,
  { about, aboutId, name, link }: Place & Pick<DocumentEntity, "name" | "link">,
): Promise<DocumentEntity> {
  await assertThere(manager, projectId, { about, aboutId });
  const document: DocumentEntity = {
    ...{ id: randomUUID(), projectId, about, aboutId, name, link, accountId: me.id, at: new Date() },
    ...{ removedBy: null, removedAt: null },
  };
  await manager.getRepository(DocumentEntity).insert(document);
  return document;
}

/** Adds a link. */
export const addLink = (
  database: DataSource,
  me: Me,
  projectId: string,
  link: BodyOf<"POST /api/projects/:project/documents">,
): Promise<ProjectDocument> =>
  inTransaction(database, async (manager) => {
    await toWrite(manager, me, projectId);
    return (await shownOf(manager, [await add(manager, me, projectId, link)]))[0]!;
  });

/** Makes a file that came a document, or a new version of one. */
export const addFile = (
  database: DataSource,
  me: Me,
  projectId: string,
  to: Place | { readonly document: string },
  { id: contentId, name, type, size, digest }: Content,
): Promise<ProjectDocument> =>
  inTransaction(database, async (manager) => {
    await toWrite(manager, me, projectId);
    const document =
      "document" in to
        ? await findDocument(manager, projectId, to.document)
        : await add(manager, me, projectId, { ...to, name, link: null });
    if (document.link !== null) throw new Failure("invalid", "A link has no versions; add the file by itself.");
    const versions = manager.getRepository(DocumentVersionEntity);
    const newest = await versions.findOne({ where: { documentId: document.id }, order: { number: "DESC" } });
    await versions.insert({
      ...{ documentId: document.id, number: (newest?.number ?? 0) + 1, file: name, type, size, digest, contentId },
      ...{ accountId: me.id, at: new Date() },
    });
    return (await shownOf(manager, [document]))[0]!;
  });

/** Gives a document another name, takes it away, or brings it back. */
export const changeDocument = (
  database: DataSource,
  me: Me,
  projectId: string,
  id: string,
  { name, removed }: BodyOf<"PUT /api/projects/:project/documents/:document">,
): Promise<void> =>
  inTransaction(database, async (manager) => {
    await toWrite(manager, me, projectId);
    const document = await findDocument(manager, projectId, id);
    await manager.getRepository(DocumentEntity).save({
      ...document,
      ...(name === undefined ? {} : { name }),
      ...(removed === undefined
        ? {}
        : { removedBy: removed ? me.id : null, removedAt: removed ? (document.removedAt ?? new Date()) : null }),
    });
  });

/** A version of a document that someone may see. */
export async function findVersion(
  database: DataSource,
  me: Me,
  projectId: string,
  id: string,
  number: number,
): Promise<DocumentVersionEntity> {
  const document = await database.getRepository(DocumentEntity).findOneBy({ id, projectId, removedAt: IsNull() });
  const isSeen = await seenBy(database, await findProject(database, projectId), me);
  const version =
    document === null || !isSeen(document)
      ? null
      : await database.getRepository(DocumentVersionEntity).findOneBy({ documentId: id, number });
  return orNotFound(version, "document of that address");
}
