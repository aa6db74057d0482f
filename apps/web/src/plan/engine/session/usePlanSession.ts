import type { PlanView } from "@chronometra/contract";
import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect, useState, useSyncExternalStore } from "react";
import { call, CallFailed } from "../../../shared/session/api.ts";
import { sessionQuery, signedInAs, useMe } from "../../../shared/session/session.ts";
import { browserKeeper, forgetUndoOfOthers } from "./browserKeeper.ts";
import type { PlanEngine } from "../planEngine.ts";
import type { PlanSession } from "./planSession.ts";
import type { SessionState } from "./sessionState.ts";
import { livePlan, type Store } from "./store.ts";

/** A plan to work on: where it comes from, where changes go, and what rests on it elsewhere on the page. */
interface Opening {
  readonly fetch: () => Promise<PlanView>;
  readonly store: Store;
  readonly restsOn: readonly (readonly string[])[];
}

const openingOf = (project: string, whatIf: string | null): Opening =>
  whatIf === null
    ? {
        fetch: () => call("GET /api/projects/:project/plan", { params: { project } }),
        store: livePlan(project),
        restsOn: [["project", project], ["period"]],
      }
    : {
        fetch: async () => {
          const { plan, fault } = await call("GET /api/whatifs/:whatif", { params: { whatif: whatIf } });
          if (plan === null)
            throw new Error(`It does not fit the live plan any more: ${fault ?? ""}. Merge it to go on.`);
          return plan;
        },
        store: {
          change: (revision, changes, list) =>
            call("POST /api/whatifs/:whatif/changes", {
              params: { whatif: whatIf },
              body: { revision, changes: [...changes], list },
            }),
          undo: (revision, list) =>
            call("POST /api/whatifs/:whatif/undo", { params: { whatif: whatIf }, body: { revision, list } }),
          since: async (revision) => ({ revision, changes: [], by: [] }),
        },
        restsOn: [["whatIf", whatIf]],
      };

interface Opened {
  readonly session: PlanSession;
  readonly close: () => void;
}

/** Plans that are open in this page, or left while something was on its way, which goes on until that has arrived. */
const open = new Map<string, { pages: number; readonly opened: Promise<Opened> }>();
const unsent = new Map<string, number>();
const unsentListeners = new Set<() => void>();

/** How many lists of changes this page has not got to the server, over all plans. */
export const unsentLists = (): number => [...unsent.values()].reduce((sum, waiting) => sum + waiting, 0);
export function onUnsent(listener: () => void): () => void {
  unsentListeners.add(listener);
  return () => unsentListeners.delete(listener);
}

function noteUnsent(key: string, waiting: number): void {
  if ((unsent.get(key) ?? 0) === waiting) return;
  unsent.set(key, waiting);
  for (const listener of unsentListeners) listener();
}

/** Closes a plan that no page shows and of which nothing is on its way. */
function closeIfDone(key: string, { session, close }: Opened): void {
  const entry = open.get(key);
  if (entry === undefined || entry.pages > 0 || session.snapshot().saving > 0) return;
  open.delete(key);
  noteUnsent(key, 0);
  close();
}

/** Lets calls through only while the account is signed in whose work they carry. */
function ofAccount(account: string, { fetch, store }: Opening): Pick<Opening, "fetch" | "store"> {
  const own =
    <A extends unknown[], T>(work: (...args: A) => Promise<T>) =>
    (...args: A): Promise<T> =>
      signedInAs() === account
        ? work(...args)
        : Promise.reject(new CallFailed(401, { code: "signInNeeded", message: "Sign in again to send what waits." }));
  return { fetch: own(fetch), store: { change: own(store.change), undo: own(store.undo), since: own(store.since) } };
}

/** Sends at once what could not be sent while nobody was signed in. */
export function sendWhatWaits(): void {
  for (const { opened } of open.values()) void opened.then(({ session }) => session.tryNow());
}

/** Ends what others left open in this page; what waits of it stays in the browser until they are back. */
export function endOthers(account: string): void {
  for (const [key, { opened }] of open) {
    if (key.startsWith(`${account} `)) continue;
    open.delete(key);
    noteUnsent(key, 0);
    void opened.then(({ close }) => close());
  }
  forgetUndoOfOthers(account);
}

async function begin(
  key: string,
  account: string,
  project: string,
  whatIf: string | null,
  client: QueryClient,
): Promise<Opened> {
  const opening = openingOf(project, whatIf);
  const { restsOn } = opening;
  const { fetch, store } = ofAccount(account, opening);
  // Most pages show no plan: what works on one is fetched with the first.
  const [{ wrap }, { PlanSession: Session }] = await Promise.all([import("comlink"), import("./planSession.ts")]);
  const { keeper, release } = await browserKeeper(account, whatIf === null ? project : `${project}~${whatIf}`);
  const worker = new Worker(new URL("../engine.worker.ts", import.meta.url), { type: "module" });
  const session = new Session({
    store,
    engine: wrap<PlanEngine>(worker),
    fetchPlan: fetch,
    keeper,
    onStored: () => restsOn.forEach((queryKey) => void client.invalidateQueries({ queryKey: [...queryKey] })),
    onSignedOut: () => void client.invalidateQueries({ queryKey: sessionQuery.queryKey }),
  });
  const close = (): void => {
    removeEventListener("online", session.tryNow);
    session.end();
    worker.terminate();
    release();
  };
  const opened: Opened = { session, close };
  addEventListener("online", session.tryNow);
  session.subscribe(() => {
    noteUnsent(key, session.snapshot().waiting);
    // Not at once: whoever is told of the same may still show it.
    if (session.snapshot().saving === 0) setTimeout(() => closeIfDone(key, opened), 0);
  });
  void session.open();
  return opened;
}

const nothing = (): (() => void) => () => undefined;

/**
 * The session on a project's plan, or on a what-if beside it, in a worker of its own. When the page is left it is
 * closed as soon as the server has all that was done in it.
 * @returns `null` until it is there
 */
export function usePlanSession(
  project: string,
  whatIf: string | null = null,
): { session: PlanSession; state: SessionState } | null {
  const client = useQueryClient();
  const { id: account } = useMe();
  const [session, setSession] = useState<PlanSession | null>(null);
  useEffect(() => {
    const key = `${account} ${whatIf ?? project}`;
    const entry = open.get(key) ?? { pages: 0, opened: begin(key, account, project, whatIf, client) };
    open.set(key, entry);
    entry.pages++;
    let left = false;
    void entry.opened.then((opened) => !left && setSession(opened.session));
    return () => {
      left = true;
      entry.pages--;
      setSession(null);
      void entry.opened.then((opened) => closeIfDone(key, opened));
    };
  }, [project, whatIf, client, account]);
  const state = useSyncExternalStore(session?.subscribe ?? nothing, session === null ? () => null : session.snapshot);
  return session === null || state === null ? null : { session, state };
}
