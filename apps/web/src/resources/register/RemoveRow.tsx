import type { RegisterTable } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import { call } from "../../shared/api.ts";
import { registerQuery } from "../queries.ts";

interface Props {
  readonly table: RegisterTable;
  readonly id: string;
  readonly name: string;
  readonly onDone?: () => void;
}

/** Removes a row from the register; projects that have it keep it, so that it can be taken in again. */
export function RemoveRow({ table, id, name, onDone }: Props) {
  const client = useQueryClient();
  const remove = useMutation({
    mutationFn: () => call("DELETE /api/register/:table/:row", { params: { table, row: id } }),
    onSuccess: async () => {
      onDone?.();
      await client.invalidateQueries({ queryKey: registerQuery.queryKey });
      toast(`${name} is removed from the register; projects keep theirs.`);
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
