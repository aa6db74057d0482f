import { useQueryClient } from "@tanstack/react-query";
import { OctagonAlert } from "lucide-react";
import { useState } from "react";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { SaveOrCancel } from "../shared/dialogs/SaveOrCancel.tsx";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";

interface Props {
  readonly project: string;
  readonly activity: string;
  /** The activity's name. */
  readonly of: string;
}

function IssueForm({ project, activity, of, onClose }: Props & { onClose: () => void }) {
  const client = useQueryClient();
  const [title, setTitle] = useState("");
  const [text, setText] = useState("");
  const [fault, setFault] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const send = async (): Promise<void> => {
    setBusy(true);
    try {
      await call("POST /api/desk/issues", { body: { project, activity, title: title.trim(), text: text.trim() } });
      toast("It stands in the register; the project’s manager is asked to see to it.");
      void client.invalidateQueries({ queryKey: ["matters"] });
      onClose();
    } catch (error) {
      setFault(error instanceof Error ? error.message : String(error));
      setBusy(false);
    }
  };
  return (
    <Dialog title={`An issue with ${of}`} onClose={onClose}>
      <form
        className="flex flex-col gap-2 text-sm"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <label className="flex flex-col">
          What it is
          <input
            className="input input-sm w-full"
            required
            autoFocus
            maxLength={200}
            placeholder="The winch does not hold"
            value={title}
            onChange={({ target }) => setTitle(target.value)}
          />
        </label>
        <label className="flex flex-col">
          What there is to know of it
          <textarea
            className="textarea w-full"
            rows={4}
            maxLength={8000}
            value={text}
            onChange={({ target }) => setText(target.value)}
          />
        </label>
        <SaveOrCancel fault={fault} isReady={title.trim() !== "" && !isBusy} onClose={onClose} />
      </form>
    </Dialog>
  );
}

/** Raises an issue on an activity, for whoever works in its project. */
export function RaiseIssue(props: Props) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        className="btn btn-sm"
        aria-label={`Raise an issue with ${props.of}`}
        onClick={() => setOpen(true)}
      >
        <OctagonAlert size={14} aria-hidden="true" /> Raise an issue
      </button>
      {open && <IssueForm {...props} onClose={() => setOpen(false)} />}
    </>
  );
}
