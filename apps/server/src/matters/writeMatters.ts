import {
  matterStateWords,
  OWNERS_FIELDS,
  type BodyOf,
  type MatterSettings,
  type MatterView,
  type MatterWrite,
  type Me,
} from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { storeChanges } from "../plan/changeService.ts";
import { writeProjects } from "../plan/writeProjects.ts";
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
export async function applyWrites(
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
export async function writable(
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
