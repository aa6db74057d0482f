import type { BodyOf, EndpointKey, ErrorBody, ResponseOf, SessionView } from "@chronometra/contract";

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
  /** Files, sent as multipart under the name `file`. */
  readonly files?: readonly File[];
  readonly signal?: AbortSignal;
}

/** The address of a call, its parameters put in. */
export const addressOf = (key: EndpointKey, params: Record<string, string> = {}): string =>
  key.replace(/^\w+ /, "").replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(params[name] ?? ""));

function bodyOf<K extends EndpointKey>({ body, files }: Options<K>): { body?: BodyInit; headers: Record<string, string> } {
  if (files !== undefined) {
    const form = new FormData();
    for (const file of files) form.append("file", file);
    return { body: form, headers: {} };
  }
  return body === undefined ? { headers: {} } : { body: JSON.stringify(body), headers: { "content-type": "application/json" } };
}

async function failureOf(response: Response): Promise<CallFailed> {
  const text = await response.text();
  try {
    return new CallFailed(response.status, JSON.parse(text) as ErrorBody);
  } catch {
    return new CallFailed(response.status, { code: "internal", message: `The server answered ${response.status}. Nothing was stored; try again.` });
  }
}

/**
 * Makes one call of the HTTP interface.
 * @throws {CallFailed} with the server's words, or that it cannot be reached
 */
export async function call<K extends EndpointKey>(key: K, options: Options<K> = {}): Promise<ResponseOf<K>> {
  const { body, headers } = bodyOf(options);
  let response: Response;
  try {
    response = await fetch(addressOf(key, options.params), {
      method: key.slice(0, key.indexOf(" ")),
      headers: { ...headers, "x-chronometra-token": token },
      ...(body === undefined ? {} : { body }),
      ...(options.signal === undefined ? {} : { signal: options.signal }),
    });
  } catch (error) {
    if (options.signal?.aborted === true) throw error;
    throw new CallFailed(0, { code: "internal", message: "The server cannot be reached. Nothing was stored; check the connection and try again." });
  }
  if (!response.ok) throw await failureOf(response);
  return (await response.json()) as ResponseOf<K>;
}
