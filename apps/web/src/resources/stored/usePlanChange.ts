import type { PlanView } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import { useQueryClient } from "@tanstack/react-query";
import { call } from "../../shared/session/api.ts";
import { undoToast } from "../../shared/dialogs/undoToast.ts";

/** Stores changes of one project at once; gives why they cannot be, or nothing. */
export function usePlanChange(
  view: Pick<PlanView, "id" | "revision">,
): (changes: readonly Change[], words: string) => Promise<string | null> {
  const client = useQueryClient();
  const again = (): void => void client.invalidateQueries({ queryKey: ["project", view.id] });
  return async (changes, words) => {
    try {
      const { revision } = await call("POST /api/projects/:project/changes", {
        params: { project: view.id },
        body: { revision: view.revision, changes: [...changes] },
      });
      await client.invalidateQueries({ queryKey: ["project", view.id] });
      undoToast(client, { revisions: [{ project: view.id, revision }], words });
      return null;
    } catch (error) {
      again();
      return (error as Error).message;
    }
  };
}
