import type { DeskActivity } from "@chronometra/contract";
import { DocumentList } from "../../documents/DocumentList.tsx";
import { countWords } from "../../shared/words/words.ts";

/** What is behind the fold, in a few words. */
function foldedWords({ note, documents }: DeskActivity): string {
  const checks = note?.checks ?? [];
  return [
    ...(note?.description === undefined ? [] : ["what is to be done"]),
    ...(checks.length === 0 ? [] : [`check-list of ${checks.length}`]),
    ...(documents === 0 ? [] : [countWords(documents, "document", "documents")]),
  ].join(" · ");
}

/** What the plan says of someone's work besides dates: its description, what to think of, and its documents. */
export function DeskNotes({ activity }: { activity: DeskActivity }) {
  const { project, activity: id, note, priorityWord, documents } = activity;
  const words = foldedWords(activity);
  return (
    <>
      {priorityWord !== null && (
        <p className={`text-sm ${note?.priority === "high" ? "undecided" : "muted"}`}>priority {priorityWord}</p>
      )}
      {words !== "" && (
        <details className="text-sm">
          <summary className="cursor-pointer">{words}</summary>
          {note?.description !== undefined && (
            <p className="max-w-prose py-1 whitespace-pre-wrap">{note.description}</p>
          )}
          <ul className="py-1">
            {(note?.checks ?? []).map((check) => (
              <li key={check.id} className={check.done === true ? "muted line-through" : ""}>
                – {check.text}
                {check.done === true && <span className="sr-only"> (done)</span>}
              </li>
            ))}
          </ul>
          {documents > 0 && <DocumentList project={project} place={{ about: "activity", aboutId: id }} ask="" />}
        </details>
      )}
    </>
  );
}
