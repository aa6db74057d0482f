import type { BodyOf, DraftAspect } from "@chronometra/contract";
import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { call, CallFailed } from "../../shared/session/api.ts";
import { reportDraftQuery } from "../queries.ts";

type Written = Omit<BodyOf<"PUT /api/status-reports/:of/said/:aspect">, "version">;

/** Whether somebody else wrote meanwhile. */
export const isConflict = (error: unknown): boolean => error instanceof CallFailed && error.status === 409;

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
  const { current: queue } = useRef({ next: null as Written | null, isRunning: false, version: said.version });
  useEffect(() => {
    queue.version = Math.max(queue.version, said.version);
    // What was written is shown until the page is told that it is stored: nothing flickers under whoever types on.
    if (queue.next === null && said.version === queue.version) setWaiting(null);
  }, [said.version, queue]);
  const run = async (): Promise<void> => {
    queue.isRunning = true;
    setFault(null);
    setSaving(true);
    const params = { of, aspect: said.aspect };
    try {
      for (let written = queue.next; written !== null; written = queue.next) {
        await call("PUT /api/status-reports/:of/said/:aspect", {
          params,
          body: { ...written, version: queue.version },
          outlivesPage: true,
        });
        queue.version++;
        if (queue.next === written) queue.next = null;
        note(client, of, { ...said, ...written, version: queue.version });
      }
      void client.invalidateQueries({ queryKey: ["statusReport", of] });
    } catch (error) {
      setFault(error);
      // What somebody else wrote is shown beside, and is not written over before it was seen.
      if (isConflict(error)) await client.refetchQueries({ queryKey: reportDraftQuery(of).queryKey });
    } finally {
      queue.isRunning = false;
      setSaving(false);
    }
  };
  const stored = { rating: said.rating, reason: said.reason, text: said.text };
  const put = (change: Partial<Written>): void => {
    const now = { ...(queue.next ?? stored), ...change };
    if (JSON.stringify(now) === JSON.stringify(stored) && queue.next === null) return;
    queue.next = now;
    setWaiting(now);
    if (!queue.isRunning) void run();
  };
  const drop = (): void => {
    queue.next = null;
    setWaiting(null);
    setFault(null);
  };
  return { shown: waiting ?? stored, isSaving, fault, put, drop };
}
