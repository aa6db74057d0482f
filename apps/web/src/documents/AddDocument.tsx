import { Link2, Upload } from "lucide-react";
import { useState } from "react";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { SaveOrCancel } from "../shared/dialogs/SaveOrCancel.tsx";
import type { Documents, Place } from "./queries.ts";

interface LinkProps {
  readonly place: Place;
  readonly documents: Documents;
  readonly onClose: () => void;
}

/** A link to be added. */
function LinkDialog({ place, documents, onClose }: LinkProps) {
  const [name, setName] = useState("");
  const [link, setLink] = useState("");
  const [fault, setFault] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const save = async (): Promise<void> => {
    setBusy(true);
    try {
      await documents.addLink(place, name.trim() || link.trim(), link.trim());
      onClose();
    } catch (error) {
      setFault(error instanceof Error ? error.message : String(error));
      setBusy(false);
    }
  };
  return (
    <Dialog title="A link" onClose={onClose}>
      <form
        className="flex flex-col gap-2 text-sm"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <label className="flex flex-col">
          Address
          <input
            className="input input-sm w-full"
            required
            autoFocus
            maxLength={2000}
            placeholder="https://"
            value={link}
            onChange={({ target }) => setLink(target.value)}
          />
        </label>
        <label className="flex flex-col">
          What it is called
          <input
            className="input input-sm w-full"
            maxLength={200}
            value={name}
            onChange={({ target }) => setName(target.value)}
          />
        </label>
        <SaveOrCancel fault={fault} isReady={link.trim() !== "" && !isBusy} onClose={onClose} />
      </form>
    </Dialog>
  );
}

interface Props {
  readonly place: Place;
  readonly documents: Documents;
  readonly onFiles: (files: File[]) => void;
}

/** Adds files and links. */
export function AddDocument({ place, documents, onFiles }: Props) {
  const [linking, setLinking] = useState(false);
  return (
    <div className="flex flex-wrap items-center gap-2 pt-1 text-sm">
      <label className="btn btn-xs">
        <Upload size={12} aria-hidden="true" /> Add files
        <input
          type="file"
          multiple
          className="sr-only"
          aria-label="Add files"
          onChange={({ target }) => {
            onFiles([...(target.files ?? [])]);
            target.value = "";
          }}
        />
      </label>
      <button type="button" className="btn btn-xs" onClick={() => setLinking(true)}>
        <Link2 size={12} aria-hidden="true" /> Add a link
      </button>
      <span className="muted">or drop files here, of up to 25 MB each</span>
      {linking && <LinkDialog place={place} documents={documents} onClose={() => setLinking(false)} />}
    </div>
  );
}
