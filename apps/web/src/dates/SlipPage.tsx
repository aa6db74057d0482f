import type { SlipChoiceView, SlipEffect } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { useProject } from "../project/useProject.ts";
import { call } from "../shared/session/api.ts";
import { EffectView } from "../shared/dialogs/EffectView.tsx";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { undoToast } from "../shared/dialogs/undoToast.ts";
import { countWords, dateWords } from "../shared/words/words.ts";
import { slipEffectQuery, slipQuery } from "./queries.ts";
import { SlipPart } from "./SlipPart.tsx";

/** A slip as it is put together. */
interface Draft {
  readonly days: string;
  readonly reason: string;
  readonly deadlines: boolean;
  readonly tell: boolean;
  readonly along: ReadonlySet<string>;
}

const AT_FIRST: Draft = { days: "5", reason: "", deadlines: false, tell: true, along: new Set() };
const LEAST_REASON = 3;

/** How far, why, and what else it does. */
function SlipFields({ draft, set }: { draft: Draft; set: (change: Partial<Draft>) => void }) {
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 pt-3 text-sm">
        <label className="flex items-center gap-2">
          by
          <input
            type="number"
            min={1}
            max={1000}
            className="input input-sm w-20"
            aria-label="Working days"
            value={draft.days}
            onChange={(event) => set({ days: event.target.value })}
          />
          working days,
        </label>
        <label className="flex flex-1 items-center gap-2">
          because
          <input
            className="input input-sm min-w-60 flex-1"
            aria-label="Why it slips"
            placeholder="why it slips"
            required
            minLength={3}
            maxLength={200}
            value={draft.reason}
            onChange={(event) => set({ reason: event.target.value })}
          />
        </label>
      </div>
      <div className="flex flex-wrap gap-x-5 gap-y-1 pt-2 text-sm">
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={draft.deadlines}
            onChange={(event) => set({ deadlines: event.target.checked })}
          />
          put the deadlines off too
        </label>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={draft.tell}
            onChange={(event) => set({ tell: event.target.checked })}
          />
          tell those concerned, in one message each
        </label>
      </div>
    </>
  );
}

/** What a slip would move, and whom that concerns. */
function WhatMoves({ view, milestone, days }: { view: SlipEffect; milestone: string; days: number }) {
  return (
    <>
      <EffectView effect={view.effect} />
      {(view.effect.milestones.find(({ id }) => id === milestone)?.days ?? days) % 1 !== 0 && (
        <p className="muted mt-2 text-sm">
          What is put off goes to the end of a day, or to its beginning where it begins: what lay within its day moves
          by a part of a day beside the {countWords(days, "day", "days")}.
        </p>
      )}
      {view.left.length > 0 && (
        <ul className="undecided mt-2 text-sm">
          {view.left.map(({ id, name, why }) => (
            <li key={id}>
              {name} stays: {why}.
            </li>
          ))}
        </ul>
      )}
      <h3 className="mt-2 text-sm">
        Whom it concerns <span className="muted font-sans">{view.concerned.length}</span>
      </h3>
      <ul className="text-sm">
        {view.concerned.map(({ name, count, canBeReached }) => (
          <li key={name} className="border-b rule py-0.5">
            {name}: {countWords(count, "thing", "things")} of theirs
            {!canBeReached && <span className="muted">, has no account here</span>}
          </li>
        ))}
        {view.concerned.length === 0 && <li className="muted">Nobody’s work moves.</li>}
      </ul>
    </>
  );
}

/** Working days as they are typed; `null` where that is no number of whole days. */
function daysOf(text: string): number | null {
  const days = Number(text);
  return Number.isInteger(days) && days >= 1 && days <= 1000 ? days : null;
}

/** As many days as lead to the day that was asked about. */
const daysWanted = ({ wanted }: SlipChoiceView): Partial<Draft> =>
  wanted === null || wanted.days < 1 ? {} : { days: String(wanted.days) };

/** A slip that is put together: what it would move, and making it. */
function useSlip(choice: SlipChoiceView, milestone: string) {
  const { id: project } = useProject();
  const client = useQueryClient();
  const navigate = useNavigate();
  const [draft, setDraft] = useState(() => ({ ...AT_FIRST, ...daysWanted(choice) }));
  const { deadlines, tell, along } = draft;
  const days = daysOf(draft.days);
  const reason = draft.reason.trim();
  const isReasoned = reason.length >= LEAST_REASON;
  const body = { days: days ?? 1, along: [...along], deadlines, reason, tell };
  const effect = useQuery({
    ...slipEffectQuery(project, milestone, { ...body, reason: "what if", tell: false }),
    enabled: days !== null && choice.mayEdit,
  });
  const slip = useMutation({
    mutationFn: () => call("POST /api/projects/:project/slip/:milestone", { params: { project, milestone }, body }),
    onSuccess: ({ revision, told }) => {
      void client.invalidateQueries();
      undoToast(client, {
        revisions: [{ project, revision }],
        words: `${choice.name} slips by ${countWords(body.days, "working day", "working days")}${told.length === 0 ? "" : `; ${countWords(told.length, "person is", "people are")} told`}.`,
        afterwards: told.length === 0 ? "" : "Those who were told know nothing of that yet.",
      });
      void navigate(`/projects/${project}/dates`);
    },
  });
  const set = (change: Partial<Draft>): void => setDraft((was) => ({ ...was, ...change }));
  const onTick = (ids: readonly string[], on: boolean): void =>
    set({ along: new Set(on ? [...along, ...ids] : [...along].filter((id) => !ids.includes(id))) });
  return { draft, set, onTick, days: body.days, isReasoned, isReady: days !== null && isReasoned, effect, slip };
}
type Slipping = ReturnType<typeof useSlip>;

/** The milestone as it stands, and what slipping it means. */
const About = ({ choice }: { choice: SlipChoiceView }) => (
  <>
    <h2 className="text-lg">Slip {choice.name}</h2>
    <p className="muted text-sm">
      Now {dateWords(choice.date)}
      {choice.deadline !== null && `, promised for ${dateWords(choice.deadline)}`}. What goes along is put off by as
      many worked days of its own calendar, so that nothing lands on a day off. What hangs on it by links follows
      anyway.
    </p>
    {choice.wanted !== null && (
      <p className="pt-1 text-sm">
        {choice.wanted.days < 1
          ? `${dateWords(choice.wanted.date)} is no later than it lies now; a milestone slips later only.`
          : `To lie on ${dateWords(choice.wanted.date)}, or on the next day that is worked, it slips by ${countWords(choice.wanted.days, "working day", "working days")}.`}
      </p>
    )}
    {!choice.mayEdit && (
      <p className="undecided pt-2 text-sm">
        Only the project’s manager or a controller slips it; you see what could go along.
      </p>
    )}
  </>
);

interface PreviewProps {
  readonly slipping: Slipping;
  readonly milestone: string;
  readonly mayEdit: boolean;
}

/** What it would move, and the button that makes it so. */
function Preview({ slipping: { effect, slip, days, draft, isReasoned, isReady }, milestone, mayEdit }: PreviewProps) {
  return (
    <aside aria-label="Effect preview" className="w-96 shrink-0 overflow-auto border-l rule px-4 py-3">
      <h2 className="text-base">What it would move</h2>
      {effect.error !== null && <Failure error={effect.error} />}
      {effect.data !== undefined && (
        <div aria-busy={effect.isPlaceholderData}>
          <WhatMoves view={effect.data} milestone={milestone} days={days} />
        </div>
      )}
      {effect.data === undefined && effect.error === null && mayEdit && (
        <p className="muted text-sm" role="status">
          Calculating …
        </p>
      )}
      {slip.error !== null && <Failure error={slip.error} />}
      {mayEdit && (
        <button
          type="button"
          className="btn btn-primary btn-sm mt-3"
          disabled={!isReady || slip.isPending}
          title={!isReasoned ? "Say why it slips first" : undefined}
          onClick={() => slip.mutate()}
        >
          {draft.tell ? "Slip it and tell them" : "Slip it"}
        </button>
      )}
    </aside>
  );
}

function Slip({ choice, milestone }: { choice: SlipChoiceView; milestone: string }) {
  const slipping = useSlip(choice, milestone);
  const { draft, set, onTick, isReady, slip } = slipping;
  const onSubmit = (event: FormEvent): void => {
    event.preventDefault();
    if (isReady) slip.mutate();
  };
  return (
    <div className="beside">
      <form
        className="min-w-0 flex-1 overflow-auto px-5 py-3"
        tabIndex={0}
        aria-label={`Slip ${choice.name}`}
        onSubmit={onSubmit}
      >
        <About choice={choice} />
        <SlipFields draft={draft} set={set} />
        <SlipPart
          title="Later milestones"
          rows={choice.after}
          ticked={draft.along}
          onTick={onTick}
          empty="No milestone comes after it."
        />
        <SlipPart
          title="Work that leads to it"
          rows={choice.before}
          ticked={draft.along}
          onTick={onTick}
          empty="Nothing before it is open."
        />
      </form>
      <Preview slipping={slipping} milestone={milestone} mayEdit={choice.mayEdit} />
    </div>
  );
}

/** Slipping a milestone: how far, why, and what goes along. */
export function SlipPage() {
  const { id: project } = useProject();
  const { milestone = "" } = useParams();
  const [params] = useSearchParams();
  const to = params.get("to") ?? "";
  const query = useQuery(slipQuery(project, milestone, to));
  return <Loaded query={query}>{(choice) => <Slip key={to} choice={choice} milestone={milestone} />}</Loaded>;
}
