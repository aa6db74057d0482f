import type { PlanView } from "@chronometra/contract";
import type { Activity, Credit } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { Fragment, useMemo, type KeyboardEvent } from "react";
import { Link } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { planValue } from "../plan/engine/planValue.ts";
import { useAddress } from "../shared/page/useAddress.ts";
import { todayHere } from "../shared/words/today.ts";
import { useProject } from "../project/useProject.ts";
import { planQuery } from "../resources/stored/queries.ts";
import { usePlanChange } from "../resources/stored/usePlanChange.ts";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { dateWords } from "../shared/words/words.ts";
import { askedIn, BoardFilters, type Named } from "./BoardFilters.tsx";
import {
  askedTracks,
  stageBeside,
  stepsPercent,
  tracksOf,
  withStage,
  withStep,
  workersByActivity,
  type Track as TrackOf,
} from "./tracks.ts";

interface RowProps {
  readonly activity: Activity;
  readonly credit: Credit;
  readonly mayEdit: boolean;
  readonly blocked: boolean;
  readonly onCredit: (credit: Credit, words: string) => void;
}

/**
 * Where an activity stands among its stages: a line that rises to all of its credit, stations on it, and the one it has
 * reached.
 */
function Track({ activity, credit, mayEdit, blocked, onCredit }: RowProps) {
  const stages = credit.stages ?? [];
  const at = stages.findIndex(({ name }) => name === credit.stage);
  const go = (stage: string): void =>
    onCredit(
      withStage(credit, stage),
      `${activity.name} is at “${stage}” and earns ${stages.find(({ name }) => name === stage)?.credit ?? 0}%.`,
    );
  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>): void => {
    const by = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (by === 0 || !mayEdit) return;
    event.preventDefault();
    const stage = stageBeside(credit, by);
    if (stage === null) return;
    go(stage);
    event.currentTarget.querySelector<HTMLElement>(`[data-stage="${CSS.escape(stage)}"]`)?.focus();
  };
  return (
    <div
      role="radiogroup"
      aria-label={`Stage of ${activity.name}`}
      onKeyDown={onKeyDown}
      className="relative flex h-8 min-w-0 flex-1 items-center"
    >
      <span aria-hidden="true" className="absolute inset-x-0 top-1/2 border-t border-current opacity-40" />
      <span
        aria-hidden="true"
        className={`absolute left-0 top-1/2 -mt-px h-[3px] ${blocked ? "bg-error" : "bg-accent"}`}
        style={{ width: `${stages[at]?.credit ?? 0}%` }}
      />
      {stages.map((stage, i) => (
        <button
          key={stage.name}
          type="button"
          role="radio"
          aria-checked={i === at}
          data-stage={stage.name}
          tabIndex={i === Math.max(0, at) ? 0 : -1}
          disabled={!mayEdit}
          aria-label={`${stage.name}, earns ${stage.credit}%`}
          title={`${stage.name}: earns ${stage.credit}%`}
          className="absolute flex h-7 w-7 -translate-x-1/2 cursor-pointer items-center justify-center disabled:cursor-default"
          style={{ left: `${stage.credit}%` }}
          onClick={() => i !== at && go(stage.name)}
        >
          <svg width="20" height="20" viewBox="0 0 20 20" aria-hidden="true">
            {i === at ? (
              <path
                d="M4 11h12l-2.5 4h-7zM10 3v7M10 3.5l4 5.5h-4z"
                fill="currentColor"
                stroke="currentColor"
                strokeWidth="1"
              />
            ) : (
              <path d="M10 6v8" stroke="currentColor" strokeWidth={i < at ? 2.5 : 1.2} opacity={i < at ? 1 : 0.6} />
            )}
          </svg>
        </button>
      ))}
    </div>
  );
}

/** Weighted steps of an activity, ticked off one by one. */
function Steps({ activity, credit, mayEdit, onCredit }: RowProps) {
  return (
    <div className="flex min-w-0 flex-1 flex-wrap items-center gap-x-4 gap-y-0.5 py-1">
      {(credit.steps ?? []).map((step, i) => (
        <label key={step.name} className="flex items-center gap-1.5 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            disabled={!mayEdit}
            checked={step.doneOn !== undefined}
            onChange={(event) =>
              onCredit(
                withStep(credit, i, event.target.checked ? todayHere() : null),
                `${step.name} of ${activity.name} ${event.target.checked ? "is done" : "is open again"}.`,
              )
            }
          />
          {step.name}{" "}
          <span className="muted">
            {step.weight}
            {step.doneOn !== undefined && `, ${dateWords(step.doneOn)}`}
          </span>
        </label>
      ))}
      <span className="figure ml-auto">{Math.round(stepsPercent(credit))}%</span>
    </div>
  );
}

interface BoardRowProps extends Omit<RowProps, "activity" | "credit"> {
  readonly row: TrackOf["rows"][number];
  readonly stages: TrackOf["stages"];
}

/** One activity on the board, with where it stands. */
function BoardRow({ row: { activity, credit, path, box }, stages, ...rest }: BoardRowProps) {
  const props = { activity, credit, ...rest };
  return (
    <li className="flex items-center gap-4 border-b rule">
      <span className="w-64 shrink-0 truncate" title={`${path} ${activity.name}`}>
        <Link className="link-quiet" to={`../plan?at=${encodeURIComponent(activity.id)}`} relative="path">
          {activity.name}
        </Link>
        {box !== "" && <span className="muted text-sm"> {box}</span>}
        {props.blocked && <span className="adverse text-sm"> blocked</span>}
      </span>
      <div className="mr-4 flex min-w-0 flex-1">{stages === null ? <Steps {...props} /> : <Track {...props} />}</div>
    </li>
  );
}

/** Those who work on anything of the board, by name. */
function peopleOn(tracks: readonly TrackOf[], workers: ReturnType<typeof workersByActivity>): readonly Named[] {
  const found = new Map<string, string>();
  for (const { rows } of tracks)
    for (const { activity } of rows) for (const { id, name } of workers.get(activity.id) ?? []) found.set(id, name);
  return [...found].map(([id, name]) => ({ id, name })).sort((a, b) => a.name.localeCompare(b.name, "en"));
}

function Board({ view }: { view: PlanView }) {
  const plan = useMemo(() => planValue(view), [view]);
  const change = usePlanChange(view);
  const tracks = useMemo(() => tracksOf(plan), [plan]);
  const workers = useMemo(() => workersByActivity(plan), [plan]);
  const [params, put] = useAddress();
  const asked = askedIn(params);
  const shown = askedTracks(tracks, workers, asked);
  const set =
    (activity: Activity) =>
    (credit: Credit, words: string): void =>
      void change([{ type: "setCredit", activity: activity.id, credit }], words).then(
        (fault) => fault !== null && toast.error(fault),
      );
  if (tracks.length === 0)
    return (
      <p className="page muted">
        No activity here earns by stages or steps. Give one such a rule of credit on the plan’s page: About, then
        Credit.
      </p>
    );
  return (
    <div className="page">
      <BoardFilters asked={asked} people={peopleOn(tracks, workers)} put={put} />
      {shown.length === 0 && (
        <p className="muted">Nothing on the board is so; ask for less, or show what is finished too.</p>
      )}
      {shown.map(({ track: { key, stages }, parts }) => (
        <section
          key={key}
          className="pb-6"
          aria-label={stages === null ? "Steps" : stages.map(({ name }) => name).join(", ")}
        >
          <div className="flex items-end gap-4 border-b-2 border-current pb-0.5">
            <h2 className="w-64 shrink-0 text-base">{stages === null ? "By steps" : "By stages"}</h2>
            {stages !== null && (
              <div aria-hidden="true" className="relative mr-4 h-9 flex-1 text-xs max-md:hidden">
                {stages.map(({ name, credit }, i) => (
                  <span
                    key={name}
                    className={`muted absolute whitespace-nowrap ${i % 2 === 0 ? "top-0" : "bottom-0"}`}
                    style={
                      credit > 85
                        ? { right: `${100 - credit}%` }
                        : credit < 6
                          ? { left: 0 }
                          : { left: `${credit}%`, transform: "translateX(-50%)" }
                    }
                  >
                    {name} {credit}%
                  </span>
                ))}
              </div>
            )}
          </div>
          {parts.map(({ name, rows }) => (
            <Fragment key={name}>
              {name !== null && (
                <h3 className="pt-2 text-sm font-semibold">
                  {name === "" ? `In no ${asked.by === "box" ? "timebox" : "branch"}` : name}
                </h3>
              )}
              <ul>
                {rows.map((row) => (
                  <BoardRow
                    key={row.activity.id}
                    row={row}
                    stages={stages}
                    mayEdit={view.mayEdit}
                    blocked={plan.blocks.has(row.activity.id)}
                    onCredit={set(row.activity)}
                  />
                ))}
              </ul>
            </Fragment>
          ))}
        </section>
      ))}
    </div>
  );
}

/** The project's board: how far each activity has come along its stages, and which of its steps are done. */
export function BoardPage() {
  const { id } = useProject();
  return <Loaded query={useQuery(planQuery(id))}>{(view) => <Board view={view} />}</Loaded>;
}
