import type { Watchlist, WatchQuestion } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link2, Save, Trash2 } from "lucide-react";
import { useNavigate } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { askable } from "./question/askable.ts";
import { CalendarAddress } from "./CalendarAddress.tsx";
import { watchlistsQuery } from "./queries.ts";
import { Export } from "./questionTools.tsx";

/** Removes a watchlist, which can be undone. */
function useRemoving(watchlist: Watchlist | null) {
  const client = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: () => call("DELETE /api/watchlists/:watchlist", { params: { watchlist: watchlist!.id } }),
    onSuccess: () => {
      const was = watchlist!;
      void client.invalidateQueries({ queryKey: watchlistsQuery.queryKey });
      toast(`“${was.name}” is removed.`, {
        action: {
          label: "Undo",
          onClick: () =>
            void call("POST /api/watchlists", { body: { name: was.name, question: was.question, roles: was.roles } })
              .then(() => client.invalidateQueries({ queryKey: watchlistsQuery.queryKey }))
              .catch((error: Error) => toast.error(error.message)),
        },
      });
      void navigate("/watch");
    },
    onError: (error) => toast.error(error.message),
  });
}

async function copyLink(): Promise<void> {
  try {
    await navigator.clipboard.writeText(window.location.href);
    toast("The link to this question, as it stands, is copied.");
  } catch {
    toast.error("The browser did not allow copying; copy the address instead.");
  }
}

/** What is done with the question as it stands: kept, linked, taken along, removed. */
export function ListTools({
  watchlist,
  name,
  question,
  changed,
  onKeep,
}: {
  watchlist: Watchlist | null;
  name: string;
  question: WatchQuestion;
  changed: boolean;
  onKeep: (as: "new" | "own") => void;
}) {
  const drop = useRemoving(watchlist);
  const mine = watchlist?.mine === true;
  return (
    <span className="ml-auto flex flex-wrap items-center gap-1">
      {mine && changed && (
        <button type="button" className="btn btn-primary btn-sm" onClick={() => onKeep("own")}>
          <Save size={14} aria-hidden="true" /> Save the change
        </button>
      )}
      <button type="button" className="btn btn-ghost btn-sm" onClick={() => onKeep("new")}>
        <Save size={14} aria-hidden="true" /> Save as …
      </button>
      {mine && !changed && (
        <button type="button" className="btn btn-ghost btn-sm" onClick={() => onKeep("own")}>
          Name and sharing
        </button>
      )}
      <button type="button" className="btn btn-ghost btn-sm" onClick={() => void copyLink()}>
        <Link2 size={14} aria-hidden="true" /> Link
      </button>
      <Export question={askable(question)} name={name} />
      {watchlist !== null && <CalendarAddress subject={watchlist.id} words={`what “${name}” finds`} />}
      {mine && (
        <button type="button" className="btn btn-ghost btn-sm" disabled={drop.isPending} onClick={() => drop.mutate()}>
          <Trash2 size={14} aria-hidden="true" /> Remove
        </button>
      )}
    </span>
  );
}
