import { randomBytes, randomUUID } from "node:crypto";
import { HOOK_EVENTS, TRIAL, type HookBody, type HookCalls, type HookEvent, type Hooks } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { serve, type Serving } from "../access/serve.ts";
import { groupNames, presentGroup } from "../project/groupTree.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { noteHouse, type NotedField } from "../shared/noted/noteHouse.ts";
import { HookCallEntity, HookEntity } from "./hookEntities.ts";

const DONE = { ok: true as const };
const CALLS_SHOWN = 100;

const eventsOf = ({ events }: HookEntity): HookEvent[] =>
  (Object.keys(HOOK_EVENTS) as HookEvent[]).filter((each) => events.split(",").includes(each));

async function listHooks(database: DataSource): Promise<Hooks> {
  const [hooks, names, counts] = await Promise.all([
    database.getRepository(HookEntity).find({ order: { madeAt: "DESC" } }),
    groupNames(database),
    database.query(
      `select webhook_id as hook, sum(state in ('waiting', 'sending')) as waiting, sum(state = 'failed') as failed,
          max(taken_at) as takenAt
         from webhook_call group by webhook_id`,
    ) as Promise<{ hook: string; waiting: string; failed: string; takenAt: Date | null }[]>,
  ]);
  const byHook = new Map(counts.map((count) => [count.hook, count]));
  return hooks.map((hook) => {
    const count = byHook.get(hook.id);
    return {
      ...{
        id: hook.id,
        name: hook.name,
        url: hook.url,
        events: eventsOf(hook),
        group: presentGroup(hook.groupId, names),
      },
      ...{ madeAt: hook.madeAt.toISOString(), takenAt: count?.takenAt?.toISOString() ?? null },
      ...{ waiting: Number(count?.waiting ?? 0), failed: Number(count?.failed ?? 0) },
    };
  });
}

const find = async (manager: DataSource | EntityManager, id: string): Promise<HookEntity> =>
  orNotFound(await manager.getRepository(HookEntity).findOneBy({ id }), "webhook of that address");

async function callsOf(database: DataSource, id: string): Promise<HookCalls> {
  const { id: hookId } = await find(database, id);
  const calls = await database
    .getRepository(HookCallEntity)
    .find({ where: { hookId }, order: { madeAt: "DESC", id: "ASC" }, take: CALLS_SHOWN });
  return calls.map(({ body, ...call }) => ({
    ...{ id: call.id, event: call.event as HookCalls[number]["event"], state: call.state, tries: call.tries },
    project: (JSON.parse(body) as HookBody).data.project?.code ?? null,
    madeAt: call.madeAt.toISOString(),
    nextAt: call.state === "waiting" ? new Date(Number(call.nextAt)).toISOString() : null,
    takenAt: call.takenAt?.toISOString() ?? null,
    why: call.why,
  }));
}

const eventWords = (hook: HookEntity): string => {
  const told = eventsOf(hook).map((each) => HOOK_EVENTS[each]);
  return told.join(", ");
};

/** What of a webhook is noted: all but its secret. */
const fieldsOf = (hook: HookEntity, names: ReadonlyMap<string, string>): NotedField[] => [
  { field: "address", words: hook.url },
  { field: "told that", words: eventWords(hook) },
  { field: "of", words: presentGroup(hook.groupId, names)?.name ?? "the whole house" },
];

async function addTrial(database: DataSource, id: string): Promise<void> {
  const { id: hookId } = await find(database, id);
  const at = new Date();
  const body: HookBody = { type: TRIAL, timestamp: at.toISOString(), data: {} };
  await database.getRepository(HookCallEntity).insert({
    ...{ id: randomUUID(), hookId, event: TRIAL, projectId: null, body: JSON.stringify(body), madeAt: at },
    ...{ state: "waiting" as const, tries: 0, nextAt: String(at.getTime()), takenAt: null, why: null },
  });
}

/** Webhooks: made, listed, tried, ended; and what became of each call. */
export function hookRoutes(serving: Serving): void {
  serve(serving, "GET /api/webhooks", ({ database }) => listHooks(database));

  serve(serving, "POST /api/webhooks", ({ database, me, body: { name, url, events, group } }) =>
    inTransaction(database, async (manager) => {
      const names = await groupNames(manager);
      if (group !== null && !names.has(group))
        throw new Failure("invalid", "There is no such group any more; load the page again.");
      const hook = {
        ...{ id: randomUUID(), name, url, groupId: group, events: [...new Set(events)].join(",") },
        ...{ secret: `whsec_${randomBytes(32).toString("base64")}`, madeBy: me.id, madeAt: new Date() },
      };
      await manager.getRepository(HookEntity).insert(hook);
      await noteHouse(manager, me, { about: "system", subject: `webhook of ${name}` }, null, fieldsOf(hook, names));
      return { id: hook.id, secret: hook.secret };
    }),
  );

  serve(serving, "DELETE /api/webhooks/:webhook", ({ database, me, params }) =>
    inTransaction(database, async (manager) => {
      const hook = await find(manager, params["webhook"]!);
      const fields = fieldsOf(hook, await groupNames(manager));
      await manager.getRepository(HookEntity).delete({ id: hook.id });
      await manager.getRepository(HookCallEntity).delete({ hookId: hook.id });
      await noteHouse(manager, me, { about: "system", subject: `webhook of ${hook.name}` }, fields, null);
      return DONE;
    }),
  );

  serve(serving, "GET /api/webhooks/:webhook/calls", ({ database, params }) => callsOf(database, params["webhook"]!));

  serve(serving, "POST /api/webhooks/:webhook/trial", async ({ database, params }) => {
    await addTrial(database, params["webhook"]!);
    return DONE;
  });

  serve(serving, "POST /api/webhooks/:webhook/calls/:call/again", async ({ database, params }) => {
    const again = (await database.query(
      `update webhook_call set state = 'waiting', tries = 0, next_at = ?
        where id = ? and webhook_id = ? and state in ('waiting', 'failed')`,
      [Date.now(), params["call"]!, params["webhook"]!],
    )) as { affectedRows: number };
    if (again.affectedRows === 0)
      throw new Failure("conflict", "This call is under way, was taken, or is not kept any more; look again.");
    return DONE;
  });
}
