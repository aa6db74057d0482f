import type { ProjectDocument } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useState, type DragEvent } from "react";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { AddDocument } from "./AddDocument.tsx";
import { DocumentLine } from "./DocumentLine.tsx";
import { documentsQuery, isAt, useDocuments, type Place } from "./queries.ts";
import { useSending } from "./useSending.ts";

interface Props {
  readonly project: string;
  readonly place: Place;
  /** What is asked of whoever may add some where there is none. */
  readonly ask: string;
  /** What other documents of the project are on, in words; without it, those of the place alone are listed. */
  readonly onOf?: ((document: ProjectDocument) => string) | undefined;
}

const bringsFiles = ({ dataTransfer }: DragEvent): boolean => dataTransfer.types.includes("Files");

interface ShownProps extends Props {
  readonly all: readonly ProjectDocument[];
  readonly mayEdit: boolean;
}

function Shown({ project, place, ask, onOf, all, mayEdit }: ShownProps) {
  const documents = useDocuments(project);
  const { sending, faults, send, cancel } = useSending(documents.addFile);
  const [over, setOver] = useState(false);
  const here = all.filter((each) => isAt(each, place));
  const listed = onOf === undefined ? here : [...here, ...all.filter((each) => !isAt(each, place))];
  const drop = (event: DragEvent): void => {
    setOver(false);
    if (!mayEdit || !bringsFiles(event)) return;
    event.preventDefault();
    void send(place, [...event.dataTransfer.files]);
  };
  return (
    <div
      className={over ? "outline-2 outline-dashed outline-offset-4" : ""}
      onDragOver={(event) => {
        if (!mayEdit || !bringsFiles(event)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      {listed.length === 0 ? (
        <p className="muted text-sm">{mayEdit ? `None yet: ${ask}.` : "None."}</p>
      ) : (
        <ul aria-label="Documents">
          {listed.map((document) => (
            <DocumentLine
              key={document.id}
              project={project}
              document={document}
              mayEdit={mayEdit}
              documents={documents}
              on={isAt(document, place) ? undefined : onOf?.(document)}
              onVersion={(file) => void send({ document: document.id }, [file])}
            />
          ))}
        </ul>
      )}
      {sending !== null && (
        <p role="status" className="text-sm">
          Sending {sending} …{" "}
          <button type="button" className="underline cursor-pointer" onClick={cancel}>
            Cancel
          </button>
        </p>
      )}
      {faults.map((fault, i) => (
        <p key={i} role="alert" className="adverse text-sm">
          {fault}
        </p>
      ))}
      {mayEdit && <AddDocument place={place} documents={documents} onFiles={(files) => void send(place, files)} />}
    </div>
  );
}

/** The documents of a project, or of something in it, to be opened, added, renamed and taken away. */
export function DocumentList(props: Props) {
  const query = useQuery(documentsQuery(props.project));
  return (
    <Loaded query={query}>{({ mayEdit, documents }) => <Shown {...props} all={documents} mayEdit={mayEdit} />}</Loaded>
  );
}
