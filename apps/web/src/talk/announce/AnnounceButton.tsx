import { useQueryClient } from "@tanstack/react-query";
import { Megaphone } from "lucide-react";
import { useState } from "react";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { SaveOrCancel } from "../../shared/dialogs/SaveOrCancel.tsx";
import { DateField } from "../../shared/fields/DateField.tsx";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { todayHere } from "../../shared/words/today.ts";
import { announcementsQuery } from "./Announcements.tsx";

interface Props {
  readonly project: string | null;
  readonly group: string | null;
  /** What it is for, by its name. */
  readonly of: string;
}

const DAYS_SHOWN = 7;

/** A week from today. */
const soon = (): string => {
  const day = new Date(`${todayHere()}T00:00:00Z`);
  day.setUTCDate(day.getUTCDate() + DAYS_SHOWN);
  return day.toISOString().slice(0, 10);
};

function AnnounceForm({ project, group, of, onClose }: Props & { onClose: () => void }) {
  const client = useQueryClient();
  const [text, setText] = useState("");
  const [until, setUntil] = useState(soon);
  const [fault, setFault] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const send = async (): Promise<void> => {
    setBusy(true);
    try {
      const now = await call("POST /api/announcements", { body: { project, group, text: text.trim(), until } });
      client.setQueryData(announcementsQuery.queryKey, now);
      toast(`Announced to all of ${of}.`);
      onClose();
    } catch (error) {
      setFault(error instanceof Error ? error.message : String(error));
      setBusy(false);
    }
  };
  return (
    <Dialog title={`To all of ${of}`} onClose={onClose}>
      <form
        className="flex flex-col gap-2 text-sm"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <p className="muted">
          Everyone who has work there, and whoever manages it, is told at once; it stands on their pages until its last
          day.
        </p>
        <textarea
          className="textarea w-full"
          rows={4}
          maxLength={1000}
          autoFocus
          aria-label="What is to be known"
          placeholder="What is to be known"
          value={text}
          onChange={({ target }) => setText(target.value)}
        />
        <label className="flex items-baseline gap-2">
          until
          <DateField label="Until when it is shown" value={until} onDate={setUntil} />
        </label>
        <SaveOrCancel fault={fault} isReady={text.trim() !== "" && !isBusy} onClose={onClose} />
      </form>
    </Dialog>
  );
}

/** Announces something to all who work in a project, or in those of a group. */
export function AnnounceButton(props: Props) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="btn btn-sm" onClick={() => setOpen(true)}>
        <Megaphone size={14} aria-hidden="true" /> Announce …
      </button>
      {open && <AnnounceForm {...props} onClose={() => setOpen(false)} />}
    </>
  );
}
