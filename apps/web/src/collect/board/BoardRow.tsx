import type { Activity, Credit } from "@chronometra/core";
import type { KeyboardEvent } from "react";
import { Link } from "react-router";
import type { PlaceInList } from "../../shared/table/ListInSight.tsx";
import { todayHere } from "../../shared/words/today.ts";
import { dateWords } from "../../shared/words/words.ts";
import {
  stageBeside,
  stateOf,
  stepsPercent,
  withStage,
  withStep,
  type Track as TrackOf,
  type TrackRow,
} from "./tracks.ts";
import { useWord } from "../../project/useWord.ts";

interface RowProps {
  readonly activity: Activity;
  readonly credit: Credit;
  readonly mayEdit: boolean;
  readonly blocked: boolean;
  readonly onCredit: (credit: Credit, words: string) => void;
}

const STATION =
  "absolute flex h-7 w-7 -translate-x-1/2 cursor-pointer items-center justify-center disabled:cursor-default";

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
          className={STATION}
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
  const wordOf = useWord();
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
        {wordOf(stateOf(activity))}
        {activity.actualStart !== undefined && activity.actualFinish === undefined && `, ${percent}%`}
      </span>
    </div>
  );
}

export interface BoardRowProps {
  readonly row: TrackRow;
  readonly stages: TrackOf["stages"];
  readonly mayEdit: boolean;
  readonly blocked: boolean;
  readonly onCredit: (activity: Activity, credit: Credit, words: string) => void;
  readonly place: PlaceInList;
}

/** One activity on the board, with where it stands. */
export function BoardRow({ row, stages, mayEdit, blocked, onCredit, place }: BoardRowProps) {
  const { activity, credit, path, box } = row;
  const props = {
    ...{ activity, mayEdit, blocked },
    onCredit: (next: Credit, words: string) => onCredit(activity, next, words),
  };
  return (
    <li {...place} className="flex items-center gap-4 border-b rule">
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
