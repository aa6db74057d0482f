import { randomBytes } from "node:crypto";
import type { Accounts, Me, SessionView } from "@chronometra/contract";
import type { Request } from "express";
import type { DataSource } from "typeorm";
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

export function accessRoutes(serving: Serving): void {
  serve(serving, "GET /api/session", async ({ database, request }): Promise<SessionView> => {
    request.session.token ??= newToken();
    const id = request.session.accountId;
    const me = id === undefined ? null : (request.session.me ?? (await findAccount(database, id)));
    return { me, preferences: me === null ? {} : await preferencesOf(database, me.id), token: request.session.token };
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
    await database.getRepository(AccountEntity).update({ id: me.id }, { passwordHash });
    await endSessions(database, me.id);
    await renew(request);
    request.session.accountId = me.id;
    request.session.token = newToken();
    return { ok: true as const };
  });

  serve(serving, "PUT /api/session/time-zone", async ({ database, me, body }) => {
    if (body.timeZone !== null && !isTimeZone(body.timeZone))
      throw new Failure("invalid", `"${body.timeZone}" is no time zone; write one as Europe/Lisbon.`);
    await database.getRepository(AccountEntity).update({ id: me.id }, { timeZone: body.timeZone });
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

  serve(serving, "POST /api/accounts", async ({ database, body }) => {
    if (await database.getRepository(AccountEntity).existsBy({ login: body.login }))
      throw new Failure("conflict", `Someone signs in as "${body.login}" already; use another name.`);
    const { login, name, roles, only, person } = body;
    return addAccount(database, {
      login,
      name,
      roles,
      only,
      personId: person,
      passwordHash: await hashPassword(body.password),
    });
  });

  serve(serving, "PUT /api/accounts/:account", ({ database, params, body }) =>
    inTransaction(database, (manager) => editAccount(manager, params["account"]!, body)),
  );
}
