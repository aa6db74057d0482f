import type { BodyOf, DraftAspect } from "@chronometra/contract";
import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { call } from "../../shared/session/api.ts";
import { reportDraftQuery } from "../queries.ts";

type Written = Omit<BodyOf<"PUT /api/status-reports/:of/said/:aspect">, "version">;

/** Notes what was stored on one side, until the page is told anew. */
const note = (client: QueryClient, of: string, stored: DraftAspect): void =>
  void client.setQueryData(reportDraftQuery(of).queryKey, (draft) =>
    draft === undefined
      ? draft
      : { ...draft, aspects: draft.aspects.map((each) => (each.aspect === stored.aspect ? stored : each)) },
  );

/**
 * What is said on one side of a report, stored as soon as it is written: one after the other, so that whoever writes
 * and rates in one go does not stand in their own way. What could not be stored stays, and goes with what is written
 * next.
 */
export function useSaid(of: string, said: DraftAspect) {
  const client = useQueryClient();
  const [waiting, setWaiting] = useState<Written | null>(null);
  const [fault, setFault] = useState<unknown>(null);
  const [isSaving, setSaving] = useState(false);
  const next = useRef<Written | null>(null);
  const isRunning = useRef(false);
  const version = useRef(said.version);
  useEffect(() => {
    version.current = Math.max(version.current, said.version);
    // What was written is shown until the page is told that it is stored: nothing flickers under whoever types on.
    if (next.current === null && said.version === version.current) setWaiting(null);
  }, [said.version]);
  const run = async (): Promise<void> => {
    isRunning.current = true;
    setFault(null);
    setSaving(true);
    const params = { of, aspect: said.aspect };
    try {
      for (let written = next.current; written !== null; written = next.current) {
        await call("PUT /api/status-reports/:of/said/:aspect", {
          params,
          body: { ...written, version: version.current },
        });
        version.current++;
        if (next.current === written) next.current = null;
        note(client, of, { ...said, ...written, version: version.current });
      }
      void client.invalidateQueries({ queryKey: ["statusReport", of] });
    } catch (error) {
      setFault(error);
    } finally {
      isRunning.current = false;
      setSaving(false);
    }
  };
  const stored = { rating: said.rating, reason: said.reason, text: said.text };
  const put = (change: Partial<Written>): void => {
    const now = { ...(next.current ?? stored), ...change };
    if (JSON.stringify(now) === JSON.stringify(stored) && next.current === null) return;
    next.current = now;
    setWaiting(now);
    if (!isRunning.current) void run();
  };
  return { shown: waiting ?? stored, isSaving, fault, put };
}
