import { applyChanges, PlanProblems, type Change, type Plan } from "@chronometra/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { planValue } from "../plan/engine/planValue.ts";
import { planQuery } from "../resources/stored/queries.ts";
import { undoToast } from "../shared/dialogs/undoToast.ts";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";

/** Something done with timeboxes: what it changes of a plan, and what is told of it. */
export interface BoxAct {
  readonly words: string;
  readonly changesOf: (plan: Plan) => Change[];
}

/** A plan with what is on its way to the server; what does not fit any more is left to the server to judge. */
function withPending(plan: Plan, pending: readonly BoxAct[]): Plan {
  let at = plan;
  for (const { changesOf } of pending) {
    try {
      at = applyChanges(at, changesOf(at)).plan;
    } catch (error) {
      if (!(error instanceof PlanProblems)) throw error;
    }
  }
  return at;
}

/**
 * Does things with the timeboxes of a project, one after the other, each to the plan as it is by then: it shows at
 * once, and can be undone. What cannot be says why, and is as it was.
 * @param stored the plan as the server has it
 */
export function useBoxActs(
  project: string,
  stored: Plan,
): { readonly plan: Plan; readonly isSaving: boolean; readonly act: (act: BoxAct) => void } {
  const client = useQueryClient();
  const [pending, setPending] = useState<readonly BoxAct[]>([]);
  const { mutate } = useMutation({
    scope: { id: `boxes ${project}` },
    // Tried at once though the browser thinks that it is offline: it says so then, and nothing waits unseen.
    networkMode: "always",
    mutationFn: async ({ changesOf, words }: BoxAct) => {
      const view = await client.fetchQuery({
        ...planQuery(project),
        // As it is known: what others stored meanwhile is heard of, and judged by the server.
        staleTime: Infinity,
        networkMode: "always",
        retry: false,
      });
      const changes = changesOf(planValue(view));
      if (changes.length === 0) return;
      const { revision } = await call("POST /api/projects/:project/changes", {
        params: { project },
        body: { revision: view.revision, changes },
      });
      undoToast(client, { revisions: [{ project, revision }], words });
    },
    onError: (error) => void toast.error(error.message),
    onSettled: async (_done, _error, act) => {
      await client.invalidateQueries({ queryKey: ["project", project] });
      setPending((all) => all.filter((each) => each !== act));
    },
  });
  const plan = useMemo(() => withPending(stored, pending), [stored, pending]);
  const act = (next: BoxAct): void => {
    setPending((all) => [...all, next]);
    mutate(next);
  };
  return { plan, isSaving: pending.length > 0, act };
}
