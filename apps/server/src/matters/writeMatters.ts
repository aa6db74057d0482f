import { randomUUID } from "node:crypto";
import {
  matterStateWords,
  OWNERS_FIELDS,
  type BodyOf,
  type MatterSettings,
  type MatterView,
  type MatterWrite,
  type Me,
  type NewMatter,
} from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { storeChanges } from "../plan/changeService.ts";
import { writeProject, writeProjects, type Writing } from "../plan/writeProjects.ts";
import { ProgrammeEntity, type ProjectEntity } from "../project/projectEntity.ts";
import { holdsIn } from "../project/reach.ts";
import { todayOf } from "../shared/clock.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { isNews } from "../shared/seen.ts";
import { findMatter, mayWrite, viewMatter } from "./listMatters.ts";
import { MatterEntity, MatterEventEntity, MatterTieEntity } from "./matterEntities.ts";
import type { MatterContent, MatterRow } from "./matterRows.ts";
import { matterSettings } from "./matterSettings.ts";
import type { Telling } from "../tell/post.ts";
import { askNoMore, tellOwner, tellSettled } from "./tellOfMatters.ts";
import { assertFits, fieldWords, saidIn, valueWords, withWrite, type Written } from "./writes.ts";

/** The id of what there is to know of a project's risk. */
export const idOfRisk = (projectId: string, riskId: string): string => `${projectId}:${riskId}`;

/** Stores a matter with what it is tied to. */
export async function storeMatter(manager: EntityManager, { row, content, ties, removed }: Written): Promise<void> {
  const { id, kind, projectId, groupId, riskId, title, state, severity, owner, raisedBy, raisedOn, due } = row;
  await manager.getRepository(MatterEntity).upsert(
    {
      ...{ id, kind, projectId, groupId, riskId, title, state, severity, owner, raisedBy, raisedOn, due },
      ...{ closedOn: row.closedOn, chance: riskId === null ? row.chance : null, removed },
      content: JSON.stringify(content),
    },
    ["id"],
  );
  await manager.getRepository(MatterTieEntity).delete({ matterId: id });
  if (ties.length > 0)
    await manager
      .getRepository(MatterTieEntity)
      .insert(ties.map(({ about, id: aboutId }, position) => ({ matterId: id, position, about, aboutId })));
}

/** Notes what happened to a matter, in words. */
export const noteEvent = (
  manager: EntityManager,
  me: Me,
  matterId: string,
  { field, was, value }: { readonly field: string; readonly was: string; readonly value: string },
): Promise<unknown> =>
  manager
    .getRepository(MatterEventEntity)
    .insert({ matterId, at: new Date(), accountId: me.id, field: field.slice(0, 40), was, value });

/** A matter as it stands, read within the transaction that writes it. */
async function standing(manager: EntityManager, row: MatterRow): Promise<Written> {
  await manager.query("select id from matter where id = ? for update", [row.id]);
  const ties = await manager
    .getRepository(MatterTieEntity)
    .find({ where: { matterId: row.id }, order: { position: "ASC" } });
  const stored = await manager.getRepository(MatterEntity).findOneBy({ id: row.id });
  return {
    row,
    content: (row.content === null ? {} : JSON.parse(row.content)) as MatterContent,
    ties: ties.map(({ about, aboutId }) => ({ about: about as Written["ties"][number]["about"], id: aboutId })),
    removed: stored?.removed ?? false,
  };
}

/** What writes of a risk come to in its plan. */
function planChanges(row: MatterRow, writes: readonly MatterWrite[]): Change[] {
  const set: Record<string, unknown> = {};
  for (const write of writes) {
    if (write.field === "title") set["name"] = write.value;
    if (write.field === "chance") set["probability"] = write.value;
    if (write.field === "state") set["over"] = write.value === "open" ? null : "past";
  }
  return Object.keys(set).length === 0
    ? []
    : [{ type: "editRow", table: "risks", key: row.riskId!, set } as unknown as Change];
}

/** Those writes that say anything new, held against what stands there; applied, and noted. */
async function applyWrites(
  manager: EntityManager,
  me: Me,
  row: MatterRow,
  settings: MatterSettings,
  writes: readonly MatterWrite[],
): Promise<MatterWrite[]> {
  const register = { manager, row, settings };
  let now = await standing(manager, row);
  const news: MatterWrite[] = [];
  for (const write of writes) {
    const what = fieldWords(row, write, settings);
    if (!isNews(saidIn(now, write), write, what)) continue;
    await assertFits(register, write);
    const words = (value: MatterWrite["value"]): Promise<string> => valueWords(register, write, value);
    await noteEvent(manager, me, row.id, { field: what, was: await words(write.was), value: await words(write.value) });
    now = withWrite(now, write, me);
    news.push(write);
  }
  if (news.length > 0) await storeMatter(manager, now);
  return news;
}

/** A matter that someone may write these things of. */
async function writable(
  manager: EntityManager,
  me: Me,
  id: string,
  writes: readonly MatterWrite[],
): Promise<MatterRow> {
  const row = await findMatter(manager, me, id);
  const may = mayWrite(me, row);
  if (row.isClosed !== 0) throw new Failure("invalid", "Its project is closed; a controller may open it again.");
  if (may === null) throw new Failure("notAllowed", "Whoever plans this project, and the owner, write here.");
  const beyond = may === "owners" && writes.find(({ field }) => !OWNERS_FIELDS.includes(field));
  if (typeof beyond === "object")
    throw new Failure(
      "notAllowed",
      "Its owner says how it stands and what is done about it; the rest is the planners’.",
    );
  return row;
}

/** Tells the new owner, and whoever raised it that it is settled. */
async function tellWritten(
  manager: EntityManager,
  post: Telling,
  me: Me,
  row: MatterRow,
  news: readonly MatterWrite[],
): Promise<void> {
  for (const write of news) {
    if (["owner", "state", "removed"].includes(write.field)) await askNoMore(manager, row.id);
    if (write.field === "owner") await tellOwner(manager, post, me, row, write.value);
    if (write.field === "state" && write.value === "open") await tellOwner(manager, post, me, row, row.owner);
    if (write.field === "state" && write.value === "settled")
      await tellSettled(manager, post, me, row, row.raisedBy, matterStateWords(row.kind, "settled"));
  }
}

/** Brings back what was removed, which nobody sees any more. */
async function bringBack(database: DataSource, me: Me, id: string): Promise<MatterView> {
  await inTransaction(database, async (manager) => {
    const stored = orNotFound(
      await manager.getRepository(MatterEntity).findOneBy({ id, removed: true }),
      "matter of that address",
    );
    await manager.getRepository(MatterEntity).update({ id }, { removed: false });
    await writable(manager, me, stored.id, [{ field: "removed", was: true, value: false }]);
    await noteEvent(manager, me, id, { field: "Removed", was: "removed", value: "in the register" });
  });
  return viewMatter(database, me, id);
}

/**
 * Writes things of a matter, all or nothing. A risk's name, probability and state are changes of its plan.
 * @throws {Failure} conflict, where one of them does not say any more what its writer saw; notAllowed; invalid
 */
export async function writeMatter(
  database: DataSource,
  me: Me,
  post: Telling,
  id: string,
  { writes }: BodyOf<"PUT /api/matters/:matter">,
): Promise<MatterView | null> {
  if (writes.length === 1 && writes[0]!.field === "removed" && !writes[0]!.value) return bringBack(database, me, id);
  const { projectId, riskId } = await findMatter(database, me, id);
  const settings = await matterSettings(database);
  if (projectId === null)
    await inTransaction(database, async (manager) => {
      const row = await writable(manager, me, id, writes);
      await tellWritten(manager, post, me, row, await applyWrites(manager, me, row, settings, writes));
    });
  else
    await writeProjects(database, me, [projectId], async (writing) => {
      const row = await writable(writing.manager, me, id, writes);
      const news = await applyWrites(writing.manager, me, row, settings, writes);
      await tellWritten(writing.manager, post, me, row, news);
      const changes = riskId === null ? [] : planChanges(row, news);
      if (changes.length > 0)
        await storeChanges(writing, writing.project(projectId), { changes, label: `Risk “${row.title}” changed` });
    });
  return writes.some((write) => write.field === "removed" && write.value) ? null : viewMatter(database, me, id);
}

/** A matter that begins, without what is written of it at once. */
const bare = (
  me: Me,
  { kind, project, group, title, chance = null }: NewMatter,
  of: { readonly id: string; readonly riskId: string | null },
): MatterRow => ({
  ...{ id: of.id, kind, projectId: project, groupId: group, riskId: of.riskId, title, state: "open", chance },
  ...{ severity: null, owner: null, raisedBy: me.id, raisedOn: todayOf(me), due: null, closedOn: null, content: "{}" },
  ...{
    expected: null,
    currency: null,
    digits: null,
    code: null,
    projectName: null,
    managerId: null,
    programmeId: null,
  },
  ...{ isClosed: 0, groupName: null, groupManager: null },
});

/** What is said of a new matter besides its title, as it is written. */
function firstWrites({ text = "", severity = null, owner = null, due = null, ties = [] }: NewMatter): MatterWrite[] {
  const all: MatterWrite[] = [
    { field: "text", was: "", value: text },
    { field: "severity", was: null, value: severity },
    { field: "owner", was: null, value: owner },
    { field: "due", was: null, value: due },
    { field: "ties", was: [], value: ties },
  ];
  return all.filter(({ was, value }) => JSON.stringify(was) !== JSON.stringify(value));
}

/** Puts a matter into its register, within the transaction of what makes it. */
export async function beginMatter(
  manager: EntityManager,
  me: Me,
  asked: NewMatter,
  of: { readonly id: string; readonly riskId: string | null } = { id: randomUUID(), riskId: null },
): Promise<string> {
  const settings = await matterSettings(manager);
  let written: Written = { row: bare(me, asked, of), content: {}, ties: [], removed: false };
  for (const write of firstWrites(asked)) {
    await assertFits({ manager, row: written.row, settings }, write);
    written = withWrite(written, write, me);
  }
  await storeMatter(manager, written);
  await noteEvent(manager, me, of.id, { field: "Raised", was: "", value: asked.title });
  return of.id;
}

/** What its owner is told of a new matter. */
const toldOf = (id: string, { kind, title, project, due = null }: NewMatter, code: string | null) => ({
  projectId: project,
  id,
  kind,
  title,
  due,
  code,
});

/** Puts something into a register of a project that is being written; a risk into its plan. */
async function beginOfProject(writing: Writing, project: ProjectEntity, asked: NewMatter): Promise<string> {
  const { manager, me } = writing;
  const { kind, title, chance = null } = asked;
  if (kind !== "risk") return beginMatter(manager, me, asked);
  const riskId = randomUUID().slice(0, 13);
  const row = { id: riskId, name: title, probability: chance!, effects: [] };
  const changes: Change[] = [{ type: "addRow", table: "risks", key: riskId, row }];
  await storeChanges(writing, project, { changes, label: `Risk “${title}” added` });
  return beginMatter(manager, me, asked, { id: idOfRisk(project.id, riskId), riskId });
}

/** Refuses whoever may not put something into the registers of a group, or of the house. */
async function assertMayRaise(manager: EntityManager, me: Me, group: string | null): Promise<void> {
  if (group === null) {
    if (!holdsIn(me, "controller", null))
      throw new Failure("notAllowed", "What is of the whole house is put here by its controllers.");
    return;
  }
  const { managerId } = orNotFound(
    await manager.getRepository(ProgrammeEntity).findOneBy({ id: group }),
    "group of that address",
  );
  if (managerId !== me.id && !holdsIn(me, "controller", group))
    throw new Failure("notAllowed", "What is of a group is put here by its manager and by controllers.");
}

/**
 * Puts something into a register. A project's risk becomes one of its plan, so that chances can be reckoned with it.
 * @throws {Failure} notAllowed, invalid
 */
export async function raiseMatter(database: DataSource, me: Me, post: Telling, asked: NewMatter): Promise<MatterView> {
  const { kind, project, group, chance = null } = asked;
  if (project !== null && group !== null)
    throw new Failure("invalid", "It is of a project or of a group, not of both.");
  if (kind === "risk" && chance === null) throw new Failure("invalid", "Say how likely the risk is, as a percent.");
  if (kind !== "risk" && chance !== null) throw new Failure("invalid", "Only a risk has a probability.");
  if (project === null) {
    const id = await inTransaction(database, async (manager) => {
      await assertMayRaise(manager, me, group);
      const begun = await beginMatter(manager, me, asked);
      await tellOwner(manager, post, me, toldOf(begun, asked, null), asked.owner ?? null);
      return begun;
    });
    return viewMatter(database, me, id);
  }
  const id = await writeProject(database, me, project, async (writing, found) => {
    const begun = await beginOfProject(writing, found, asked);
    await tellOwner(writing.manager, post, me, toldOf(begun, asked, found.code), asked.owner ?? null);
    return begun;
  });
  return viewMatter(database, me, id);
}
