import type { SessionView } from "@chronometra/contract";
import { call, keepToken } from "./api.ts";

let first: Promise<SessionView> | null = null;

/** Asks who is signed in, before there is a page. */
export const askFirst = (): Promise<SessionView> => (first = call("GET /api/session").then(keepToken));

/** Keeps the session of someone who has come in for the pages to come. */
export const keepFirst = (session: SessionView): void => void (first = Promise.resolve(session));

/** The session as it was asked for before there was a page, once; `null` afterwards. */
export function takeFirst(): Promise<SessionView> | null {
  const taken = first;
  first = null;
  return taken;
}
