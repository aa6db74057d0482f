import type { QueryClient } from "@tanstack/react-query";
import { toast } from "../messages/toast.ts";
import { call } from "../session/api.ts";

const LONG_ENOUGH = 12_000;

/**
 * Says what was done, and offers to take it back where something was; `afterwards` says what taking it back does not.
 */
export function undoToast(
  client: QueryClient,
  {
    revisions,
    words,
    afterwards = "",
    also,
  }: {
    readonly revisions: readonly { readonly project: string; readonly revision: number }[];
    readonly words: string;
    readonly afterwards?: string;
    /** Takes back what was done besides. */
    readonly also?: (() => Promise<unknown>) | undefined;
  },
): void {
  const undo = async (): Promise<void> => {
    try {
      for (const { project, revision } of revisions)
        await call("POST /api/projects/:project/undo", { params: { project }, body: { revision } });
      await also?.();
      toast(`It is as it was before.${afterwards === "" ? "" : ` ${afterwards}`}`);
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error));
    }
    void client.invalidateQueries();
  };
  if (revisions.length === 0 && also === undefined) toast(words);
  else toast(words, { action: { label: "Undo", onClick: () => void undo() }, duration: LONG_ENOUGH });
}
