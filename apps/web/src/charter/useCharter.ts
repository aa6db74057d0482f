import type { CharterView, WriteCharter } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import { queryOptions, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { projectQuery } from "../project/queries.ts";
import { undoToast } from "../shared/dialogs/undoToast.ts";
import { call, CallFailed } from "../shared/session/api.ts";
import { takenBack } from "../shared/session/takenBack.ts";

/** A project as such. */
export const charterQuery = (project: string) =>
  queryOptions({
    queryKey: ["charter", project],
    queryFn: () => call("GET /api/projects/:project/charter", { params: { project } }),
  });

/**
 * What stood where someone writes when they began to: another's word that came in meanwhile is told first, and only
 * then written over.
 */
export function useSeen<T>(now: T) {
  const seen = useRef<{ readonly value: T } | null>(null);
  return {
    begin: () => void (seen.current ??= { value: now }),
    was: (): T => (seen.current === null ? now : seen.current.value),
    /** It is stored, given up, or was told of. */
    end: () => void (seen.current = null),
  };
}

/** Writes into a project's charter and head; each gives why it cannot be, or nothing. */
export function useCharter({ id, revision }: Pick<CharterView, "id" | "revision">) {
  const client = useQueryClient();
  const { queryKey } = charterQuery(id);
  const put = async (written: WriteCharter): Promise<void> => {
    const view = await call("PUT /api/projects/:project/charter", { params: { project: id }, body: written });
    client.setQueryData(queryKey, view);
    // What stands around every page of the project, and what its states are called.
    void client.invalidateQueries({ queryKey: projectQuery(id).queryKey });
  };
  const fault = (error: unknown): string => {
    // Someone else's word is shown beside what was typed.
    if (error instanceof CallFailed && error.status === 409) void client.invalidateQueries({ queryKey });
    return error instanceof Error ? error.message : String(error);
  };
  const write = async (written: WriteCharter, words: string): Promise<string | null> => {
    try {
      await put(written);
    } catch (error) {
      return fault(error);
    }
    undoToast(client, { revisions: [], words, also: () => put(takenBack(written)) });
    return null;
  };
  const setProject = async (
    set: Extract<Change, { type: "setProject" }>["set"],
    words: string,
  ): Promise<string | null> => {
    try {
      const body = { revision, changes: [{ type: "setProject", set }] satisfies Change[] };
      const stored = await call("POST /api/projects/:project/changes", { params: { project: id }, body });
      void client.invalidateQueries();
      undoToast(client, { revisions: [{ project: id, revision: stored.revision }], words });
      return null;
    } catch (error) {
      return fault(error);
    }
  };
  return { write, setProject };
}

export type Charterer = ReturnType<typeof useCharter>;
