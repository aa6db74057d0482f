import type { Present } from "@chronometra/contract";
import type { Effect } from "@chronometra/core";
import { Eye } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { EffectView } from "../shared/dialogs/EffectView.tsx";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { countWords, dateWords, driftTone, movedWords } from "../shared/words/words.ts";
import { RefusedView } from "./RefusedView.tsx";
import type { PlanSession } from "./engine/session/planSession.ts";
import type { SessionState } from "./engine/session/sessionState.ts";
import type { Sheet } from "./engine/sheet.ts";

interface Props {
  readonly state: SessionState;
  readonly session: PlanSession;
  readonly mayEdit: boolean;
  readonly minorDigits: number;
  readonly currency: string;
  /** Others who have the plan open. */
  readonly present: readonly Present[];
  readonly sheet: Sheet;
}

/** Who else is on the plan, and on which row. */
function Others({ present, sheet }: Pick<Props, "present" | "sheet">) {
  const nameOf = (activity: string | null): string | undefined => sheet.rows.find(({ id }) => id === activity)?.name;
  return (
    <ul aria-label="Also here" className="ml-auto flex gap-3">
      {present.map(({ client, name, activity }) => (
        <li key={client} className="muted">
          <Eye size={12} className="mr-1 inline" aria-hidden="true" />
          {name}
          {nameOf(activity) !== undefined && <> at {nameOf(activity)}</>}
        </li>
      ))}
    </ul>
  );
}

function Moved({ effect }: { effect: Effect }) {
  const { finish, milestones, activities, deadlines } = effect;
  if (finish === null && milestones.length === 0 && activities.length === 0) return <>No date moved.</>;
  const parts = [
    countWords(activities.length, "activity", "activities"),
    milestones.length > 0 ? countWords(milestones.length, "milestone", "milestones") : "",
    deadlines.length > 0 ? countWords(deadlines.length, "deadline", "deadlines") : "",
  ];
  return (
    <>
      Moved {parts.filter((part) => part !== "").join(", ")}
      {finish !== null && (
        <>
          ; the project now finishes {dateWords(finish.to)},{" "}
          <Toned tone={driftTone(finish.days)}>{movedWords(finish.days)}</Toned>
        </>
      )}
    </>
  );
}

/** What the last change moved; told in full only while it is looked at, since that may be thousands of lines. */
function LastMoved({ effect, minorDigits, currency }: { effect: Effect; minorDigits: number; currency: string }) {
  const [open, setOpen] = useState(false);
  return (
    <details className="relative" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer">
        <Moved effect={effect} />
      </summary>
      {open && (
        <div className="absolute bottom-full left-0 z-20 mb-1 max-h-96 w-108 overflow-auto border rule bg-base-100 p-3">
          <EffectView
            effect={{
              ...effect,
              activities: [...effect.activities],
              milestones: [...effect.milestones],
              deadlines: [...effect.deadlines],
              minorDigits,
              currency,
            }}
          />
        </div>
      )}
    </details>
  );
}

/** Why this plan is not kept up any more, and what of one's own work that leaves in the browser. */
function Stopped({ failure, waiting, session }: { failure: Error; waiting: number; session: PlanSession }) {
  return (
    <span role="alert" className="adverse">
      {failure.message} What you see is the plan as it last was
      {waiting > 0 && <>; {countWords(waiting, "change waits", "changes wait")} in this browser, not stored</>}.{" "}
      <button type="button" className="btn btn-xs" onClick={session.tryNow}>
        Try again
      </button>
    </span>
  );
}

/** Whether all is saved, and what waits where it is not. */
function Saved({
  state: { saving, waiting, away, failure },
  session,
  mayEdit,
}: Pick<Props, "state" | "session" | "mayEdit">) {
  if (failure !== null) return <Stopped failure={failure} waiting={waiting} session={session} />;
  if (!mayEdit)
    return (
      <span role="status" className="muted">
        You may look at this plan, not change it.
      </span>
    );
  if (away)
    return (
      <span role="status" className="adverse">
        The server cannot be reached.{" "}
        {waiting === 0
          ? "What others do does not come in"
          : `${countWords(waiting, "change waits", "changes wait")} in this browser`}
        ; it is tried again by itself.{" "}
        <button type="button" className="btn btn-xs" onClick={session.tryNow}>
          Try now
        </button>
      </span>
    );
  return (
    <span role="status" className={saving > 0 ? "undecided" : "muted"}>
      {saving > 0 ? "Saving …" : "All is saved"}
    </span>
  );
}

/** Below the plan: whether all is saved, what the last change moved, and what went wrong. */
export function PlanFoot({ state, session, mayEdit, minorDigits, currency, present, sheet }: Props) {
  const { effect, refused, merged, arrivedBy } = state;
  return (
    <div className="border-t border-base-content bg-base-200 px-4 py-0.5 text-[13px]">
      <RefusedView refused={refused} session={session} />
      <div className="flex items-center gap-6">
        <Saved state={state} session={session} mayEdit={mayEdit} />
        {merged > 0 && <span className="undecided">Changes of others came in with yours.</span>}
        {arrivedBy.length > 0 && (
          <span role="status" className="undecided">
            {arrivedBy.join(" and ")} changed the plan just now.
          </span>
        )}
        {effect !== null && <LastMoved effect={effect} minorDigits={minorDigits} currency={currency} />}
        {mayEdit && effect === null && (
          <span className="muted">
            Type to change a cell; Ctrl+Enter adds a row, Alt+. and Alt+, change its level, Alt+Enter tells all about
            it.{" "}
            <Link className="underline" to="/keys">
              All keys
            </Link>
          </span>
        )}
        {present.length > 0 && <Others present={present} sheet={sheet} />}
      </div>
    </div>
  );
}
