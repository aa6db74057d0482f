import { PRIORITIES, noteChanges, type ActivityNote, type NoteParts } from "@chronometra/core";
import { useParams } from "react-router";
import { DocumentList } from "../../documents/DocumentList.tsx";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { CommitText } from "../../shared/fields/CommitText.tsx";
import { RemoveButton } from "../../shared/fields/RemoveButton.tsx";
import { telling } from "../../shared/messages/telling.ts";
import type { SheetRow } from "../engine/sheet.ts";
import type { Commit } from "./useCommit.ts";

interface Props {
  readonly row: SheetRow;
  readonly note: ActivityNote;
  readonly commit: Commit;
  readonly mayEdit: boolean;
}

interface PartProps {
  readonly note: ActivityNote;
  readonly write: (parts: NoteParts) => Promise<string | null>;
  readonly mayEdit: boolean;
}

/** What to think of, ticked as it is done. */
function Checks({ note: { checks = [] }, write, mayEdit }: PartProps) {
  const set = (id: string, part: { text?: string; done?: boolean }): Promise<string | null> =>
    write({
      checks: checks.map((check) =>
        check.id !== id
          ? check
          : {
              id,
              text: part.text ?? check.text,
              ...((part.done ?? check.done === true) ? { done: true as const } : {}),
            },
      ),
    });
  const done = checks.filter((check) => check.done === true).length;
  return (
    <section aria-label="Check-list" className="pt-2">
      <h3 className="pb-1 text-sm font-semibold">
        Check-list{" "}
        {checks.length > 0 && (
          <span className="muted font-normal">
            {done} of {checks.length} done
          </span>
        )}
      </h3>
      <ul>
        {checks.map(({ id, text, done: isDone }) => (
          <li key={id} className="flex items-center gap-2 py-0.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              aria-label={`Done: ${text}`}
              disabled={!mayEdit}
              checked={isDone === true}
              onChange={(event) => telling(set)(id, { done: event.target.checked })}
            />
            <CommitField
              label={`Line of the check-list: ${text}`}
              width="w-96"
              value={text}
              disabled={!mayEdit}
              onCommit={(typed) =>
                typed.trim() === "" ? "Say what is to be thought of." : set(id, { text: typed.trim() })
              }
            />
            {mayEdit && (
              <RemoveButton
                what={text}
                onRemove={() => telling(write)({ checks: checks.filter((check) => check.id !== id) })}
              />
            )}
          </li>
        ))}
      </ul>
      {mayEdit && (
        <CommitField
          label="Add to the check-list"
          adds
          width="w-96"
          placeholder="what to think of"
          value=""
          onCommit={(typed) =>
            typed.trim() === ""
              ? null
              : write({ checks: [...checks, { id: crypto.randomUUID().slice(0, 13), text: typed.trim() }] })
          }
        />
      )}
      {!mayEdit && checks.length === 0 && <p className="muted">None.</p>}
    </section>
  );
}

function Priority({ note: { priority }, write, mayEdit }: PartProps) {
  return (
    <label className="flex items-center gap-2">
      <span className="muted w-24">Priority</span>
      <select
        className="select select-xs w-36"
        disabled={!mayEdit}
        value={priority ?? ""}
        onChange={({ target }) =>
          telling(write)({ priority: PRIORITIES.find((each) => each === target.value) ?? null })
        }
      >
        <option value="">none</option>
        {PRIORITIES.map((each) => (
          <option key={each} value={each}>
            {each}
          </option>
        ))}
      </select>
    </label>
  );
}

/** What there is to know of an activity besides its dates, work and cost; those who work on it find it on their desk. */
export function NotesTab({ row, note, commit, mayEdit }: Props) {
  const { project = "" } = useParams();
  const write = (parts: NoteParts): Promise<string | null> =>
    commit(noteChanges({ notes: new Map(Object.keys(note).length === 0 ? [] : [[row.id, note]]) }, row.id, parts));
  const shared = { note, write, mayEdit };
  return (
    <>
      <Priority {...shared} />
      <CommitText
        name="Description"
        value={note.description ?? ""}
        ask="what has to be done, how, and when it counts as done"
        disabled={!mayEdit}
        onCommit={(text) => write({ description: text === "" ? null : text })}
      />
      <Checks {...shared} />
      <section aria-label="Documents" className="pt-3">
        <h3 className="pb-1 text-sm font-semibold">Documents</h3>
        <DocumentList
          project={project}
          place={{ about: "activity", aboutId: row.id }}
          ask="drawings, method statements, permits; those who work on it find them on their desk"
        />
      </section>
    </>
  );
}
