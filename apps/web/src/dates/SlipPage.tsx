import type { SlipChoiceView } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { useProject } from "../project/useProject.ts";
import { call } from "../shared/api.ts";
import { EffectView } from "../shared/EffectView.tsx";
import { Failure, Loaded } from "../shared/Failure.tsx";
import { undoToast } from "../shared/undoToast.ts";
import { countWords, dateWords } from "../shared/words.ts";
import { slipEffectQuery, slipQuery } from "./queries.ts";

type Row = SlipChoiceView["before"][number];

function Part({
  title,
  rows,
  ticked,
  onTick,
  empty,
}: {
  title: string;
  rows: readonly Row[];
  ticked: ReadonlySet<string>;
  onTick: (ids: readonly string[], on: boolean) => void;
  empty: string;
}) {
  return (
    <section className="pt-3">
      <h3 className="flex items-baseline gap-3 border-b rule text-sm font-semibold">
        {title} <span className="muted font-normal">{rows.length}</span>
        {rows.length > 1 && (
          <label className="ml-auto flex items-center gap-1.5 font-normal">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={rows.every(({ id }) => ticked.has(id))}
              onChange={(event) =>
                onTick(
                  rows.map(({ id }) => id),
                  event.target.checked,
                )
              }
            />
            all
          </label>
        )}
      </h3>
      <ul className="text-sm">
        {rows.map(({ id, name, start, finish, milestone, deadline, decides, people }) => (
          <li key={id} className="border-b rule py-0.5">
            <label className="flex min-h-[24px] items-baseline gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-xs self-center"
                checked={ticked.has(id)}
                onChange={(event) => onTick([id], event.target.checked)}
              />
              <span>
                {name}
                {decides && <span className="undecided"> decides the date</span>}{" "}
                <span className="muted">
                  {milestone ? dateWords(finish) : `${dateWords(start)} to ${dateWords(finish)}`}
                  {deadline !== null && `, deadline ${dateWords(deadline)}`}
                  {people.length > 0 && ` · ${people.join(", ")}`}
                </span>
              </span>
            </label>
          </li>
        ))}
        {rows.length === 0 && <li className="muted py-1">{empty}</li>}
      </ul>
    </section>
  );
}

function Slip({ choice, milestone }: { choice: SlipChoiceView; milestone: string }) {
  const { id: project } = useProject();
  const client = useQueryClient();
  const navigate = useNavigate();
  const [days, setDays] = useState("5");
  const [reason, setReason] = useState("");
  const [deadlines, setDeadlines] = useState(false);
  const [tell, setTell] = useState(true);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const number = Number(days);
  const whole = Number.isInteger(number) && number >= 1 && number <= 1000;
  const body = {
    days: whole ? number : 1,
    along: [...ticked],
    deadlines,
    reason: reason.trim().length < 3 ? "not recorded" : reason.trim(),
    tell,
  };
  const effect = useQuery({
    ...slipEffectQuery(project, milestone, { ...body, reason: "what if", tell: false }),
    enabled: whole && choice.mayEdit,
  });
  const slip = useMutation({
    mutationFn: () => call("POST /api/projects/:project/slip/:milestone", { params: { project, milestone }, body }),
    onSuccess: ({ revision, told }) => {
      void client.invalidateQueries();
      undoToast(client, {
        revisions: [{ project, revision }],
        words: `${choice.name} slips by ${countWords(number, "working day", "working days")}${told.length === 0 ? "" : `; ${countWords(told.length, "person is", "people are")} told`}.`,
        afterwards: told.length === 0 ? "" : "Those who were told know nothing of that yet.",
      });
      void navigate(`/projects/${project}/dates`);
    },
  });
  const onTick = (ids: readonly string[], on: boolean): void =>
    setTicked((was) => {
      const next = new Set(was);
      for (const id of ids)
        if (on) next.add(id);
        else next.delete(id);
      return next;
    });
  return (
    <div className="beside">
      <form
        className="min-w-0 flex-1 overflow-auto px-5 py-3"
        tabIndex={0}
        aria-label={`Slip ${choice.name}`}
        onSubmit={(event) => {
          event.preventDefault();
          slip.mutate();
        }}
      >
        <h2 className="text-lg">Slip {choice.name}</h2>
        <p className="muted text-sm">
          Now {dateWords(choice.date)}
          {choice.deadline !== null && `, promised for ${dateWords(choice.deadline)}`}. What goes along is put off by as
          many worked days of its own calendar, so that nothing lands on a day off. What hangs on it by links follows
          anyway.
        </p>
        {!choice.mayEdit && (
          <p className="undecided pt-2 text-sm">
            Only the project’s manager or a controller slips it; you see what could go along.
          </p>
        )}
        <div className="flex flex-wrap items-center gap-x-3 gap-y-2 pt-3 text-sm">
          <label className="flex items-center gap-2">
            by
            <input
              type="number"
              min={1}
              max={1000}
              className="input input-sm w-20"
              aria-label="Working days"
              value={days}
              onChange={(event) => setDays(event.target.value)}
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
              value={reason}
              onChange={(event) => setReason(event.target.value)}
            />
          </label>
        </div>
        <div className="flex flex-wrap gap-x-5 gap-y-1 pt-2 text-sm">
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={deadlines}
              onChange={(event) => setDeadlines(event.target.checked)}
            />
            put the deadlines off too
          </label>
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={tell}
              onChange={(event) => setTell(event.target.checked)}
            />
            tell those concerned, in one message each
          </label>
        </div>
        <Part
          title="Later milestones"
          rows={choice.after}
          ticked={ticked}
          onTick={onTick}
          empty="No milestone comes after it."
        />
        <Part
          title="Work that leads to it"
          rows={choice.before}
          ticked={ticked}
          onTick={onTick}
          empty="Nothing before it is open."
        />
      </form>
      <aside aria-label="Effect preview" className="w-96 shrink-0 overflow-auto border-l rule px-4 py-3">
        <h2 className="text-base">What it would move</h2>
        {effect.error !== null && <Failure error={effect.error} />}
        {effect.data === undefined ? (
          effect.error === null &&
          choice.mayEdit && (
            <p className="muted text-sm" role="status">
              Calculating …
            </p>
          )
        ) : (
          <div aria-busy={effect.isPlaceholderData}>
            <EffectView effect={effect.data.effect} />
            {(effect.data.effect.milestones.find(({ id }) => id === milestone)?.days ?? number) % 1 !== 0 && (
              <p className="muted mt-2 text-sm">
                What is put off goes to the end of a day, or to its beginning where it begins: what lay within its day
                moves by a part of a day beside the {countWords(number, "day", "days")}.
              </p>
            )}
            {effect.data.left.length > 0 && (
              <ul className="undecided mt-2 text-sm">
                {effect.data.left.map(({ id, name, why }) => (
                  <li key={id}>
                    {name} stays: {why}.
                  </li>
                ))}
              </ul>
            )}
            <h3 className="mt-2 text-sm">
              Whom it concerns <span className="muted font-sans">{effect.data.concerned.length}</span>
            </h3>
            <ul className="text-sm">
              {effect.data.concerned.map(({ name, count, canBeReached }) => (
                <li key={name} className="border-b rule py-0.5">
                  {name}: {countWords(count, "thing", "things")} of theirs
                  {!canBeReached && <span className="muted">, has no account here</span>}
                </li>
              ))}
              {effect.data.concerned.length === 0 && <li className="muted">Nobody’s work moves.</li>}
            </ul>
          </div>
        )}
        {slip.error !== null && <Failure error={slip.error} />}
        {choice.mayEdit && (
          <button
            type="button"
            className="btn btn-primary btn-sm mt-3"
            disabled={!whole || reason.trim().length < 3 || slip.isPending}
            title={reason.trim().length < 3 ? "Say why it slips first" : undefined}
            onClick={() => slip.mutate()}
          >
            {tell ? "Slip it and tell them" : "Slip it"}
          </button>
        )}
      </aside>
    </div>
  );
}

/** Slipping a milestone: how far, why, and what goes along. */
export function SlipPage() {
  const { id: project } = useProject();
  const { milestone = "" } = useParams();
  const query = useQuery(slipQuery(project, milestone));
  return <Loaded query={query}>{(choice) => <Slip choice={choice} milestone={milestone} />}</Loaded>;
}
