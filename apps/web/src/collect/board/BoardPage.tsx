import type { PlanView, Worded } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { Fragment, useMemo, useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { useHeardAnew } from "../../plan/engine/news/useHeardAnew.ts";
import { planValue } from "../../plan/engine/planValue.ts";
import { useAddress } from "../../shared/page/useAddress.ts";
import { useProject } from "../../project/useProject.ts";
import { useWord } from "../../project/useWord.ts";
import { planQuery } from "../../resources/stored/queries.ts";
import { usePlanChange } from "../../resources/stored/usePlanChange.ts";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { ListInSight } from "../../shared/table/ListInSight.tsx";
import { askedIn, BoardFilters, type Named } from "./BoardFilters.tsx";
import { BoardRow, type BoardRowProps } from "./BoardRow.tsx";
import { StagesDialog } from "./StagesDialog.tsx";
import {
  askedTracks,
  tracksOf,
  workersByActivity,
  type BoardAsked,
  type Track as TrackOf,
  type TrackRow,
} from "./tracks.ts";

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
    <div className="sticky top-0 z-10 flex items-end gap-4 border-b-2 border-current bg-base-100 pb-0.5">
      <div className="flex w-64 shrink-0 items-baseline gap-2">
        <h2 className="text-base">{HEADS[kind]}</h2>
        {onStages !== null && (
          <button
            type="button"
            className="btn btn-ghost btn-xs min-h-[24px]"
            aria-label={`Change stages ${(stages ?? []).map(({ name }) => name).join(", ")}`}
            onClick={onStages}
          >
            Change stages
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
const ROW_PIXELS = 33;
const idOfRow = ({ activity }: TrackRow): string => activity.id;
/** What a part of the board is called: states in the words of the project. */
function partName(name: string, by: BoardAsked["by"], wordOf: ReturnType<typeof useWord>): string {
  if (by === "state") return wordOf(name as Worded);
  return name !== "" ? name : `In no ${by === "box" ? "timebox" : "branch"}`;
}

function Board({ view }: { view: PlanView }) {
  const plan = useMemo(() => planValue(view), [view]);
  const change = usePlanChange(view);
  const tracks = useMemo(() => tracksOf(plan), [plan]);
  const workers = useMemo(() => workersByActivity(plan), [plan]);
  const wordOf = useWord();
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
        <section key={track.key} className="pb-6 [&_li]:scroll-mt-12" aria-label={labelOf(track)}>
          <TrackHead track={track} onStages={view.mayEdit && track.kind === "stages" ? () => setAsking(track) : null} />
          {parts.map(({ name, rows }) => (
            <Fragment key={name}>
              {name !== null && <h3 className="pt-2 text-sm font-semibold">{partName(name, asked.by, wordOf)}</h3>}
              <ul>
                <ListInSight rows={rows} keyOf={idOfRow} height={ROW_PIXELS}>
                  {(row, place) => (
                    <BoardRow
                      row={row}
                      place={place}
                      stages={track.stages}
                      mayEdit={view.mayEdit}
                      blocked={plan.blocks.has(row.activity.id)}
                      onCredit={onCredit}
                    />
                  )}
                </ListInSight>
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

/** The project's board: how far each activity has come along its stages or steps, and all other work by its state. */
export function BoardPage() {
  const { id } = useProject();
  const query = useQuery(planQuery(id));
  useHeardAnew(id, query.data?.revision ?? Infinity);
  return <Loaded query={query}>{(view) => <Board view={view} />}</Loaded>;
}
