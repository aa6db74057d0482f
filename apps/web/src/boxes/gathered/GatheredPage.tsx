import type { GatheredView, PlanView } from "@chronometra/contract";
import { formatHours, type Change } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import { useHeardAnew } from "../../plan/engine/news/useHeardAnew.ts";
import { planValue } from "../../plan/engine/planValue.ts";
import { useProject } from "../../project/useProject.ts";
import { planQuery } from "../../resources/stored/queries.ts";
import { ChartInView } from "../../shared/charts/ChartInView.tsx";
import type { ChartProps } from "../../shared/charts/Chart.tsx";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { Toned } from "../../shared/dialogs/Toned.tsx";
import type { Column } from "../../shared/table/column.ts";
import { DataTable } from "../../shared/table/DataTable.tsx";
import { countWords, dateWords, driftTone, driftWords, percentWords, timeAxis } from "../../shared/words/words.ts";
import { gatheredQuery } from "../queries.ts";
import { useBoxActs } from "../useBoxActs.ts";
import { GatherDialog } from "./GatherDialog.tsx";
import { Tally } from "./Tally.tsx";
import { useWord } from "../../project/useWord.ts";

type Part = GatheredView["works"][number];

type WordOf = ReturnType<typeof useWord>;
const stateOf = ({ parked, blockedBy, state }: Part, wordOf: WordOf): string =>
  parked ? wordOf("parked") : blockedBy !== null ? `blocked: ${blockedBy}` : wordOf(state);

const hours = (id: string, head: string, of: (part: Part) => number): Column<Part> => ({
  ...{ id, head, numeric: true, is: "minutes", value: of, show: (part) => formatHours(of(part)) },
  // As the page counts: what is parked counts for nothing.
  total: (rows) => formatHours(rows.reduce((sum, part) => sum + (part.parked ? 0 : of(part)), 0)),
});

function columnsOf(project: string, wordOf: WordOf, leave: ((part: Part) => void) | null): Column<Part>[] {
  return [
    {
      id: "name",
      head: "Activity",
      value: ({ name }) => name,
      show: ({ id, name }) => (
        <Link className="link-quiet" to={`/projects/${project}/plan?at=${encodeURIComponent(id)}`}>
          {name}
        </Link>
      ),
    },
    { id: "path", head: "Branch", value: ({ path }) => path },
    {
      id: "state",
      head: "State",
      value: (part) => stateOf(part, wordOf),
      show: (part) => <span className={part.blockedBy !== null ? "adverse" : ""}>{stateOf(part, wordOf)}</span>,
    },
    { id: "people", head: "People", value: ({ people }) => people.join(", ") },
    { id: "finish", head: "Finish", value: ({ finish }) => finish, show: ({ finish }) => dateWords(finish) },
    { id: "linked", head: "Linked to it", value: ({ linked }) => (linked ? "yes" : "no") },
    hours("planned", "Planned", ({ plannedMinutes }) => plannedMinutes),
    hours("booked", "Booked", ({ bookedMinutes }) => bookedMinutes),
    hours("remaining", "Remaining", ({ leftMinutes }) => leftMinutes),
    ...(leave === null
      ? []
      : [
          {
            ...{ id: "leave", head: "", tool: true, value: () => null },
            show: (part: Part) => (
              <button
                type="button"
                className="btn btn-ghost btn-xs min-h-[24px]"
                aria-label={`Gather ${part.name} no more`}
                onClick={() => leave(part)}
              >
                Gather no more
              </button>
            ),
          },
        ]),
  ];
}

/** How many of its parts were finished by the end of each week, and the hours booked. */
function TrendChart({ view: { trend, name, count } }: { view: GatheredView }) {
  const option = useCallback<ChartProps["option"]>(
    ({ of, text }) => ({
      grid: { left: 40, right: 52, top: 26, bottom: 28 },
      tooltip: { trigger: "axis" },
      legend: { top: 0, textStyle: text, data: ["finished", "hours booked"] },
      xAxis: timeAxis(text),
      yAxis: [
        { type: "value", min: 0, max: count, minInterval: 1, axisLabel: text, splitLine: { show: false } },
        { type: "value", min: 0, axisLabel: text, splitLine: { lineStyle: { color: of("--rule") } } },
      ],
      series: [
        {
          ...{
            name: "finished",
            type: "line",
            step: "end",
            symbolSize: 4,
            color: of("--ink"),
            lineStyle: { width: 2 },
          },
          data: trend.map(({ until, complete }) => [until, complete]),
        },
        {
          ...{ name: "hours booked", type: "line", yAxisIndex: 1, symbolSize: 4, color: of("--brass") },
          lineStyle: { type: "dashed", width: 1.5 },
          data: trend.map(({ until, bookedMinutes }) => [until, Math.round(bookedMinutes / 6) / 10]),
        },
      ],
    }),
    [trend, count],
  );
  if (trend.length < 2) return null;
  const last = trend.at(-1)!;
  const [parts, booked] = [countWords(count, "part", "parts"), formatHours(last.bookedMinutes)];
  return (
    <ChartInView
      name={`${name}, parts finished`}
      words={`Of ${parts} ${last.complete} were finished by ${dateWords(last.until)}, with ${booked} booked.`}
      height="h-44"
      option={option}
    />
  );
}

/** When it is reached, against what was approved and promised. */
function Days({ view: { now, baseline, deadline, drift, reached } }: { view: GatheredView }) {
  return (
    <span className="muted">
      {now === null ? "no date" : `${reached ? "reached" : "forecast"} ${dateWords(now)}`}
      {baseline !== null && `, approved for ${dateWords(baseline)}`}
      {drift !== null && (
        <>
          , <Toned tone={driftTone(drift)}>{driftWords(drift)}</Toned>
        </>
      )}
      {deadline !== null && `, promised for ${dateWords(deadline)}`}
    </span>
  );
}

function Gathered({ told, view }: { told: GatheredView; view: PlanView }) {
  const stored = useMemo(() => planValue(view), [view]);
  const { isSaving, act } = useBoxActs(view.id, stored);
  const wordOf = useWord();
  const [gathers, setGathers] = useState(false);
  const milestone = stored.activities.get(told.id);
  const leave = ({ id, name }: Part): void =>
    act({
      words: `“${told.name}” gathers “${name}” no more.`,
      changesOf: ({ gathered }): Change[] =>
        gathered.get(id)?.milestone === told.id ? [{ type: "removeRow", table: "gathered", key: id }] : [],
    });
  return (
    <div className="page">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h1 className="text-lg">
          <Link className="link-quiet" to={`/projects/${view.id}/plan?at=${encodeURIComponent(told.id)}`}>
            {told.name}
          </Link>
        </h1>
        <Days view={told} />
        <span className="ml-auto flex items-center gap-3">
          <span className="muted text-sm" role="status">
            {isSaving ? "Saving …" : ""}
          </span>
          {told.mayEdit && (
            <button type="button" className="btn btn-sm" onClick={() => setGathers(true)}>
              Gather more
            </button>
          )}
        </span>
      </div>
      {told.works.length > 0 && (
        <>
          <Tally view={told} />
          <p className="text-sm">
            {formatHours(told.bookedMinutes)} booked · {formatHours(told.leftMinutes)} remaining ·{" "}
            {formatHours(told.plannedMinutes)} planned ·{" "}
            {told.percentComplete === null ? "nothing approved yet" : `${percentWords(told.percentComplete)} complete`}
          </p>
          <TrendChart view={told} />
        </>
      )}
      <DataTable
        name={`What ${told.name} gathers`}
        rows={told.works}
        columns={columnsOf(view.id, wordOf, told.mayEdit ? leave : null)}
        rowKey={({ id }) => id}
        totalName="All of them"
        empty={
          told.mayEdit
            ? "It gathers nothing yet. Gather the activities that make up this deliverable; their dates stay."
            : "It gathers nothing yet."
        }
      />
      {gathers && milestone !== undefined && (
        <GatherDialog
          {...{ project: view.id, revision: view.revision, plan: stored, milestone }}
          onAct={act}
          onClose={() => setGathers(false)}
        />
      )}
    </div>
  );
}

/** A milestone that gathers activities: how many stand how, their hours, and how it came there. */
export function GatheredPage() {
  const { id } = useProject();
  const { milestone = "" } = useParams();
  const [plan, told] = [useQuery(planQuery(id)), useQuery(gatheredQuery(id, milestone))];
  useHeardAnew(id, plan.data?.revision ?? Infinity);
  return (
    <Loaded query={told}>
      {(gathered) => <Loaded query={plan}>{(view) => <Gathered told={gathered} view={view} />}</Loaded>}
    </Loaded>
  );
}
