import type { BoxedRow } from "@chronometra/contract";
import { daysWords, placedIn, standingIn, type Change, type Plan, type Timebox } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import { effectQuery } from "../../plan/queries.ts";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { SaveOrCancel } from "../../shared/dialogs/SaveOrCancel.tsx";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { countWords } from "../../shared/words/words.ts";
import type { Asking } from "./asking.ts";

interface Props extends Asking {
  readonly title: string;
  readonly rows: readonly BoxedRow[];
  readonly boxes: readonly Timebox[];
  /** The timebox that is offered first; what waits where it is nothing. */
  readonly to: string | null;
  /** Whether they come before what stands there. */
  readonly first: boolean;
}

/** Before which those that go come, where they come first. */
const firstIn = (plan: Plan, box: string | null, going: readonly string[]): string | null =>
  standingIn(plan, box).find(({ id }) => !going.includes(id))?.id ?? null;

/** Puts several activities into a timebox at once, once it is seen what that moves. */
export function PutDialog({ title, project, revision, plan, rows, boxes, to, first, onAct, onClose }: Props) {
  const [into, setInto] = useState(to);
  const ids = useMemo(() => rows.map(({ id }) => id), [rows]);
  const changesOf = useCallback(
    (at: Plan): Change[] => {
      const there = ids.filter((id) => at.activities.has(id));
      return placedIn(at, there, into, first ? firstIn(at, into, ids) : null);
    },
    [ids, into, first],
  );
  const changes = useMemo(() => changesOf(plan), [plan, changesOf]);
  const effect = useQuery(effectQuery(project, revision, changes));
  const name = into === null ? "what waits" : (boxes.find(({ id }) => id === into)?.name ?? "");
  return (
    <Dialog title={title} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          const what = rows.length === 1 ? `“${rows[0]!.name}” is` : `${rows.length} activities are`;
          onAct({ words: `${what} put ${into === null ? "back to" : "into"} ${name}.`, changesOf });
          onClose();
        }}
      >
        <label className="flex items-center gap-2">
          {countWords(rows.length, "activity goes", "activities go")} into
          <select
            className="select select-sm flex-1"
            aria-label="Into"
            value={into ?? ""}
            onChange={({ target }) => setInto(target.value === "" ? null : target.value)}
          >
            <option value="">what waits</option>
            {boxes.map((box) => (
              <option key={box.id} value={box.id}>
                {box.name}, {daysWords(box.first, box.last)}
              </option>
            ))}
          </select>
        </label>
        <ul className="max-h-32 overflow-auto text-sm" tabIndex={0} aria-label="What goes">
          {rows.map(({ id, name: of }) => (
            <li key={id} className="border-b rule py-0.5">
              {of}
            </li>
          ))}
        </ul>
        {effect.error !== null && <Failure error={effect.error} />}
        {effect.data !== undefined && <EffectView effect={effect.data} />}
        <SaveOrCancel
          fault={null}
          isReady={rows.length > 0 && effect.error === null}
          words="Put them there"
          onClose={onClose}
        />
      </form>
    </Dialog>
  );
}
