import { useQueryClient } from "@tanstack/react-query";
import { wrap } from "comlink";
import { useEffect, useState, useSyncExternalStore } from "react";
import { call } from "../shared/api.ts";
import type { PlanEngine } from "./planEngine.ts";
import { PlanSession, type SessionState } from "./planSession.ts";

/** Opens a plan in a worker of its own and works on it. */
function openSession(project: string, onStored: () => void): { session: PlanSession; close: () => void } {
  const worker = new Worker(new URL("./engine.worker.ts", import.meta.url), { type: "module" });
  const engine = wrap<PlanEngine>(worker);
  const session = new PlanSession(project, engine, () => call("GET /api/projects/:project/plan", { params: { project } }), onStored);
  return { session, close: () => worker.terminate() };
}

const nothing = (): (() => void) => () => undefined;

/** The session on a project's plan, closed when the page is left; `null` until it is there. */
export function usePlanSession(project: string): { session: PlanSession; state: SessionState } | null {
  const client = useQueryClient();
  const [session, setSession] = useState<PlanSession | null>(null);
  useEffect(() => {
    // Figures elsewhere on the page rest on the plan; the plan itself is held here.
    const opened = openSession(project, () => void client.invalidateQueries({ queryKey: ["project", project] }));
    setSession(opened.session);
    void opened.session.open();
    return opened.close;
  }, [project, client]);
  const state = useSyncExternalStore(session?.subscribe ?? nothing, session === null ? () => null : session.snapshot);
  return session === null || state === null ? null : { session, state };
}
