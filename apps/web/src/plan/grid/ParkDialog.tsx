import type { Change, Effect } from "@chronometra/core";
import { useEffect, useState } from "react";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { Toned } from "../../shared/dialogs/Toned.tsx";
import { countWords, dateWords, driftTone, movedWords } from "../../shared/words/words.ts";
import type { Parking } from "../engine/planEngine.ts";
import type { PlanSession } from "../engine/session/planSession.ts";

/** What is done to the rows, in words. */
const WORDS = {
  park: {
    title: "Parking breaks chains of links",
    why: "What is parked counts for nothing, and",
    only: "Only park",
    after: "Links made to carry logic across go again when what is parked is woken.",
  },
  remove: {
    title: "Removing cuts chains of links",
    why: "Links go with the rows that they lead to, and",
    only: "Only remove",
    after: "Either is taken back by one undo.",
  },
} as const;

interface Props {
  readonly what: keyof typeof WORDS;
  readonly parking: Parking;
  readonly session: PlanSession;
  readonly onChoose: (changes: readonly Change[]) => void;
  readonly onClose: () => void;
}

const SHOWN = 8;

/** What one way of parking would move, in a few words. */
function Moves({ changes, session }: { changes: readonly Change[]; session: PlanSession }) {
  const [effect, setEffect] = useState<Effect | null | string>(null);
  useEffect(() => {
    void session
      .preview(changes)
      .then((preview) => setEffect("effect" in preview ? preview.effect : preview.problems[0]!.message));
  }, [changes, session]);
  if (effect === null)
    return (
      <span className="muted" role="status">
        Calculating …
      </span>
    );
  if (typeof effect === "string") return <span className="adverse">{effect}</span>;
  const { finish, milestones, activities } = effect;
  return (
    <span className="muted">
      {finish === null ? (
        "The finish stays"
      ) : (
        <>
          The project finishes {dateWords(finish.to)},{" "}
          <Toned tone={driftTone(finish.days)}>{movedWords(finish.days)}</Toned>
        </>
      )}
      ; {countWords(milestones.length, "milestone", "milestones")} and{" "}
      {countWords(activities.length, "activity", "activities")} move.
    </span>
  );
}

/** Asks whether the logic of chains that lead through what is parked or removed is to be carried across. */
export function ParkDialog({ what, parking: { chains, only, across }, session, onChoose, onClose }: Props) {
  const words = WORDS[what];
  return (
    <Dialog title={words.title} onClose={onClose}>
      <p>
        {words.why} {countWords(chains.length, "chain leads", "chains lead")} through it:
      </p>
      <ul className="my-2 max-h-48 overflow-auto text-sm" tabIndex={0} aria-label="Chains that would break">
        {chains.slice(0, SHOWN).map((names, i) => (
          <li key={i} className="border-b rule py-0.5">
            {names.join(" → ")}
          </li>
        ))}
        {chains.length > SHOWN && <li className="muted py-0.5">and {chains.length - SHOWN} more</li>}
      </ul>
      <div className="flex flex-col gap-3">
        <div>
          <button type="button" className="btn btn-primary btn-sm" onClick={() => onChoose(across)}>
            Carry the logic across
          </button>{" "}
          <Moves changes={across} session={session} />
        </div>
        <div>
          <button type="button" className="btn btn-sm" onClick={() => onChoose(only)}>
            {words.only}
          </button>{" "}
          <Moves changes={only} session={session} />
        </div>
        <p className="muted text-sm">{words.after}</p>
      </div>
    </Dialog>
  );
}
