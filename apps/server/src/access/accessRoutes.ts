import { randomBytes } from "node:crypto";
import type { SessionView } from "@chronometra/contract";
import type { Request } from "express";
import { Failure } from "../shared/failure.ts";
import { serve, type Serving } from "../shared/http.ts";
import { findAccount, findByPassword } from "./accounts.ts";
import "./sessionTypes.ts";

const newToken = (): string => randomBytes(24).toString("base64url");

/** A new session id after signing in or out, so that one set before cannot be ridden on. */
const renew = (request: Request): Promise<void> =>
  new Promise((resolve, reject) => request.session.regenerate((error: unknown) => (error ? reject(error as Error) : resolve())));

export function accessRoutes(serving: Serving): void {
  serve(serving, "GET /api/session", async ({ database, request }): Promise<SessionView> => {
    request.session.token ??= newToken();
    const id = request.session.accountId;
    return { me: id === undefined ? null : await findAccount(database, id), token: request.session.token };
  });

  serve(serving, "POST /api/session", async ({ database, body, request }): Promise<SessionView> => {
    const me = await findByPassword(database, body.login, body.password);
    if (me === null) throw new Failure("signInFailed");
    await renew(request);
    request.session.accountId = me.id;
    request.session.token = newToken();
    return { me, token: request.session.token };
  });

  serve(serving, "DELETE /api/session", async ({ request }) => {
    await renew(request);
    return { ok: true as const };
  });
}
