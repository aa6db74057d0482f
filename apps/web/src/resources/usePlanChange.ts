import type { PlanView } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import { useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import { call } from "../shared/api.ts";

/** Offers to take back what was stored, one revision a project. */
export function offerUndo(words: string, stored: readonly { readonly project: string; readonly revision: number }[], onUndone: () => void): void {
  const undo = async (): Promise<void> => {
    try {
      for (const { project, revision } of stored) await call("POST /api/projects/:project/undo", { params: { project }, body: { revision } });
      toast("Undone.");
      onUndone();
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  toast(words, { action: { label: "Undo", onClick: () => void undo() }, duration: 10_000 });
}

/** Stores changes of one project at once; gives why they cannot be, or nothing. */
export function usePlanChange(view: PlanView): (changes: readonly Change[], words: string) => Promise<string | null> {
  const client = useQueryClient();
  const again = (): void => void client.invalidateQueries({ queryKey: ["project", view.id] });
  return async (changes, words) => {
    try {
      const { revision } = await call("POST /api/projects/:project/changes", { params: { project: view.id }, body: { revision: view.revision, changes: [...changes] } });
      await client.invalidateQueries({ queryKey: ["project", view.id] });
      offerUndo(words, [{ project: view.id, revision }], again);
      return null;
    } catch (error) {
      again();
      return (error as Error).message;
    }
  };
}
