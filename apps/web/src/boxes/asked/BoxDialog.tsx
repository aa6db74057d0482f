import {
  boxMoved,
  boxRemoved,
  PlanProblems,
  standingIn,
  type Change,
  type Plan,
  type Timebox,
} from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { effectQuery } from "../../plan/queries.ts";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { SaveOrCancel } from "../../shared/dialogs/SaveOrCancel.tsx";
import { DateField } from "../../shared/fields/DateField.tsx";
import { countWords } from "../../shared/words/words.ts";
import type { Asking } from "./asking.ts";

interface Props extends Asking {
  readonly box: Timebox;
}

interface Typed {
  readonly name: string;
  readonly first: string;
  readonly last: string;
  readonly along: boolean;
}

/** What changes of a box that is called and dated otherwise. */
function changesTo(plan: Plan, id: string, { name, first, last, along }: Typed): Change[] {
  const box = plan.timeboxes.get(id);
  if (box === undefined) return [];
  const plain = name.trim();
  return [
    ...(plain === box.name ? [] : [{ type: "editRow", table: "timeboxes", key: id, set: { name: plain } } as const]),
    ...(first === box.first && last === box.last ? [] : boxMoved(plan, id, { first, last }, along)),
  ];
}

function faultIn({ name, first, last }: Typed): string | null {
  if (name.trim() === "") return "Say what it is called.";
  return last < first ? "It ends before it begins." : null;
}

/** What is tried out, or why it cannot be. */
function tried(plan: Plan, id: string, typed: Typed): { readonly changes: Change[]; readonly fault: string | null } {
  const fault = faultIn(typed);
  if (fault !== null) return { changes: [], fault };
  try {
    return { changes: changesTo(plan, id, typed), fault: null };
  } catch (error) {
    if (!(error instanceof PlanProblems)) throw error;
    return { changes: [], fault: error.problems[0]!.message };
  }
}

/** A timebox renamed, made longer or shorter, moved or removed, once it is seen what that moves. */
export function BoxDialog({ project, revision, plan, box, onAct, onClose }: Props) {
  const [typed, setTyped] = useState<Typed>({ name: box.name, first: box.first, last: box.last, along: true });
  const put = (part: Partial<Typed>): void => setTyped({ ...typed, ...part });
  const { changes, fault } = useMemo(() => tried(plan, box.id, typed), [plan, box.id, typed]);
  const effect = useQuery(effectQuery(project, revision, changes));
  const others = changes.filter((change) => "key" in change && change.key !== box.id).length;
  const standing = standingIn(plan, box.id).length;
  return (
    <Dialog title={`Timebox ${box.name}`} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (changes.length > 0)
            onAct({ words: `${typed.name.trim()} is stored.`, changesOf: (at) => changesTo(at, box.id, typed) });
          onClose();
        }}
      >
        <label className="flex items-center gap-2">
          <span className="w-24 shrink-0">Name</span>
          <input
            className="input input-sm flex-1"
            aria-label="Name"
            value={typed.name}
            onChange={({ target }) => put({ name: target.value })}
          />
        </label>
        <div className="flex flex-wrap items-center gap-2">
          <span className="w-24 shrink-0">Days</span>
          <DateField small label="First day" value={typed.first} onDate={(first) => put({ first })} /> to
          <DateField small label="Last day" value={typed.last} onDate={(last) => put({ last })} />
        </div>
        <label className="flex min-h-[24px] items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={typed.along}
            onChange={({ target }) => put({ along: target.checked })}
          />
          those that follow it go along, as long as they are
        </label>
        {others > 0 && <p className="text-sm">{countWords(others, "more timebox moves", "more timeboxes move")}.</p>}
        {effect.error !== null && <Failure error={effect.error} />}
        {changes.length > 0 && effect.data !== undefined && <EffectView effect={effect.data} />}
        <button
          type="button"
          className="btn btn-ghost btn-sm w-fit px-0"
          onClick={() => {
            onAct({ words: `${box.name} is removed.`, changesOf: (at) => boxRemoved(at, box.id) });
            onClose();
          }}
        >
          Remove it{standing > 0 ? `; ${countWords(standing, "activity waits", "activities wait")} again` : ""}
        </button>
        <SaveOrCancel fault={fault} isReady={fault === null && effect.error === null} onClose={onClose} />
      </form>
    </Dialog>
  );
}
