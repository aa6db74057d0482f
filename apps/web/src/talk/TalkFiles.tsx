import type { TalkFile } from "@chronometra/contract";
import { FileText, Paperclip, X } from "lucide-react";
import { useState } from "react";
import { isShown, Preview } from "../documents/Preview.tsx";
import { sizeWords } from "../documents/sizeWords.ts";
import { addressOf } from "../shared/session/api.ts";

const addressTo = ({ id }: TalkFile, way: "save" | "show"): string =>
  addressOf("GET /api/talk-files/:file", { file: id }) + (way === "show" ? "?show" : "");

/** The name of a file, which opens it in place where the browser can show it, and else saves it. */
function FileName({ file }: { file: TalkFile }) {
  const [open, setOpen] = useState(false);
  const looks = "link-quiet inline-flex min-h-[24px] cursor-pointer items-center text-left break-all";
  if (!isShown(file))
    return (
      <a className={looks} href={addressTo(file, "save")} download>
        {file.file}
      </a>
    );
  return (
    <>
      <button type="button" className={looks} onClick={() => setOpen(true)}>
        {file.file}
      </button>
      {open && (
        <Preview
          name={file.file}
          type={file.type}
          address={(way) => addressTo(file, way)}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}

interface FilesProps {
  readonly name: string;
  readonly files: readonly TalkFile[];
  /** Takes one away that is not sent yet. */
  readonly onRemove?: (file: TalkFile) => void;
}

/** Files that go with a message. */
export function TalkFiles({ name, files, onRemove }: FilesProps) {
  if (files.length === 0) return null;
  return (
    <ul aria-label={name} className="flex flex-wrap gap-x-4 pt-1 text-sm">
      {files.map((file) => (
        <li key={file.id} className="flex items-center gap-1">
          <FileText size={14} aria-hidden="true" className="muted shrink-0" />
          <FileName file={file} />
          <span className="muted text-xs">{sizeWords(file.size)}</span>
          {onRemove !== undefined && (
            <button
              type="button"
              className="btn btn-ghost btn-xs min-h-[24px] min-w-[24px] px-1"
              aria-label={`Leave ${file.file} out`}
              onClick={() => onRemove(file)}
            >
              <X size={12} aria-hidden="true" />
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}

/** Adds files to what one says. */
export function AddFiles({ onFiles }: { onFiles: (files: File[]) => void }) {
  return (
    <label className="btn btn-sm">
      <Paperclip size={14} aria-hidden="true" /> Files
      <input
        type="file"
        multiple
        className="sr-only"
        aria-label="Files to go with it"
        onChange={({ target }) => {
          onFiles([...(target.files ?? [])]);
          target.value = "";
        }}
      />
    </label>
  );
}
