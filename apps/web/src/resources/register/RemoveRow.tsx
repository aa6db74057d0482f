import type { WriteRegister } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { toast } from "../../shared/messages/toast.ts";
import { undoToast } from "../../shared/dialogs/undoToast.ts";
import { registerQuery } from "../stored/queries.ts";
import { putRow, removeRow } from "../stored/registerCalls.ts";

interface Props {
  /** The row as the register has it, of a person with what an hour costs. */
  readonly kept: WriteRegister["change"];
  readonly onDone?: () => void;
}

/** Removes a row from the register; projects that have it keep it, so that it can be taken in again. */
export function RemoveRow({ kept, onDone }: Props) {
  const { name } = kept.row;
  const client = useQueryClient();
  const remove = useMutation({
    mutationFn: () => removeRow(kept),
    onSuccess: async () => {
      onDone?.();
      await client.invalidateQueries({ queryKey: registerQuery.queryKey });
      undoToast(client, {
        revisions: [],
        words: `${name} is removed from the register; projects keep theirs.`,
        also: () => putRow(kept, null),
      });
    },
    onError: (error) => toast.error(error.message),
  });
  return (
    <button
      type="button"
      className="btn btn-xs"
      aria-label={`Remove ${name} from the register`}
      disabled={remove.isPending}
      onClick={() => remove.mutate()}
    >
      Remove from the register
    </button>
  );
}
