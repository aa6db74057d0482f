import type { Box, BoxLookBack } from "@chronometra/contract";
import { daysWords, formatHours, type BoxFate } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { useCallback } from "react";
import { Link, useParams } from "react-router";
import { useHeardAnew } from "../plan/engine/news/useHeardAnew.ts";
import { useProject } from "../project/useProject.ts";
import { ChartInView } from "../shared/charts/ChartInView.tsx";
import type { ChartProps } from "../shared/charts/Chart.tsx";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { DataTable } from "../shared/table/DataTable.tsx";
import type { Column } from "../shared/table/column.ts";
import { countWords, dateWords, shortDateWords, timeAxis } from "../shared/words/words.ts";
import { boxesQuery, lookBackQuery } from "./queries.ts";

type Line = BoxLookBack["lines"][number];

const FATE_WORDS: Readonly<Record<BoxFate, string>> = {
  finished: "finished in it",
  finishedLate: "finished after it",
  movedOn: "moved on",
  takenOut: "removed from it",
  open: "not finished",
};

const fateOf = ({ fate, to }: Line): string =>
  fate === "movedOn" && to !== null ? `moved on to ${to}` : FATE_WORDS[fate];
const cameOf = ({ meant, cameOn }: Line): string => (meant ? "meant for it" : `came in on ${dateWords(cameOn)}`);
const nameOf = ({ name }: Line): string => name ?? "an activity that has left the plan";

const columnsOf = (project: string): Column<Line>[] => [
  {
    id: "name",
    head: "Activity",
    value: nameOf,
    show: (line) =>
      line.name === null ? (
        <span className="muted">{nameOf(line)}</span>
      ) : (
        <Link className="link-quiet" to={`/projects/${project}/plan?at=${encodeURIComponent(line.activity)}`}>
          {line.name}
        </Link>
      ),
  },
  { id: "came", head: "How it came in", value: cameOf },
  { id: "fate", head: "What became of it", value: fateOf },
  {
    id: "planned",
    head: "Planned",
    numeric: true,
    is: "minutes",
    value: ({ plannedMinutes }) => plannedMinutes,
    show: ({ plannedMinutes }) => formatHours(plannedMinutes),
    total: (rows) => formatHours(rows.reduce((sum, { plannedMinutes }) => sum + plannedMinutes, 0)),
  },
];

/** What was meant, came in later, was finished and went elsewhere, in a sentence. */
function lookedBackWords(lines: readonly Line[]): string {
  const count = (is: (line: Line) => boolean): number => lines.filter(is).length;
  const [meant, fate] = [count((line) => line.meant), (what: BoxFate) => count((line) => line.fate === what)];
  return [
    `${countWords(meant, "was", "were")} meant for it`,
    `${lines.length - meant} came in later`,
    `${fate("finished")} finished in it`,
    ...(fate("finishedLate") > 0 ? [`${fate("finishedLate")} after it`] : []),
    `${fate("movedOn")} moved on`,
    ...(fate("takenOut") > 0 ? [`${fate("takenOut")} removed`] : []),
    `${fate("open")} not finished`,
  ].join(" · ");
}

/** How much a day would finish in time, and what there is to do it with. */
function paceWords({ leftMinutes, daysLeft, capacityLeftMinutes, first, last }: Box, today: string): string {
  if (leftMinutes === 0) return "Nothing remains in it.";
  if (last < today) return `${formatHours(leftMinutes)} remain, and it is over.`;
  const pace = daysLeft === 0 ? null : Math.ceil(leftMinutes / daysLeft);
  const days = countWords(daysLeft, "day of work", "days of work");
  return `${formatHours(leftMinutes)} remain${first > today ? "" : ` for ${days} to come`}${
    pace === null ? "" : `: ${formatHours(pace)} a day would finish it in time`
  }. Its people have ${formatHours(capacityLeftMinutes)}.`;
}

/** What was left at the end of each day, what was worked on it, and the way that would end in time. */
function BurnDown({ box, today }: { box: Box; today: string }) {
  const { burnt, last, name } = box;
  const option = useCallback<ChartProps["option"]>(
    ({ of, text }) => {
      const end = burnt.at(-1)!;
      const hours = (minutes: number): number => Math.round(minutes / 6) / 10;
      return {
        grid: { left: 48, right: 16, top: 12, bottom: 28 },
        tooltip: { trigger: "axis", valueFormatter: (value: unknown) => `${String(value)} h` },
        xAxis: timeAxis(text),
        yAxis: { type: "value", min: 0, axisLabel: text, splitLine: { lineStyle: { color: of("--rule") } } },
        series: [
          {
            ...{ name: "worked", type: "bar", barWidth: 8, itemStyle: { color: of("--color-base-300") } },
            data: burnt.slice(1).map(({ date, bookedMinutes }) => [date, hours(bookedMinutes)]),
          },
          {
            ...{
              name: "remaining",
              type: "line",
              step: "end",
              symbolSize: 5,
              color: of("--ink"),
              lineStyle: { width: 2 },
            },
            data: burnt.map(({ date, leftMinutes }) => [date, hours(leftMinutes)]),
          },
          {
            ...{ name: "in time", type: "line", silent: true, symbol: "none", color: of("--brass") },
            ...{ lineStyle: { type: "dashed", width: 1.5 }, tooltip: { show: false } },
            data:
              end.date < last && last >= today
                ? [
                    [end.date, hours(end.leftMinutes)],
                    [last, 0],
                  ]
                : [],
          },
        ],
      };
    },
    [burnt, last, today],
  );
  if (burnt.length < 2) return null;
  const [from, to] = [burnt[0]!, burnt.at(-1)!];
  const days = `${shortDateWords(from.date)} to ${shortDateWords(to.date)}`;
  const hours = `from ${formatHours(from.leftMinutes)} to ${formatHours(to.leftMinutes)}`;
  return (
    <ChartInView
      name={`${name}, remaining hours`}
      words={`Remaining hours of ${name}, ${days}: ${hours}.`}
      height="h-52"
      option={option}
    />
  );
}

/** One timebox, looked at while it lasts and looked back at when it is over. */
export function BoxPage() {
  const { id } = useProject();
  const { box: key = "" } = useParams();
  const [boxes, back] = [useQuery(boxesQuery(id)), useQuery(lookBackQuery(id, key))];
  useHeardAnew(id, boxes.data?.revision ?? Infinity);
  return (
    <Loaded query={back}>
      {({ lines }) => (
        <Loaded query={boxes}>
          {({ boxes: all, today }) => {
            const at = all.findIndex((box) => box.id === key);
            const box = all[at];
            if (box === undefined) return null;
            return (
              <div className="page">
                <div className="flex flex-wrap items-baseline gap-x-3">
                  <h1 className="text-lg">{box.name}</h1>
                  <span className="muted">{daysWords(box.first, box.last)}</span>
                  <nav aria-label="Timeboxes" className="ml-auto flex gap-4 text-sm">
                    {at > 0 && (
                      <Link className="underline" to={`../timeboxes/${encodeURIComponent(all[at - 1]!.id)}`}>
                        {all[at - 1]!.name}
                      </Link>
                    )}
                    <Link className="underline" to="../timeboxes">
                      All timeboxes
                    </Link>
                    {at < all.length - 1 && (
                      <Link className="underline" to={`../timeboxes/${encodeURIComponent(all[at + 1]!.id)}`}>
                        {all[at + 1]!.name}
                      </Link>
                    )}
                  </nav>
                </div>
                <p className="py-1">{paceWords(box, today)}</p>
                <BurnDown box={box} today={today} />
                <p className="muted py-2 text-sm">{lookedBackWords(lines)}</p>
                <DataTable
                  name={`Looking back at ${box.name}`}
                  rows={lines}
                  columns={columnsOf(id)}
                  rowKey={({ activity }) => activity}
                  empty="Nothing has stood in it yet."
                />
              </div>
            );
          }}
        </Loaded>
      )}
    </Loaded>
  );
}
