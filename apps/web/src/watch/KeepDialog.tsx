import { SHARED_ROLES, type Watchlist, type WatchQuestion } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { Failure } from "../shared/dialogs/Failure.tsx";

const ROLE_WORDS = {
  controller: "controllers",
  projectManager: "project managers",
  approver: "approvers",
  reader: "readers",
} as const;

interface Props {
  /** The one to be changed; `null` keeps a new one. */
  readonly watchlist: Watchlist | null;
  readonly suggested: string;
  readonly question: WatchQuestion;
  readonly onKept: (id: string) => void;
  readonly onClose: () => void;
}

/** Keeps a question under a name, and says who finds it. */
export function KeepDialog({ watchlist, suggested, question, onKept, onClose }: Props) {
  const client = useQueryClient();
  const [name, setName] = useState(suggested);
  const [roles, setRoles] = useState<Watchlist["roles"]>(watchlist?.roles ?? []);
  const keep = useMutation({
    mutationFn: async () => {
      const body = { name, question, roles: [...roles] };
      if (watchlist === null) return (await call("POST /api/watchlists", { body })).id;
      await call("PUT /api/watchlists/:watchlist", { params: { watchlist: watchlist.id }, body });
      return watchlist.id;
    },
    onSuccess: (id) => {
      toast(`“${name}” is kept.`);
      void client.invalidateQueries({ queryKey: ["watchlists"] });
      onKept(id);
    },
  });
  return (
    <Dialog title={watchlist === null ? "Save this watchlist" : "Name and sharing"} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate();
        }}
      >
        <label className="block text-sm">
          Name
          <input
            className="input input-sm mt-0.5 w-full"
            maxLength={120}
            required
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <fieldset className="mt-3 text-sm">
          <legend>Found by, besides me</legend>
          {SHARED_ROLES.map((role) => (
            <label key={role} className="mr-4 inline-flex items-center gap-1.5">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={roles.includes(role)}
                onChange={(event) =>
                  setRoles(event.target.checked ? [...roles, role] : roles.filter((each) => each !== role))
                }
              />
              {ROLE_WORDS[role]}
            </label>
          ))}
        </fieldset>
        <p className="muted mt-2 text-sm">Whoever may look at projects can open it by its link.</p>
        {keep.error !== null && <Failure error={keep.error} />}
        <button type="submit" className="btn btn-primary btn-sm mt-3" disabled={keep.isPending}>
          Save
        </button>
      </form>
    </Dialog>
  );
}
