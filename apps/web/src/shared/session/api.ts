import {
  PROGRESS_TYPE,
  type BodyOf,
  type EndpointKey,
  type ErrorBody,
  type ResponseOf,
  type SessionView,
} from "@chronometra/contract";
import { fitTexts } from "@chronometra/core";

/** A call that failed: what the server said, in its own words. */
export class CallFailed extends Error {
  constructor(
    readonly status: number,
    readonly body: ErrorBody,
  ) {
    super(body.message);
    this.name = "CallFailed";
  }
}

/** The token of the session, which every changing call carries. */
let token = "";
export const keepToken = (session: SessionView): SessionView => {
  token = session.token;
  return session;
};

interface Options<K extends EndpointKey> {
  readonly params?: Record<string, string>;
  readonly body?: BodyOf<K>;
  /** What narrows the answer; empty values are left out. */
  readonly query?: Record<string, string>;
  /** Files, sent as multipart under the name `file`. */
  readonly files?: readonly File[];
  readonly signal?: AbortSignal;
  /** What kind of answer is wanted, where there are several. */
  readonly accept?: string;
  /** Sent even though the page closes. */
  readonly outlivesPage?: boolean;
}

/** The address of a call, its parameters put in. */
export const addressOf = (key: EndpointKey, params: Record<string, string> = {}): string =>
  key.replace(/^\w+ /, "").replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(params[name] ?? ""));

function bodyOf<K extends EndpointKey>({
  body,
  files,
}: Options<K>): { body?: BodyInit; headers: Record<string, string> } {
  if (files !== undefined) {
    const form = new FormData();
    for (const file of files) form.append("file", file);
    return { body: form, headers: {} };
  }
  return body === undefined
    ? { headers: {} }
    : { body: JSON.stringify(fitTexts(body)), headers: { "content-type": "application/json" } };
}

async function failureOf(response: Response): Promise<CallFailed> {
  const text = await response.text();
  try {
    return new CallFailed(response.status, JSON.parse(text) as ErrorBody);
  } catch {
    return new CallFailed(response.status, {
      code: "internal",
      message: `The server answered ${response.status}. Nothing was stored; try again.`,
    });
  }
}

async function send<K extends EndpointKey>(key: K, options: Options<K>): Promise<Response> {
  const { body, headers } = bodyOf(options);
  try {
    const narrowed = new URLSearchParams(
      Object.entries(options.query ?? {}).filter(([, value]) => value !== ""),
    ).toString();
    return await fetch(`${addressOf(key, options.params)}${narrowed === "" ? "" : `?${narrowed}`}`, {
      method: key.slice(0, key.indexOf(" ")),
      headers: {
        ...headers,
        "x-chronometra-token": token,
        ...(options.accept === undefined ? {} : { accept: options.accept }),
      },
      ...(body === undefined ? {} : { body }),
      ...(options.signal === undefined ? {} : { signal: options.signal }),
      ...(options.outlivesPage === true ? { keepalive: true } : {}),
    });
  } catch (error) {
    if (options.signal?.aborted === true) throw error;
    throw new CallFailed(0, {
      code: "internal",
      message: "The server cannot be reached. Nothing was stored; check the connection and try again.",
    });
  }
}

const BUSY_TRIES = 4;
const BUSY_MILLISECONDS = 700;

/** Sends a call, again after a while where someone else was writing the same: nothing was stored then. */
async function sendUnlessBusy<K extends EndpointKey>(key: K, options: Options<K>): Promise<Response> {
  for (let tries = 1; ; tries++) {
    const response = await send(key, options);
    if (response.status !== 503 || tries === BUSY_TRIES || (await failureOf(response.clone())).body.code !== "busy")
      return response;
    await new Promise((resolve) => setTimeout(resolve, BUSY_MILLISECONDS * tries * (0.5 + Math.random())));
  }
}

/**
 * The response to a call. A session that began anew meanwhile, as after signing out in another window, has another
 * token: that is fetched and the call made once more.
 */
async function answerTo<K extends EndpointKey>(key: K, options: Options<K>): Promise<Response> {
  const response = await sendUnlessBusy(key, options);
  if (response.ok) return response;
  const failure = await failureOf(response);
  if (failure.body.code !== "tokenMissing") throw failure;
  keepToken((await (await send("GET /api/session", {})).json()) as SessionView);
  const again = await sendUnlessBusy(key, options);
  if (!again.ok) throw await failureOf(again);
  return again;
}

/**
 * Makes one call of the HTTP interface.
 * @throws {CallFailed} with the server's words, or that it cannot be reached
 */
export const call = async <K extends EndpointKey>(key: K, options: Options<K> = {}): Promise<ResponseOf<K>> =>
  (await (await answerTo(key, options)).json()) as ResponseOf<K>;

type Line<T> =
  | { readonly share: number }
  | { readonly result: T }
  | { readonly failure: { readonly status: number; readonly body: ErrorBody } };

/** As `call`, for what takes a while: told the share that is done, 0 to 1, as it goes on. */
export async function callWithProgress<K extends EndpointKey>(
  key: K,
  options: Options<K>,
  onShare: (share: number) => void,
): Promise<ResponseOf<K>> {
  const response = await answerTo(key, { ...options, accept: PROGRESS_TYPE });
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    const lines = (rest + part.value).split("\n");
    rest = lines.pop()!;
    for (const text of lines) {
      const line = JSON.parse(text) as Line<ResponseOf<K>>;
      if ("result" in line) return line.result;
      if ("failure" in line) throw new CallFailed(line.failure.status, line.failure.body);
      onShare(line.share);
    }
  }
  throw new CallFailed(0, { code: "internal", message: "The server stopped before it was done; try again." });
}

/**
 * A call by its address, whatever it answers: for those who try out what there is.
 * @param bearer the token of another system, as which it is made
 */
export const bareCall = (
  method: string,
  address: string,
  { body, bearer }: { readonly body?: string; readonly bearer?: string } = {},
): Promise<Response> =>
  fetch(address, {
    method,
    headers: {
      "x-chronometra-token": token,
      ...(body === undefined ? {} : { "content-type": "application/json" }),
      ...(bearer === undefined ? {} : { authorization: `Bearer ${bearer}` }),
    },
    ...(body === undefined ? {} : { body }),
  });

/** As `call`, for what comes as a file. */
export const callForBytes = async <K extends EndpointKey>(key: K, options: Options<K> = {}): Promise<Uint8Array> =>
  new Uint8Array(await (await answerTo(key, options)).arrayBuffer());
