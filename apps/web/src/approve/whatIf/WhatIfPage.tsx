import type { WhatIfView } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { toast } from "../../shared/messages/toast.ts";
import { usePlanSession } from "../../plan/engine/session/usePlanSession.ts";
import { PlanWork } from "../../plan/PlanWork.tsx";
import { useProject } from "../../project/useProject.ts";
import { call } from "../../shared/session/api.ts";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure, Loaded } from "../../shared/dialogs/Failure.tsx";
import { Toned } from "../../shared/dialogs/Toned.tsx";
import {
  countWords,
  dateWords,
  DEADLINE_WORDS,
  type DeadlineState,
  driftTone,
  money,
  movedWords,
} from "../../shared/words/words.ts";
import { useRestore } from "../useRestore.ts";
import { Merge } from "./Merge.tsx";
import { PutForward } from "./PutForward.tsx";
import { whatIfQuery } from "../queries.ts";
import { stateWords } from "../words/whatIfWords.ts";

const moreOrLess = (minor: number, digits: number, currency: string): ReactNode =>
  minor === 0 ? (
    "same planned cost"
  ) : (
    <Toned tone={minor > 0 ? "adverse" : "favourable"}>
      {money(Math.abs(minor), digits)} {currency} {minor > 0 ? "more" : "less"}
    </Toned>
  );

/** What a what-if comes to against the live plan, in one line. */
function Against({ view }: { view: WhatIfView }) {
  const { effect, load, budget, whatIf } = view;
  if (effect === null || budget === null)
    return <span className="adverse">does not fit the live plan any more: {view.fault}</span>;
  const hours = load.reduce((sum, { beforeMinutes, afterMinutes }) => sum + afterMinutes - beforeMinutes, 0);
  const worse = effect.deadlines.filter(({ before, after }) => after !== null && after.state !== before?.state);
  return (
    <>
      <span>
        {effect.finish === null ? (
          "same finish"
        ) : (
          <>
            finishes {dateWords(effect.finish.to)},{" "}
            <Toned tone={driftTone(effect.finish.days)}>{movedWords(effect.finish.days)}</Toned>
          </>
        )}
      </span>
      <span>{moreOrLess(budget.afterMinor - budget.beforeMinor, whatIf.minorDigits, whatIf.currency)}</span>
      {hours !== 0 && (
        <span>
          {formatHours(Math.abs(hours))} {hours > 0 ? "more" : "less"} work
        </span>
      )}
      {effect.milestones.length > 0 && (
        <span>{countWords(effect.milestones.length, "milestone moves", "milestones move")}</span>
      )}
      {worse.map(({ id, name, after }) => (
        <span key={id} className="undecided">
          {name}: {DEADLINE_WORDS[after!.state as DeadlineState]}
        </span>
      ))}
    </>
  );
}

function Details({ view }: { view: WhatIfView }) {
  if (view.effect === null) return null;
  return (
    <details className="relative">
      <summary className="btn btn-ghost btn-xs list-none">In full</summary>
      <div className="absolute right-0 z-40 mt-1 max-h-[60vh] w-108 overflow-auto border rule bg-base-100 p-3 text-base-content">
        <EffectView effect={view.effect} />
        {view.load.length > 0 && (
          <section className="mt-2">
            <h3 className="text-sm">Planned hours</h3>
            <ul className="text-sm">
              {view.load.map(({ person, beforeMinutes, afterMinutes }) => (
                <li key={person} className="border-b rule py-0.5">
                  {person}: {formatHours(beforeMinutes)} → {formatHours(afterMinutes)}
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </details>
  );
}

function Banner({ view, onMerged }: { view: WhatIfView; onMerged: () => void }) {
  const { whatIf, behind, meets } = view;
  const go = useNavigate();
  const client = useQueryClient();
  const [asking, setAsking] = useState(false);
  const params = { whatif: whatIf.id };
  const restore = useRestore();
  const end = useMutation({
    mutationFn: (how: "keep" | "drop"): Promise<unknown> =>
      how === "keep"
        ? call("POST /api/whatifs/:whatif/keep", { params })
        : call("DELETE /api/whatifs/:whatif", { params }),
    onSuccess: (_done, how) => {
      if (how === "keep") toast(`“${whatIf.name}” is in the live plan now; undo removes it again.`);
      else
        toast(`“${whatIf.name}” is dropped; the live plan never knew of it.`, {
          action: { label: "Undo", onClick: () => restore.mutate(whatIf.id) },
          duration: 12_000,
        });
      void client.invalidateQueries();
      void go(`/projects/${whatIf.project}/plan`);
    },
  });
  return (
    <div className="border-b-2 border-accent bg-base-200 px-4 py-1.5">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <h2 className="text-base">What if: {whatIf.name}</h2>
        <span className="muted text-sm">{stateWords(whatIf)}</span>
        <span aria-live="polite" className="flex flex-wrap gap-x-4 text-sm">
          <Against view={view} />
        </span>
        <span className="ml-auto flex flex-wrap items-center gap-1">
          <Details view={view} />
          <Link
            className="btn btn-ghost btn-xs"
            to={`/projects/${whatIf.project}/compare?from=plan&to=whatif-${whatIf.id}`}
          >
            By activity
          </Link>
          {whatIf.mayEdit && (
            <>
              <button
                type="button"
                className="btn btn-sm"
                disabled={end.isPending || whatIf.changes === 0 || meets.length > 0}
                onClick={() => end.mutate("keep")}
              >
                Apply
              </button>
              <button type="button" className="btn btn-sm" disabled={end.isPending} onClick={() => end.mutate("drop")}>
                Discard
              </button>
              <button
                type="button"
                className="btn btn-primary btn-sm"
                disabled={whatIf.changes === 0}
                onClick={() => setAsking(true)}
              >
                Put forward …
              </button>
            </>
          )}
        </span>
      </div>
      {end.error !== null && <Failure error={end.error} />}
      {whatIf.mayEdit && (meets.length > 0 || view.fault !== null) && <Merge view={view} onMerged={onMerged} />}
      {behind > 0 && meets.length === 0 && view.fault === null && (
        <p className="muted text-sm">
          The live plan has had {countWords(behind, "change", "changes")} since this began; nothing of it meets yours,
          and it is shown with them.
        </p>
      )}
      {asking && (
        <Dialog title="Put forward as a change request" onClose={() => setAsking(false)}>
          <PutForward view={view} onDone={() => setAsking(false)} />
        </Dialog>
      )}
    </div>
  );
}

function Tried({ view, onMerged }: { view: WhatIfView; onMerged: () => void }) {
  const look = useProject();
  const opened = usePlanSession(look.id, view.whatIf.id);
  const sheet = opened?.state.sheet ?? null;
  return (
    <div className="flex h-full min-h-0 flex-col">
      <Banner view={view} onMerged={onMerged} />
      <div className="min-h-0 flex-1">
        {opened === null || sheet === null ? (
          opened?.state.failure == null ? (
            <p className="page muted" role="status">
              Loading the plan …
            </p>
          ) : (
            <div className="page">
              <Failure error={opened.state.failure} />
            </div>
          )
        ) : (
          <PlanWork
            sheet={sheet}
            state={opened.state}
            session={opened.session}
            mayEdit={view.whatIf.mayEdit}
            live={false}
            planKey={view.whatIf.id}
          />
        )}
      </div>
    </div>
  );
}

/** A what-if: the plan as it would be, to be worked on like the live one, and what that would move. */
export function WhatIfPage() {
  const { whatif = "" } = useParams();
  const [round, setRound] = useState(0);
  const query = useQuery(whatIfQuery(whatif));
  return (
    <Loaded query={query}>
      {(view) => (
        <Tried key={round} view={view} onMerged={() => void query.refetch().then(() => setRound(round + 1))} />
      )}
    </Loaded>
  );
}
