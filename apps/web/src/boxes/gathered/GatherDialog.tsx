import { gather, type Activity, type Change, type Plan } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { effectQuery } from "../../plan/queries.ts";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { SaveOrCancel } from "../../shared/dialogs/SaveOrCancel.tsx";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { countWords } from "../../shared/words/words.ts";
import type { Asking } from "../asked/asking.ts";
import { WordsField } from "../../shared/page/WordsField.tsx";

interface Props extends Asking {
  readonly milestone: Activity;
}

/** So many are offered at once; words bring the others. */
const OFFERED = 200;

interface Offer {
  readonly id: string;
  readonly name: string;
  readonly path: string;
  /** The milestone that gathers it now. */
  readonly by: string | null;
}

function offersIn(plan: Plan, milestone: string): Offer[] {
  const nameOf = (id: string | undefined): string => (id === undefined ? "" : (plan.activities.get(id)?.name ?? ""));
  return [...plan.activities.values()].flatMap(({ id, name, kind, parent }): Offer[] => {
    const by = plan.gathered.get(id)?.milestone;
    if (kind === "summary" || id === milestone || by === milestone) return [];
    return [{ id, name, path: nameOf(parent), by: by === undefined ? null : nameOf(by) }];
  });
}

/** Selects what a milestone gathers; a link comes along where it is asked for, once it is seen what that moves. */
export function GatherDialog({ project, revision, plan, milestone, onAct, onClose }: Props) {
  const [words, setWords] = useState("");
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [withLinks, setWithLinks] = useState(false);
  const offers = useMemo(() => offersIn(plan, milestone.id), [plan, milestone]);
  const shown = offers.filter(({ name, path }) => `${path} ${name}`.toLowerCase().includes(words.trim().toLowerCase()));
  const offered = shown.slice(0, OFFERED);
  // Keys of links are made once, so that what is seen is what is stored.
  const changes = useMemo((): Change[] => {
    if (chosen.size === 0) return [];
    return gather(plan, milestone.id, [...chosen], withLinks, () => crypto.randomUUID());
  }, [plan, milestone, chosen, withLinks]);
  const effect = useQuery(effectQuery(project, revision, withLinks ? changes : []));
  const choose = (ids: readonly string[], is: boolean): void =>
    setChosen((all) => new Set(is ? [...all, ...ids] : [...all].filter((id) => !ids.includes(id))));
  const isAll = offered.length > 0 && offered.every(({ id }) => chosen.has(id));
  return (
    <Dialog title={`What “${milestone.name}” gathers`} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          onAct({
            words: `“${milestone.name}” gathers ${countWords(chosen.size, "activity more", "activities more")}.`,
            changesOf: () => changes,
          });
          onClose();
        }}
      >
        <WordsField label="Words in the name or the branch" value={words} onWords={setWords} width="w-full" />
        <div className="max-h-64 overflow-auto text-sm" tabIndex={0} role="group" aria-label="Activities">
          <label className="flex min-h-[26px] items-center gap-2 border-b rule font-semibold">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={isAll}
              onChange={({ target }) =>
                choose(
                  offered.map(({ id }) => id),
                  target.checked,
                )
              }
            />
            all {offered.length} shown{shown.length > OFFERED ? ` of ${shown.length}` : ""}
          </label>
          {offered.map(({ id, name, path, by }) => (
            <label key={id} className="flex min-h-[26px] items-center gap-2 border-b rule">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={chosen.has(id)}
                onChange={({ target }) => choose([id], target.checked)}
              />
              <span className="min-w-0 flex-1 truncate">
                {name} <span className="muted">{path}</span>
              </span>
              {by !== null && <span className="undecided">gathered by {by}</span>}
            </label>
          ))}
          {offered.length === 0 && <p className="muted py-1">No activity is called so.</p>}
        </div>
        <label className="flex min-h-[24px] items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={withLinks}
            onChange={({ target }) => setWithLinks(target.checked)}
          />
          link each to it too, so that it waits for them
        </label>
        {effect.error !== null && <Failure error={effect.error} />}
        {withLinks && chosen.size > 0 && effect.data !== undefined && <EffectView effect={effect.data} />}
        <SaveOrCancel
          fault={null}
          isReady={chosen.size > 0 && effect.error === null}
          words={`Gather ${chosen.size}`}
          onClose={onClose}
        />
      </form>
    </Dialog>
  );
}
