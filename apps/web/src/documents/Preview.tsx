import { PREVIEWS, type DocumentVersion } from "@chronometra/contract";
import { Dialog } from "../shared/dialogs/Dialog.tsx";

interface Props {
  readonly name: string;
  readonly type: string;
  /** Where it is fetched. */
  readonly address: (way: "save" | "show") => string;
  readonly onClose: () => void;
}

/** Whether a browser shows a file of this kind in place. */
export const isShown = ({ type }: Pick<DocumentVersion, "type">): boolean => PREVIEWS[type] !== undefined;

/** A file as the browser shows it; nothing in it runs. */
export function Preview({ name, type, address, onClose }: Props) {
  const shown = address("show");
  return (
    <Dialog title={name} onClose={onClose} wide>
      {PREVIEWS[type] === "image" ? (
        <img src={shown} alt={name} className="mx-auto max-h-[70vh] max-w-full" />
      ) : (
        <iframe src={shown} title={name} className="h-[70vh] w-full border rule bg-white" />
      )}
      <p className="pt-2 text-sm">
        <a href={shown} target="_blank" rel="noreferrer">
          In a window of its own
        </a>
        {" · "}
        <a href={address("save")} download>
          Save it
        </a>
      </p>
    </Dialog>
  );
}
