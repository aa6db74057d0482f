import type { PlanView } from "@chronometra/contract";
import { useQueryClient } from "@tanstack/react-query";
import { wrap } from "comlink";
import { useEffect, useState, useSyncExternalStore } from "react";
import { call } from "../../shared/api.ts";
import type { PlanEngine } from "./planEngine.ts";
import { livePlan, PlanSession, type SessionState, type Store } from "./planSession.ts";

/** A plan to work on: where it comes from, where changes go, and what rests on it elsewhere on the page. */
interface Opening {
  readonly fetch: () => Promise<PlanView>;
  readonly store: Store;
  readonly restsOn: readonly (readonly string[])[];
}

const openingOf = (project: string, whatIf: string | null): Opening =>
  whatIf === null
    ? { fetch: () => call("GET /api/projects/:project/plan", { params: { project } }), store: livePlan(project), restsOn: [["project", project], ["period"]] }
    : {
        fetch: async () => {
          const { plan, fault } = await call("GET /api/whatifs/:whatif", { params: { whatif: whatIf } });
          if (plan === null) throw new Error(`It does not fit the live plan any more: ${fault ?? ""}. Merge it to go on.`);
          return plan;
        },
        store: {
          change: (revision, changes) => call("POST /api/whatifs/:whatif/changes", { params: { whatif: whatIf }, body: { revision, changes: [...changes] } }),
          undo: (revision) => call("POST /api/whatifs/:whatif/undo", { params: { whatif: whatIf }, body: { revision } }),
          since: async () => ({ revision: 0, changes: [], by: [] }),
        },
        restsOn: [["whatIf", whatIf]],
      };

const nothing = (): (() => void) => () => undefined;

/**
 * The session on a project's plan, or on a what-if beside it, in a worker of its own; closed when the page is left.
 * @returns `null` until it is there
 */
export function usePlanSession(project: string, whatIf: string | null = null): { session: PlanSession; state: SessionState } | null {
  const client = useQueryClient();
  const [session, setSession] = useState<PlanSession | null>(null);
  useEffect(() => {
    const { fetch, store, restsOn } = openingOf(project, whatIf);
    const worker = new Worker(new URL("./engine.worker.ts", import.meta.url), { type: "module" });
    const opened = new PlanSession(store, wrap<PlanEngine>(worker), fetch, () => restsOn.forEach((queryKey) => void client.invalidateQueries({ queryKey: [...queryKey] })));
    setSession(opened);
    void opened.open();
    return () => worker.terminate();
  }, [project, whatIf, client]);
  const state = useSyncExternalStore(session?.subscribe ?? nothing, session === null ? () => null : session.snapshot);
  return session === null || state === null ? null : { session, state };
}
