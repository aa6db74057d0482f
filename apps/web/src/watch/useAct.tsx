import type { WatchAct } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import { call } from "../shared/api.ts";
import { countWords } from "../shared/words.ts";

/** Does something with rows of activities; what was done can be taken back from the note that says so. */
export function useAct() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (act: WatchAct) => call("POST /api/watch/act", { body: act }),
    onSuccess: ({ changed, left, revisions }) => {
      void client.invalidateQueries();
      if (changed === 0) return;
      const undo = async (): Promise<void> => {
        try {
          for (const { project, revision } of revisions) await call("POST /api/projects/:project/undo", { params: { project }, body: { revision } });
          toast("It is as it was before.");
        } catch (error) {
          toast.error(error instanceof Error ? error.message : String(error));
        }
        void client.invalidateQueries();
      };
      toast(`${countWords(changed, "activity", "activities")} changed${left.length === 0 ? "" : `, ${left.length} left`}.`, { action: { label: "Undo", onClick: () => void undo() }, duration: 10_000 });
    },
  });
}
