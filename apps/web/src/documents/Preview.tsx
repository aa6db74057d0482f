import { PREVIEWS, type DocumentVersion, type ProjectDocument } from "@chronometra/contract";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { fileAddress } from "./queries.ts";

interface Props {
  readonly project: string;
  readonly document: ProjectDocument;
  readonly version: DocumentVersion;
  readonly onClose: () => void;
}

/** Whether a browser shows a file of this kind in place. */
export const isShown = ({ type }: Pick<DocumentVersion, "type">): boolean => PREVIEWS[type] !== undefined;

/** A file as the browser shows it; nothing in it runs. */
export function Preview({ project, document, version, onClose }: Props) {
  const address = fileAddress(project, document.id, version.number, "show");
  return (
    <Dialog title={document.name} onClose={onClose} wide>
      {PREVIEWS[version.type] === "image" ? (
        <img src={address} alt={document.name} className="mx-auto max-h-[70vh] max-w-full" />
      ) : (
        <iframe src={address} title={document.name} className="h-[70vh] w-full border rule bg-white" />
      )}
      <p className="pt-2 text-sm">
        <a href={address} target="_blank" rel="noreferrer">
          In a window of its own
        </a>
        {" · "}
        <a href={fileAddress(project, document.id, version.number, "save")} download>
          Save it
        </a>
      </p>
    </Dialog>
  );
}
