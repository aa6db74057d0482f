import type { EndpointKey, ErrorBody } from "@chronometra/contract";
import { PlanProblems } from "@chronometra/core";
import type {} from "pino-http";
import type { NextFunction, Request, Response } from "express";
import { Failure } from "./failure.ts";

/** A response that is JSON already, as text or as the bytes of it. */
export class JsonText {
  constructor(readonly text: string | Buffer) {}
}

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

/**
 * What whoever called is told of an error. One that nobody expected is logged, and told by the name that it has there;
 * work that was ended because its caller left has not failed.
 */
export function answerTo(error: unknown, response: Response): { readonly failure: Failure; readonly body: ErrorBody } {
  const failure = asFailure(error);
  const { body } = failure;
  if (failure.code !== "internal") return { failure, body };
  const { id, log } = response.req;
  const isEnded = response.destroyed && (error as { name?: unknown }).name === "AbortError";
  if (!isEnded) log?.error(error);
  if (id === undefined) return { failure, body };
  return { failure, body: { ...body, message: `${body.message} The log of the server has it as ${id as string}.` } };
}

/** The last stop of every failed call: tells the caller. */
export function tellFailure(error: unknown, _request: Request, response: Response, next: NextFunction): void {
  const { failure, body } = answerTo(error, response);
  if (failure.retryAfterSeconds !== null && !response.headersSent)
    response.setHeader("Retry-After", failure.retryAfterSeconds);
  if (response.headersSent) next(error);
  else response.status(failure.status).json(body);
}
