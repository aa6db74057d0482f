import type { WatchAct } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { call } from "../../shared/session/api.ts";
import { undoToast } from "../../shared/dialogs/undoToast.ts";
import { countWords } from "../../shared/words/words.ts";

/** Does something with rows of activities; what was done can be taken back from the note that says so. */
export function useAct() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (act: WatchAct) => call("POST /api/watch/act", { body: act }),
    onSuccess: ({ changed, left, revisions }) => {
      void client.invalidateQueries();
      if (changed === 0) return;
      undoToast(client, {
        revisions,
        words: `${countWords(changed, "activity", "activities")} changed${left.length === 0 ? "" : `, ${left.length} unchanged`}.`,
      });
    },
  });
}
