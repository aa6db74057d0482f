import type { ProjectDocument } from "@chronometra/contract";
import { FileText, Link2 } from "lucide-react";
import { useState } from "react";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { RemoveButton } from "../shared/fields/RemoveButton.tsx";
import { toast } from "../shared/messages/toast.ts";
import { countWords, momentWords } from "../shared/words/words.ts";
import { isShown, Preview } from "./Preview.tsx";
import { fileAddress, type Documents } from "./queries.ts";
import { sizeWords } from "./sizeWords.ts";

interface Props {
  readonly project: string;
  readonly document: ProjectDocument;
  readonly mayEdit: boolean;
  readonly documents: Documents;
  /** What it is on, where that does not follow of where it stands. */
  readonly on?: string | undefined;
  /** Takes a file as another version of it. */
  readonly onVersion: (file: File) => void;
}

/** Everything that is pressed in a line. */
const LARGE_ENOUGH = "[&_a]:min-h-[24px] [&_button]:min-h-[24px] [&_button]:min-w-[24px] [&_summary]:min-h-[24px]";

/** What a document was before, version by version. */
function Versions({ project, document: { id, versions } }: Pick<Props, "project" | "document">) {
  if (versions.length < 2) return null;
  return (
    <details>
      <summary className="muted cursor-pointer">{countWords(versions.length, "version", "versions")}</summary>
      <ul className="pl-4">
        {versions.map(({ number, file, size, by, at }) => (
          <li key={number}>
            <a href={fileAddress(project, id, number, "save")} download>
              {number}. {file}
            </a>{" "}
            <span className="muted">
              {sizeWords(size)}, {by}, {momentWords(at)}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** The name of a document, which opens it. */
function Opener({ project, document }: Pick<Props, "project" | "document">) {
  const [open, setOpen] = useState(false);
  const { id, name, link, versions } = document;
  const newest = versions[0];
  if (link !== null)
    return (
      <a
        className="link-quiet inline-flex items-center break-all"
        href={link}
        target="_blank"
        rel="noopener noreferrer"
        title={link}
      >
        {name}
      </a>
    );
  if (newest === undefined) return <>{name}</>;
  if (!isShown(newest))
    return (
      <a
        className="link-quiet inline-flex items-center break-all"
        href={fileAddress(project, id, newest.number, "save")}
        download
      >
        {name}
      </a>
    );
  return (
    <>
      <button type="button" className="link-quiet cursor-pointer text-left break-all" onClick={() => setOpen(true)}>
        {name}
      </button>
      {open && (
        <Preview
          name={name}
          type={newest.type}
          address={(way) => fileAddress(project, id, newest.number, way)}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}

/** What is done with a document: another name, another version, away with it. */
function Tools({ document, documents, onVersion }: Pick<Props, "document" | "documents" | "onVersion">) {
  const [renaming, setRenaming] = useState(false);
  return (
    <span className="flex items-center gap-1">
      {renaming && (
        <CommitField
          label={`Name of ${document.name}`}
          width="w-48"
          value={document.name}
          onCommit={async (text) => {
            if (text.trim() === "") return "A document needs a name.";
            try {
              await documents.rename(document, text.trim());
              setRenaming(false);
              return null;
            } catch (error) {
              return error instanceof Error ? error.message : String(error);
            }
          }}
        />
      )}
      <button
        type="button"
        className="btn btn-ghost btn-xs"
        aria-label={`Rename ${document.name}`}
        onClick={() => setRenaming(!renaming)}
      >
        Rename
      </button>
      {document.link === null && (
        <label className="btn btn-ghost btn-xs">
          New version
          <input
            type="file"
            className="sr-only"
            aria-label={`New version of ${document.name}`}
            onChange={({ target }) => {
              if (target.files?.[0] !== undefined) onVersion(target.files[0]);
              target.value = "";
            }}
          />
        </label>
      )}
      <RemoveButton
        what={document.name}
        onRemove={() => void documents.remove(document).catch((error: Error) => toast.error(error.message))}
      />
    </span>
  );
}

/** One document: what it is, on what, since when; it opens in place where the browser can show it. */
export function DocumentLine({ project, document, mayEdit, documents, on, onVersion }: Props) {
  const { link, versions, by, at } = document;
  const newest = versions[0];
  const Icon = link === null ? FileText : Link2;
  return (
    <li className={`border-b rule py-0.5 text-sm ${LARGE_ENOUGH}`}>
      <div className="flex flex-wrap items-center gap-x-2">
        <Icon size={14} aria-hidden="true" className="muted shrink-0" />
        <Opener project={project} document={document} />
        <span className="muted">
          {on !== undefined && `${on} · `}
          {newest === undefined ? "link" : sizeWords(newest.size)} · {newest?.by ?? by}, {momentWords(newest?.at ?? at)}
        </span>
        {mayEdit && (
          <span className="ml-auto">
            <Tools document={document} documents={documents} onVersion={onVersion} />
          </span>
        )}
      </div>
      <Versions project={project} document={document} />
    </li>
  );
}
