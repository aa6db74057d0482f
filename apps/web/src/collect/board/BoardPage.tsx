import type { PlanView } from "@chronometra/contract";
import type { Activity, Change, Credit } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { Fragment, useMemo, useState, type KeyboardEvent } from "react";
import { Link } from "react-router";
import { toast } from "../../shared/messages/toast.ts";
import { useHeardAnew } from "../../plan/engine/news/useHeardAnew.ts";
import { planValue } from "../../plan/engine/planValue.ts";
import { useAddress } from "../../shared/page/useAddress.ts";
import { todayHere } from "../../shared/words/today.ts";
import { useProject } from "../../project/useProject.ts";
import { planQuery } from "../../resources/stored/queries.ts";
import { usePlanChange } from "../../resources/stored/usePlanChange.ts";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { dateWords } from "../../shared/words/words.ts";
import { askedIn, BoardFilters, type Named } from "./BoardFilters.tsx";
import { StagesDialog } from "./StagesDialog.tsx";
import {
  askedTracks,
  stageBeside,
  stateOf,
  stepsPercent,
  tracksOf,
  withStage,
  withStep,
  workersByActivity,
  type BoardAsked,
  type Track as TrackOf,
  type TrackRow,
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

/** How far something has come that earns neither by stages nor by steps: as it was reported. */
function Reported({ activity }: { activity: Activity }) {
  const percent = activity.actualFinish === undefined ? (activity.percent ?? 0) : 100;
  return (
    <div className="relative flex h-8 min-w-0 flex-1 items-center">
      <span aria-hidden="true" className="absolute inset-x-0 top-1/2 border-t border-current opacity-25" />
      <span
        aria-hidden="true"
        className="absolute left-0 top-1/2 -mt-px h-[3px] bg-secondary"
        style={{ width: `${percent}%` }}
      />
      <span className="relative ml-auto bg-base-100 pl-2 text-sm">
        {stateOf(activity)}
        {activity.actualStart !== undefined && activity.actualFinish === undefined && `, ${percent}%`}
      </span>
    </div>
  );
}

interface BoardRowProps {
  readonly row: TrackRow;
  readonly stages: TrackOf["stages"];
  readonly mayEdit: boolean;
  readonly blocked: boolean;
  readonly onCredit: (activity: Activity, credit: Credit, words: string) => void;
}

/** One activity on the board, with where it stands. */
function BoardRow({ row: { activity, credit, path, box }, stages, mayEdit, blocked, onCredit }: BoardRowProps) {
  const props = {
    ...{ activity, mayEdit, blocked },
    onCredit: (next: Credit, words: string) => onCredit(activity, next, words),
  };
  return (
    <li
      className="flex items-center gap-4 border-b rule"
      style={{ contentVisibility: "auto", containIntrinsicSize: "auto 33px" }}
    >
      <span className="w-64 shrink-0 truncate" title={`${path} ${activity.name}`}>
        <Link className="link-quiet" to={`../plan?at=${encodeURIComponent(activity.id)}`} relative="path">
          {activity.name}
        </Link>
        {box !== "" && <span className="muted text-sm"> {box}</span>}
        {blocked && <span className="adverse text-sm"> blocked</span>}
      </span>
      <div className="mr-4 flex min-w-0 flex-1">
        {credit === null ? (
          <Reported activity={activity} />
        ) : stages === null ? (
          <Steps {...props} credit={credit} />
        ) : (
          <Track {...props} credit={credit} />
        )}
      </div>
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

const HEADS = { stages: "By stages", steps: "By steps", other: "Other work" } as const;

/** What stands over some activities: how they earn, and where their stages lie. */
function TrackHead({ track: { kind, stages }, onStages }: { track: TrackOf; onStages: (() => void) | null }) {
  return (
    <div className="flex items-end gap-4 border-b-2 border-current pb-0.5">
      <div className="flex w-64 shrink-0 items-baseline gap-2">
        <h2 className="text-base">{HEADS[kind]}</h2>
        {onStages !== null && (
          <button type="button" className="btn btn-ghost btn-xs min-h-[24px]" onClick={onStages}>
            Change them
          </button>
        )}
      </div>
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
  );
}

const NONE: readonly TrackRow[] = [];
const partName = (name: string, by: BoardAsked["by"]): string =>
  name !== "" ? name : `In no ${by === "box" ? "timebox" : "branch"}`;

function Board({ view }: { view: PlanView }) {
  const plan = useMemo(() => planValue(view), [view]);
  const change = usePlanChange(view);
  const tracks = useMemo(() => tracksOf(plan), [plan]);
  const workers = useMemo(() => workersByActivity(plan), [plan]);
  const [params, put] = useAddress();
  // Stages that are changed: those of a track, or new ones.
  const [asking, setAsking] = useState<TrackOf | "new" | null>(null);
  const asked = askedIn(params, plan);
  const shown = askedTracks(tracks, workers, asked);
  const store = (changes: readonly Change[], words: string): void =>
    void change(changes, words).then((fault) => fault !== null && toast.error(fault));
  const onCredit: BoardRowProps["onCredit"] = (activity, credit, words) =>
    store([{ type: "setCredit", activity: activity.id, credit }], words);
  if (tracks.length === 0)
    return <p className="page muted">There is no work in this plan yet. What is planned stands here by its state.</p>;
  return (
    <div className="page">
      <BoardFilters
        asked={asked}
        people={peopleOn(tracks, workers)}
        teams={[...plan.teams.values()]}
        team={params.get("team") ?? ""}
        put={put}
      />
      {view.mayEdit && (
        <button type="button" className="btn btn-sm mb-3" onClick={() => setAsking("new")}>
          New stages
        </button>
      )}
      {shown.length === 0 && (
        <p className="muted">Nothing on the board is so; ask for less, or show what is finished too.</p>
      )}
      {shown.map(({ track, parts }) => (
        <section key={track.key} className="pb-6" aria-label={labelOf(track)}>
          <TrackHead track={track} onStages={view.mayEdit && track.kind === "stages" ? () => setAsking(track) : null} />
          {parts.map(({ name, rows }) => (
            <Fragment key={name}>
              {name !== null && <h3 className="pt-2 text-sm font-semibold">{partName(name, asked.by)}</h3>}
              <ul>
                {rows.map((row) => (
                  <BoardRow
                    key={row.activity.id}
                    row={row}
                    stages={track.stages}
                    mayEdit={view.mayEdit}
                    blocked={plan.blocks.has(row.activity.id)}
                    onCredit={onCredit}
                  />
                ))}
              </ul>
            </Fragment>
          ))}
        </section>
      ))}
      {asking !== null && (
        <StagesDialog
          {...{ project: view.id, revision: view.revision, plan }}
          stages={asking === "new" ? [] : (asking.stages ?? [])}
          rows={asking === "new" ? NONE : asking.rows}
          others={tracks.find(({ kind }) => kind === "other")?.rows ?? NONE}
          onStages={store}
          onClose={() => setAsking(null)}
        />
      )}
    </div>
  );
}

const labelOf = ({ kind, stages }: TrackOf): string =>
  kind === "steps" ? "Steps" : stages === null ? HEADS.other : stages.map(({ name }) => name).join(", ");

/** The project's board: how far each activity has come along its stages, which of its steps are done, and all other work. */
export function BoardPage() {
  const { id } = useProject();
  const query = useQuery(planQuery(id));
  useHeardAnew(id, query.data?.revision ?? Infinity);
  return <Loaded query={query}>{(view) => <Board view={view} />}</Loaded>;
}
