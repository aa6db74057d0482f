import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { CalendarPlus } from "lucide-react";
import { useState } from "react";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { momentWords } from "../shared/words/words.ts";
import { feedQuery } from "./queries.ts";

/** An address from which calendar programs fetch a subject, and keep fetching it. */
export function CalendarAddress({ subject, words }: { subject: string; words: string }) {
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const { data } = useQuery({ ...feedQuery(subject), enabled: open });
  const failed = (error: Error): void => void toast.error(error.message);
  const make = useMutation({
    mutationFn: () => call("POST /api/calendars", { body: { subject } }),
    onSuccess: () => void client.invalidateQueries(feedQuery(subject)),
    onError: failed,
  });
  const end = useMutation({
    mutationFn: () => call("DELETE /api/calendars/:subject", { params: { subject } }),
    onSuccess: () => {
      make.reset();
      void client.invalidateQueries(feedQuery(subject));
    },
    onError: failed,
  });
  const address = make.data?.path == null ? null : new URL(make.data.path, window.location.href).href;
  return (
    <>
      <button type="button" className="btn btn-ghost btn-sm" onClick={() => setOpen(true)}>
        <CalendarPlus size={14} aria-hidden="true" /> In a calendar
      </button>
      {open && (
        <Dialog
          title="In a calendar program"
          onClose={() => {
            setOpen(false);
            make.reset();
          }}
        >
          <p className="text-sm">
            A calendar program that knows this address shows {words}, as they stand each time it looks. Whoever has the
            address sees them without signing in, so pass it on with care.
          </p>
          {address !== null && (
            <p className="mt-2">
              <label className="block text-sm">
                The address, told this once
                <input
                  readOnly
                  className="input input-sm mt-0.5 w-full"
                  value={address}
                  onFocus={(event) => event.target.select()}
                />
              </label>
            </p>
          )}
          {address === null && data?.madeAt != null && (
            <p className="muted mt-2 text-sm">There is one since {momentWords(data.madeAt)}; a new one ends it.</p>
          )}
          <div className="mt-3 flex gap-2">
            <button
              type="button"
              className="btn btn-primary btn-sm"
              disabled={make.isPending}
              onClick={() => make.mutate()}
            >
              {data?.madeAt == null ? "Make an address" : "Make a new one"}
            </button>
            {data?.madeAt != null && (
              <button type="button" className="btn btn-sm" disabled={end.isPending} onClick={() => end.mutate()}>
                Revoke
              </button>
            )}
          </div>
        </Dialog>
      )}
    </>
  );
}
