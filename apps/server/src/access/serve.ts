import { endpoints, type BodyOf, type EndpointKey, type Me, type ResponseOf, type Role } from "@chronometra/contract";
import { valueAt, wordsOf, type Problem } from "@chronometra/core";
import express, { type Request, type Response, type Router } from "express";
import type { DataSource } from "typeorm";
import type { z } from "zod";
import { Failure } from "../shared/failure.ts";
import { findUnfit } from "../shared/fitTexts.ts";
import { JsonText } from "../shared/http.ts";
import { ACCESS, refusalWords, type ForRoles } from "./accessTable.ts";
import { findSeen, holdsEverywhere, holdsFor } from "../project/reach.ts";
import { findAccount } from "./accounts.ts";
import { admitSystem, type OtherSystem } from "./tokens.ts";

/** What a handler is given: who calls, what they sent, and what to work with. */
export interface Call<K extends EndpointKey> {
  readonly database: DataSource;
  /** Who is signed in; handlers open to anyone must not touch it. */
  readonly me: Me;
  /** The system that sends; only calls that are open to a token may touch it. */
  readonly system: OtherSystem;
  readonly params: Record<string, string>;
  readonly body: BodyOf<K>;
  readonly request: Request;
  readonly response: Response;
}

type Handler<K extends EndpointKey> = (call: Call<K>) => Promise<ResponseOf<K> | JsonText> | ResponseOf<K> | JsonText;

export interface Serving {
  readonly router: Router;
  readonly database: DataSource;
  /** What was registered, for the test that walks over all of it. */
  readonly served: Set<EndpointKey>;
}

const SAFE_METHODS = new Set(["GET", "HEAD"]);

/** Every changing call carries the token of its session in this header. */
export const TOKEN_HEADER = "x-chronometra-token";
/** The cookie that says whose session it is. */
export const SESSION_COOKIE = "chronometra";

/** Refuses whoever does not hold what a call asks for; of a project that they do not see, as if it were not there. */
async function assertHolds(database: DataSource, me: Me, access: ForRoles, project: unknown): Promise<void> {
  const roles = "house" in access ? access.house : access;
  const holds = "house" in access ? holdsEverywhere : (_me: Me, role: Role) => me.roles.includes(role);
  if (!roles.some((role) => holds(me, role))) throw new Failure("notAllowed", refusalWords(roles));
  if (me.within === undefined || typeof project !== "string") return;
  if (!holdsFor(me, roles, await findSeen(database, me, project)))
    throw new Failure("notAllowed", `${refusalWords(roles)} Your role is for other groups.`);
}

/**
 * Refuses a changing call that another site may have had the browser make. Whoever is signed in shows the token of
 * their session; before that there is none, and any will do, since only our own pages can send the header at all
 * (OWASP, Cross-Site Request Forgery Prevention Cheat Sheet, "Custom Request Headers").
 */
function assertToken(request: Request, me: Me | null): void {
  const shown = request.get(TOKEN_HEADER) ?? "";
  if (me === null ? shown === "" : shown !== request.session.token) throw new Failure("tokenMissing");
}

async function admit(
  key: EndpointKey,
  request: Request,
  database: DataSource,
): Promise<{ me: Me | null; system: OtherSystem | null }> {
  const access = ACCESS[key];
  if (typeof access === "object" && "token" in access)
    return { me: null, system: await admitSystem(database, request.get("authorization"), access.token) };
  const id = request.session.accountId;
  const me = id === undefined ? null : (request.session.me ?? (await findAccount(database, id)));
  if (access !== "anyone") {
    if (me === null) throw new Failure("signInNeeded");
    if (access !== "signedIn") await assertHolds(database, me, access, request.params["project"]);
  }
  if (!SAFE_METHODS.has(request.method)) assertToken(request, me);
  return { me, system: null };
}

/** Whether a schema says itself what is wrong, in words for people. */
const isOwnWord = ({ message }: z.core.$ZodIssue): boolean =>
  !/^(Invalid|Too (small|big)|Unrecognized|Expected|Required)/.test(message);

function readBody<K extends EndpointKey>(key: K, body: unknown): BodyOf<K> {
  const schema = (endpoints[key] as { body?: z.ZodType }).body;
  if (schema === undefined) return undefined as BodyOf<K>;
  const unfit = findUnfit(body);
  if (unfit !== null) {
    const problem: Problem = { table: "bundle", row: "", field: unfit.path.join("."), message: unfit.why };
    throw new Failure("invalid", [problem.field, problem.message].filter(Boolean).join(" "), { problems: [problem] });
  }
  const parsed = schema.safeParse(body);
  if (parsed.success) return parsed.data as BodyOf<K>;
  const problems = parsed.error.issues.map((issue): Problem => ({
    table: "bundle",
    row: "",
    field: issue.path.join("."),
    message: isOwnWord(issue) ? issue.message : wordsOf(issue, valueAt(body, issue.path)),
  }));
  throw new Failure(
    "invalid",
    problems.map(({ field, message }) => (field === "" ? message : `${field}: ${message}`)).join("; "),
    { problems },
  );
}

const readJson = express.json({ limit: "20mb" });
const parseJson = (request: Request, response: Response): Promise<void> =>
  new Promise((resolve, reject) =>
    readJson(request, response, (error: unknown) => (error ? reject(error as Error) : resolve())),
  );

/** Serves one call of the contract: admits, parses, calls the handler, presents what it gives. */
export function serve<K extends EndpointKey>(serving: Serving, key: K, handler: Handler<K>): void {
  const [method, path] = key.split(" ") as ["GET" | "POST" | "PUT" | "DELETE", string];
  serving.served.add(key);
  const hasBody = "body" in endpoints[key];
  serving.router[method.toLowerCase() as "get"](path, async (request: Request, response: Response) => {
    const { me, system } = await admit(key, request, serving.database);
    // Only of those who may call is anything read.
    if (hasBody) await parseJson(request, response);
    const result = await handler({
      database: serving.database,
      me: me as Me,
      system: system as OtherSystem,
      params: request.params as Record<string, string>,
      body: readBody(key, request.body),
      request,
      response,
    });
    if (response.headersSent) return;
    if (result instanceof JsonText) response.type("json").end(result.text);
    else response.json(result);
  });
}
