import { endpoints, type BodyOf, type EndpointKey, type Me, type ResponseOf } from "@chronometra/contract";
import { PlanProblems, valueAt, wordsOf, type Problem } from "@chronometra/core";
import type {} from "pino-http";
import express, { type NextFunction, type Request, type Response, type Router } from "express";
import type { DataSource } from "typeorm";
import type { z } from "zod";
import { ACCESS, refusalWords } from "../access/accessTable.ts";
import { findAccount } from "../access/accounts.ts";
import { admitSystem, type ApiTokenEntity } from "../access/tokens.ts";
import type { Post } from "../tell/post.ts";
import type { PlanNewsDesk } from "../plan/planNews.ts";
import { Failure } from "./failure.ts";

/** What a handler is given: who calls, what they sent, and what to work with. */
export interface Call<K extends EndpointKey> {
  readonly database: DataSource;
  /** Who is signed in; handlers open to anyone must not touch it. */
  readonly me: Me;
  /** The system that sends; only calls that are open to a token may touch it. */
  readonly system: ApiTokenEntity;
  readonly params: Record<string, string>;
  readonly body: BodyOf<K>;
  readonly request: Request;
  readonly response: Response;
}

/** A response that is JSON already, as text or as the bytes of it. */
export class JsonText {
  constructor(readonly text: string | Buffer) {}
}

type Handler<K extends EndpointKey> = (call: Call<K>) => Promise<ResponseOf<K> | JsonText> | ResponseOf<K> | JsonText;

export interface Serving {
  readonly router: Router;
  readonly database: DataSource;
  /** Tells open pages what happens to their plans. */
  readonly news: PlanNewsDesk;
  /** Takes mail to those it is for. */
  readonly post: Post;
  /** What was registered, for the test that walks over all of it. */
  readonly served: Set<EndpointKey>;
}

const SAFE_METHODS = new Set(["GET", "HEAD"]);

/** Every changing call carries the token of its session in this header. */
export const TOKEN_HEADER = "x-chronometra-token";

async function admit(
  key: EndpointKey,
  request: Request,
  database: DataSource,
): Promise<{ me: Me | null; system: ApiTokenEntity | null }> {
  const access = ACCESS[key];
  if (access === "token") return { me: null, system: await admitSystem(database, request.get("authorization")) };
  const id = request.session.accountId;
  const me = id === undefined ? null : (request.session.me ?? (await findAccount(database, id)));
  if (access !== "anyone") {
    if (me === null) throw new Failure("signInNeeded");
    if (access !== "signedIn" && !access.some((role) => me.roles.includes(role)))
      throw new Failure("notAllowed", refusalWords(access));
  }
  if (!SAFE_METHODS.has(request.method)) {
    const token = request.session.token;
    if (token === undefined || request.get(TOKEN_HEADER) !== token) throw new Failure("tokenMissing");
  }
  return { me, system: null };
}

/** Whether a schema says itself what is wrong, in words for people. */
const isOwnWord = ({ message }: z.core.$ZodIssue): boolean =>
  !/^(Invalid|Too (small|big)|Unrecognized|Expected|Required)/.test(message);

function readBody<K extends EndpointKey>(key: K, body: unknown): BodyOf<K> {
  const schema = (endpoints[key] as { body?: z.ZodType }).body;
  if (schema === undefined) return undefined as BodyOf<K>;
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

/** What the log says of a call: never its headers, nor what is secret in its address. */
export const loggedCall = ({ id, method, url }: { id?: unknown; method?: string; url?: string }): object => ({
  id,
  method,
  url: (url ?? "").replace(/\?.*$/s, "?...").replace(/(\/feeds\/calendar\/).*/, "$1..."),
});

/** Tells callers of a path that is served by another method which ones there are; of any other, that there is nothing. */
export function otherMethods(served: ReadonlySet<EndpointKey>): (request: Request, response: Response) => void {
  const paths = [...served].map((key) => {
    const [method, path] = key.split(" ") as [string, string];
    return { method, pattern: new RegExp(`^${path.replace(/[.]/g, "\\.").replace(/:\w+/g, "[^/]+")}$`) };
  });
  return (request, response) => {
    const methods = paths
      .filter(({ pattern }) => pattern.test(request.baseUrl + request.path))
      .map(({ method }) => method);
    if (methods.length === 0) throw new Failure("notFound");
    response.setHeader("Allow", [...new Set(methods)].join(", "));
    throw new Failure("wrongMethod");
  };
}

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
      system: system as ApiTokenEntity,
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

/** What a driver says when the database went away or does not answer. */
const LINE_LOST = new Set([
  "ECONNREFUSED",
  "ECONNRESET",
  "EPIPE",
  "ETIMEDOUT",
  "PROTOCOL_CONNECTION_LOST",
  "PROTOCOL_ENQUEUE_AFTER_FATAL_ERROR",
  "ER_SERVER_SHUTDOWN",
]);

/** What the reader of uploads says of a body that is broken. */
const isMultipartError = (error: unknown): boolean =>
  error instanceof Error &&
  /^(Multipart: |Malformed part header|Unexpected end of form|Unsupported content type|Missing Content-Type)/.test(
    error.message,
  );

/** What an error says to whoever called. */
export function asFailure(error: unknown): Failure {
  if (error instanceof Failure) return error;
  if (error instanceof PlanProblems) {
    const words = error.problems
      .slice(0, 3)
      .map(
        ({ row, field, message, said }) =>
          said ?? [row, field].filter(Boolean).join(" ") + (row || field ? ": " : "") + message,
      );
    return new Failure("invalid", words.join("; "), { problems: error.problems });
  }
  const { type, code } = error as { type?: string; code?: string };
  if (type === "entity.too.large" || code === "LIMIT_FILE_SIZE") return new Failure("tooLarge");
  if (code?.startsWith("LIMIT_") === true)
    return new Failure("invalid", "The upload has more files or fields than can be taken.");
  if (code !== undefined && LINE_LOST.has(code)) return new Failure("unavailable");
  if (type === "charset.unsupported" || type === "encoding.unsupported")
    return new Failure("invalid", "Send JSON in UTF-8, uncompressed or as gzip, deflate or br.");
  if (isMultipartError(error))
    return new Failure(
      "invalid",
      "The upload is cut off or not put together as multipart/form-data; send the file again.",
    );
  const { status } = error as { status?: unknown };
  if (type !== "entity.parse.failed" && typeof status === "number" && status >= 400 && status < 500)
    return new Failure("invalid", "The call cannot be read: its address, its headers or what came with it are broken.");
  if (type === "entity.parse.failed") return new Failure("invalid", "What was sent is not JSON.");
  return new Failure("internal");
}

/** The last stop of every failed call: tells the caller, and logs what nobody expected. */
export function tellFailure(error: unknown, request: Request, response: Response, next: NextFunction): void {
  const failure = asFailure(error);
  if (failure.code === "internal") request.log?.error(error);
  if (failure.retryAfterSeconds !== null && !response.headersSent)
    response.setHeader("Retry-After", failure.retryAfterSeconds);
  if (response.headersSent) next(error);
  else response.status(failure.status).json(failure.body);
}
