import { randomBytes } from "node:crypto";
import type { Accounts, Me, SessionView } from "@chronometra/contract";
import type { Request } from "express";
import type { DataSource } from "typeorm";
import { groupNames } from "../project/groupTree.ts";
import { ProgrammeEntity } from "../project/projectEntity.ts";
import { isTimeZone } from "../shared/clock.ts";
import { Failure } from "../shared/failure.ts";
import { serve, type Serving } from "./serve.ts";
import { inTransaction } from "../shared/database.ts";
import {
  addAccount,
  editAccount,
  endSessions,
  findAccount,
  findByPassword,
  hashPassword,
  listAccounts,
} from "./accounts.ts";
import { admitTry } from "./misses.ts";
import { AccountEntity } from "./accountEntity.ts";
import { preferencesOf } from "./preferenceRoutes.ts";
import "./sessionTypes.ts";
import { noteHouse, type NotedField } from "../shared/noted/noteHouse.ts";
import { accountFields } from "./house/accountFields.ts";
import { houseHistory } from "./house/houseHistory.ts";

const newToken = (): string => randomBytes(24).toString("base64url");

/** A new session id after signing in or out, so that one set before cannot be ridden on. */
const renew = (request: Request): Promise<void> =>
  new Promise((resolve, reject) =>
    request.session.regenerate((error: unknown) => (error ? reject(error as Error) : resolve())),
  );

/** The account of that name and password, or null; misses are counted, and tries beyond them refused for a while. */
async function tryPassword(
  database: DataSource,
  request: Request,
  login: string,
  password: string,
): Promise<Me | null> {
  const succeeded = await admitTry(database, login, request.ip ?? "");
  const me = await findByPassword(database, login, password);
  if (me !== null) await succeeded();
  return me;
}

const NEW_PASSWORD: readonly NotedField[] = [{ field: "password", words: "a new one" }];

export function accessRoutes(serving: Serving): void {
  serve(serving, "GET /api/session", async ({ database, request }): Promise<SessionView> => {
    const id = request.session.accountId;
    const me = id === undefined ? null : (request.session.me ?? (await findAccount(database, id)));
    // Nothing is kept of a visit before someone signs in.
    if (me === null) return { me, preferences: {}, token: newToken() };
    request.session.token ??= newToken();
    return { me, preferences: await preferencesOf(database, me.id), token: request.session.token };
  });

  serve(serving, "POST /api/session", async ({ database, body, request }): Promise<SessionView> => {
    const me = await tryPassword(database, request, body.login, body.password);
    if (me === null) throw new Failure("signInFailed");
    await renew(request);
    request.session.accountId = me.id;
    request.session.token = newToken();
    return { me, preferences: await preferencesOf(database, me.id), token: request.session.token };
  });

  serve(serving, "DELETE /api/session", async ({ request }) => {
    await renew(request);
    return { ok: true as const };
  });

  serve(serving, "PUT /api/session/password", async ({ database, me, body, request }) => {
    if ((await tryPassword(database, request, me.login, body.current)) === null)
      throw new Failure("invalid", "The current password is not right.");
    const passwordHash = await hashPassword(body.next);
    await inTransaction(database, async (manager) => {
      await manager.getRepository(AccountEntity).update({ id: me.id }, { passwordHash });
      await noteHouse(manager, me, { about: "settings", subject: me.name }, null, NEW_PASSWORD);
    });
    await endSessions(database, me.id);
    await renew(request);
    request.session.accountId = me.id;
    request.session.token = newToken();
    return { ok: true as const };
  });

  serve(serving, "PUT /api/session/time-zone", async ({ database, me, body }) => {
    if (body.timeZone !== null && !isTimeZone(body.timeZone))
      throw new Failure("invalid", `"${body.timeZone}" is no time zone; write one as Europe/Lisbon.`);
    await inTransaction(database, async (manager) => {
      const before = await manager.getRepository(AccountEntity).findOneByOrFail({ id: me.id });
      const zone = (words: string | null) => [{ field: "days begin and end in", words: words ?? "" }];
      await manager.getRepository(AccountEntity).update({ id: me.id }, { timeZone: body.timeZone });
      await noteHouse(manager, me, { about: "settings", subject: me.name }, zone(before.timeZone), zone(body.timeZone));
    });
    return { ok: true as const };
  });

  serve(serving, "GET /api/accounts", async ({ database }): Promise<Accounts> => {
    const rows = (await database.query(
      "select row_key as id, min(json_value(doc, '$.name')) as name from plan_row where table_name = 'people' group by row_key order by name",
    )) as { id: string; name: string }[];
    const groups = await database.getRepository(ProgrammeEntity).find({ order: { position: "ASC", name: "ASC" } });
    return {
      accounts: await listAccounts(database),
      groups: groups.map(({ id, name, parentId }) => ({ id, name, parent: parentId })),
      people: rows.map(({ id, name }) => ({ id, name })),
    };
  });

  serve(serving, "GET /api/house-history", ({ database, request: { query } }) =>
    houseHistory(database, { about: String(query["about"] ?? ""), before: String(query["before"] ?? "") }),
  );

  serve(serving, "POST /api/accounts", async ({ database, me, body }) => {
    if (await database.getRepository(AccountEntity).existsBy({ login: body.login }))
      throw new Failure("conflict", `Someone signs in as "${body.login}" already; use another name.`);
    const { login, name, roles, only, person } = body;
    const passwordHash = await hashPassword(body.password);
    return inTransaction(database, async (manager) => {
      const added = await addAccount(manager, { login, name, roles, only, personId: person, passwordHash });
      const fields = accountFields({ login, name, roles, only, person }, await groupNames(manager));
      await noteHouse(manager, me, { about: "account", subject: name }, null, fields);
      return added;
    });
  });

  serve(serving, "PUT /api/accounts/:account", ({ database, me, params, body }) =>
    inTransaction(database, async (manager) => {
      const id = params["account"]!;
      const before = (await manager.getRepository(AccountEntity).findOneBy({ id })) as AccountEntity | null;
      const after = await editAccount(manager, id, body);
      const groups = await groupNames(manager);
      const was =
        before === null ? null : accountFields({ ...before, only: before.only ?? {}, person: before.personId }, groups);
      const password = body.password === undefined ? [] : NEW_PASSWORD;
      const is = [...accountFields(after, groups), ...password];
      await noteHouse(manager, me, { about: "account", subject: after.name }, was, is);
      return after;
    }),
  );
}
