import { randomUUID } from "node:crypto";
import type { HookBody, HookEvent } from "@chronometra/contract";
import type { EntityManager } from "typeorm";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { HookCallEntity } from "./hookEntities.ts";

/** How long changes of one plan are gathered into one call. */
const TOGETHER_MILLISECONDS = 10_000;

/** What of a project is told, besides which it is. */
export type Told = Omit<HookBody["data"], "project">;

/** The ids of the systems that are told of something in a project: those of the house, its group, or one above. */
async function listeners(manager: EntityManager, event: HookEvent, group: string | null): Promise<string[]> {
  const rows = (await manager.query(
    `with recursive above as (
       select id, parent_id from programme where id = ?
       union select p.id, p.parent_id from programme p join above a on p.id = a.parent_id
     )
     select w.id from webhook w
      where find_in_set(?, w.events) > 0 and (w.group_id is null or w.group_id in (select id from above))`,
    [group, event],
  )) as { id: string }[];
  return rows.map(({ id }) => id);
}

/**
 * Tells other systems of something in a project: the calls are written in the transaction of what they tell, so that
 * they are made if and only if it happened. Changes of a plan that follow on each other are told in one.
 */
export async function tellSystems(
  manager: EntityManager,
  event: HookEvent,
  { id, code, programmeId, head: { name } }: Pick<ProjectEntity, "id" | "code" | "programmeId" | "head">,
  told: Told,
  at = new Date(),
): Promise<void> {
  const hooks = await listeners(manager, event, programmeId);
  if (hooks.length === 0) return;
  const data = { project: { id, code, name }, ...told };
  const body = JSON.stringify({ type: event, timestamp: at.toISOString(), data } satisfies HookBody);
  const calls = manager.getRepository(HookCallEntity);
  const isGathered = event === "planChanged";
  const waiting = isGathered ? { event, projectId: id, state: "waiting" as const, tries: 0 } : null;
  for (const hookId of hooks) {
    // Whoever writes the project holds it, so that no second one is written beside this.
    if (waiting !== null && ((await calls.update({ ...waiting, hookId }, { body })).affected ?? 0) > 0) continue;
    const nextAt = String(Date.now() + (isGathered ? TOGETHER_MILLISECONDS : 0));
    await calls.insert({
      ...{ id: randomUUID(), hookId, event, projectId: id, body, nextAt },
      ...{ madeAt: at, state: "waiting" as const, tries: 0, takenAt: null, why: null },
    });
  }
}
