import { useQuery } from "@tanstack/react-query";
import { Paperclip } from "lucide-react";
import { useState } from "react";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { countWords } from "../shared/words/words.ts";
import { DocumentList } from "./DocumentList.tsx";
import { documentsQuery, isAt, type Place } from "./queries.ts";

interface Props {
  readonly project: string;
  readonly place: Place;
  /** What they are of, by its name. */
  readonly of: string;
  readonly ask: string;
}

/** How many documents something has; opens them. Nothing for whoever could not add any where there are none. */
export function DocumentsButton({ project, place, of, ask }: Props) {
  const [open, setOpen] = useState(false);
  const { data } = useQuery(documentsQuery(project));
  const count = data?.documents.filter((each) => isAt(each, place)).length ?? 0;
  if (data === undefined || (count === 0 && !data.mayEdit)) return null;
  return (
    <>
      <button
        type="button"
        className="btn btn-ghost btn-xs mr-2 min-h-[24px] min-w-[24px]"
        aria-label={count === 0 ? `Documents of ${of}` : `${countWords(count, "document", "documents")} of ${of}`}
        onClick={() => setOpen(true)}
      >
        <Paperclip size={12} aria-hidden="true" /> {count === 0 ? "" : count}
      </button>
      {open && (
        <Dialog title={`Documents of ${of}`} onClose={() => setOpen(false)}>
          <DocumentList project={project} place={place} ask={ask} />
        </Dialog>
      )}
    </>
  );
}
