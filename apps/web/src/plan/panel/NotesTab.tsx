import { PRIORITIES, noteChanges, type ActivityNote, type NoteParts } from "@chronometra/core";
import { useRef } from "react";
import { useParams } from "react-router";
import { DocumentList } from "../../documents/DocumentList.tsx";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { ActivityMatters } from "../../matters/MatterItems.tsx";
import { CommitText } from "../../shared/fields/CommitText.tsx";
import { RemoveButton } from "../../shared/fields/RemoveButton.tsx";
import { telling } from "../../shared/messages/telling.ts";
import type { PlanSession } from "../engine/session/planSession.ts";
import type { SheetRow } from "../engine/sheet.ts";
import type { Commit } from "./useCommit.ts";
import { useWord } from "../../project/useWord.ts";

interface Props {
  readonly row: SheetRow;
  readonly note: ActivityNote;
  readonly session: Pick<PlanSession, "work">;
  readonly commit: Commit;
  readonly mayEdit: boolean;
}

/** What parts become of the notes as they stand by then. */
type Writing = (now: ActivityNote) => NoteParts;

interface PartProps {
  readonly note: ActivityNote;
  readonly write: (parts: Writing) => Promise<string | null>;
  readonly mayEdit: boolean;
}

/**
 * Writes parts of the notes, one after the other and each from what stands by then: two lines that are ticked at once
 * are both ticked.
 */
function useNotes(id: string, { session, commit }: Pick<Props, "session" | "commit">): PartProps["write"] {
  const last = useRef<Promise<unknown>>(Promise.resolve());
  return (parts) => {
    const next = last.current.then(async () => {
      const work = await session.work(id);
      if (work === null) return "The activity was removed meanwhile.";
      return commit(noteChanges({ notes: new Map(isEmpty(work.note) ? [] : [[id, work.note]]) }, id, parts(work.note)));
    });
    last.current = next.catch(() => undefined);
    return next;
  };
}

const isEmpty = (note: ActivityNote): boolean => Object.keys(note).length === 0;

type Check = NonNullable<ActivityNote["checks"]>[number];

const ticked = ({ id, text }: Check, done: boolean): Check => ({ id, text, ...(done ? { done: true } : {}) });

/** What to think of, ticked as it is done. */
function Checks({ note: { checks = [] }, write, mayEdit }: PartProps) {
  const set = (id: string, change: (check: Check) => Check): Promise<string | null> =>
    write((now) => ({ checks: (now.checks ?? []).map((check) => (check.id === id ? change(check) : check)) }));
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
              onChange={({ target: { checked } }) => telling(set)(id, (check) => ticked(check, checked))}
            />
            <CommitField
              label={`Line of the check-list: ${text}`}
              width="w-96"
              value={text}
              disabled={!mayEdit}
              onCommit={(typed) =>
                typed.trim() === ""
                  ? "Say what is to be thought of."
                  : set(id, (check) => ({ ...check, text: typed.trim() }))
              }
            />
            {mayEdit && (
              <RemoveButton
                what={text}
                onRemove={() =>
                  telling(write)((now) => ({ checks: (now.checks ?? []).filter((check) => check.id !== id) }))
                }
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
              : write((now) => ({
                  checks: [...(now.checks ?? []), { id: crypto.randomUUID().slice(0, 13), text: typed.trim() }],
                }))
          }
        />
      )}
      {!mayEdit && checks.length === 0 && <p className="muted">None.</p>}
    </section>
  );
}

function Priority({ note: { priority }, write, mayEdit }: PartProps) {
  const wordOf = useWord();
  return (
    <label className="flex items-center gap-2">
      <span className="muted w-24">Priority</span>
      <select
        className="select select-xs w-36"
        disabled={!mayEdit}
        value={priority ?? ""}
        onChange={({ target: { value } }) =>
          telling(write)(() => ({ priority: PRIORITIES.find((each) => each === value) ?? null }))
        }
      >
        <option value="">none</option>
        {PRIORITIES.map((each) => (
          <option key={each} value={each}>
            {wordOf(each)}
          </option>
        ))}
      </select>
    </label>
  );
}

/**
 * What there is to know of an activity besides its dates, work and cost; those who work on it find it on their desk.
 */
export function NotesTab({ row, note, session, commit, mayEdit }: Props) {
  const { project = "" } = useParams();
  const write = useNotes(row.id, { session, commit });
  const shared = { note, write, mayEdit };
  return (
    <>
      <Priority {...shared} />
      <CommitText
        name="Description"
        value={note.description ?? ""}
        ask="what has to be done, how, and when it counts as done"
        disabled={!mayEdit}
        onCommit={(text) => write(() => ({ description: text === "" ? null : text }))}
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
      <ActivityMatters project={project} activity={row.id} />
    </>
  );
}
