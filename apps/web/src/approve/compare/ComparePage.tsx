import type { ComparisonView } from "@chronometra/contract";
import { formatDuration, formatHours } from "@chronometra/core";
import { ArrowLeftRight } from "lucide-react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link } from "react-router";
import { Lane } from "../../plan/chart/Lane.tsx";
import { useProject } from "../../project/useProject.ts";
import type { Column } from "../../shared/table/column.ts";
import { DataTable } from "../../shared/table/DataTable.tsx";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { Toned } from "../../shared/dialogs/Toned.tsx";
import { useAddress } from "../../shared/page/useAddress.ts";
import { dateWords, driftTone, money, movedWords } from "../../shared/words/words.ts";
import { comparedShapes, scaleOf } from "./compareLanes.ts";
import { DriftPart } from "./DriftPart.tsx";
import { differsIn, finishWords, isShown, summaryWords, WHAT_WORDS, type ComparedRow } from "../words/comparedWords.ts";
import { comparisonQuery } from "../queries.ts";
import { ToolButton } from "../../shared/fields/ToolButton.tsx";

const LANE_WIDTH = 240;
const LANE_HEIGHT = 21;

const FILTERS = [
  { id: "", words: "all that differs" },
  { id: "later", words: "later" },
  { id: "earlier", words: "earlier" },
  { id: "added", words: "added" },
  { id: "dropped", words: "dropped" },
  { id: "parked", words: "parked" },
  { id: "woken", words: "woken" },
  { id: "duration", words: "other duration" },
  { id: "budget", words: "other cost or hours" },
  { id: "logic", words: "other logic" },
  { id: "deadline", words: "other deadline" },
] as const;

type State = ComparedRow["from"];
const later = (days: number | null): string => (days === null ? "" : movedWords(days));

/** "a → b" where they differ, the one value where they do not. */
function fromTo<T>(from: T | null, to: T | null, words: (value: T) => string): string {
  const [a, b] = [from === null ? "–" : words(from), to === null ? "–" : words(to)];
  return a === b ? a : `${a} → ${b}`;
}

function columnsOf(view: ComparisonView): readonly Column<ComparedRow>[] {
  const scale = scaleOf(view.rows, LANE_WIDTH);
  const of = <K extends keyof NonNullable<State>>(
    row: ComparedRow,
    field: K,
  ): [NonNullable<State>[K] | null, NonNullable<State>[K] | null] => [
    row.from?.[field] ?? null,
    row.to?.[field] ?? null,
  ];
  const difference = (row: ComparedRow, field: "budgetMinor" | "minutes" | "durationMinutes"): number | null =>
    row.from === null || row.to === null ? null : (row.to[field] ?? 0) - (row.from[field] ?? 0);
  return [
    {
      id: "name",
      head: "Activity",
      value: ({ name }) => name,
      show: ({ name, path, id, what }) =>
        what === "dropped" ? (
          <span title={path}>{name}</span>
        ) : (
          <Link className="link-quiet" title={path} to={`../plan?at=${encodeURIComponent(id)}`} relative="path">
            {name}
          </Link>
        ),
    },
    { id: "path", head: "Branch", hidden: true, value: ({ path }) => path },
    {
      id: "what",
      head: "What",
      value: (row) =>
        row.what === "changed" ? [...differsIn(row)].join(", ") || "named or placed otherwise" : WHAT_WORDS[row.what],
    },
    {
      id: "lane",
      head: "Then and now",
      value: () => null,
      show: (row) =>
        scale === null ? null : (
          <svg
            width={LANE_WIDTH}
            height={LANE_HEIGHT}
            role="img"
            aria-label={`${row.name}: ${fromTo(...of(row, "finishDate"), dateWords)}`}
          >
            <Lane shapes={comparedShapes(row, scale)} summary={false} height={LANE_HEIGHT} />
          </svg>
        ),
    },
    {
      id: "start",
      head: "Starts",
      hidden: true,
      value: ({ to, from }) => (to ?? from)?.startDate ?? null,
      show: (row) => fromTo(...of(row, "startDate"), dateWords),
    },
    { id: "finish", head: "Finishes", value: ({ to, from }) => (to ?? from)?.finishDate ?? null, show: finishWords },
    {
      id: "days",
      head: "By",
      is: "days",
      hint: "Working days between the two finishes",
      numeric: true,
      value: ({ finishDays }) => finishDays,
      show: ({ finishDays }) => <Toned tone={driftTone(finishDays)}>{later(finishDays)}</Toned>,
    },
    {
      id: "length",
      head: "Duration",
      is: "days",
      numeric: true,
      value: (row) => {
        const more = difference(row, "durationMinutes");
        return more === null ? null : more / view.dayMinutes;
      },
      show: (row) => fromTo(...of(row, "durationMinutes"), (minutes) => formatDuration(minutes, view.dayMinutes)),
    },
    {
      id: "hours",
      head: "Hours",
      is: "minutes",
      numeric: true,
      hidden: true,
      value: (row) => difference(row, "minutes"),
      show: (row) => fromTo(...of(row, "minutes"), formatHours),
    },
    {
      id: "budget",
      head: `Planned cost, ${view.currency}`,
      money: () => view,
      numeric: true,
      value: (row) => difference(row, "budgetMinor"),
      show: (row) => fromTo(...of(row, "budgetMinor"), (minor) => money(minor, view.minorDigits)),
    },
    {
      id: "deadline",
      head: "Deadline",
      hidden: true,
      value: ({ to }) => to?.deadline ?? null,
      show: (row) =>
        row.from?.deadline == null && row.to?.deadline == null ? "" : fromTo(...of(row, "deadline"), dateWords),
    },
    {
      id: "logic",
      head: "Predecessors",
      wraps: true,
      value: ({ logicAdded, logicDropped }) =>
        [...logicAdded.map((words) => `+ ${words}`), ...logicDropped.map((words) => `− ${words}`)].join("; "),
    },
  ];
}

function Compared({
  view,
  filter,
  onFilter,
}: {
  view: ComparisonView;
  filter: string;
  onFilter: (filter: string) => void;
}) {
  const columns = useMemo(() => columnsOf(view), [view]);
  const rows = useMemo(() => view.rows.filter((row) => isShown(row, filter)), [view, filter]);
  const offered = FILTERS.map((each) => ({
    ...each,
    count: view.rows.filter((row) => isShown(row, each.id)).length,
  })).filter(({ id, count }) => id === "" || count > 0);
  return (
    <>
      <p className="my-2 max-w-4xl">{summaryWords(view).join(" ")}</p>
      {view.rows.length > 0 && (
        <fieldset className="mb-2 flex flex-wrap gap-x-4 gap-y-1 text-sm">
          <legend className="sr-only">What to show</legend>
          {offered.map(({ id, words, count }) => (
            <label key={id} className="flex items-center gap-1.5">
              <input type="radio" name="filter" checked={filter === id} onChange={() => onFilter(id)} />
              {words} <span className="muted">{count}</span>
            </label>
          ))}
        </fieldset>
      )}
      <DataTable
        name="Compared activities"
        rows={rows}
        columns={columns}
        rowKey={({ id }) => id}
        empty="The two say the same of every activity."
      />
    </>
  );
}

/** Two states of the plan side by side: baselines, issued periods, and the plan as it is now. */
export function ComparePage() {
  const look = useProject();
  const [params, put] = useAddress();
  const from = params.get("from") ?? (look.summary.baseline === null ? "plan" : `baseline-${look.summary.baseline}`);
  const to = params.get("to") ?? "plan";
  const query = useQuery({ ...comparisonQuery(look.id, from, to), placeholderData: keepPreviousData });
  const set = (change: Record<string, string>): void => put({ from, to, ...change });
  return (
    <div className="page">
      <Loaded query={query}>
        {(view) => {
          const choice = (name: string, value: string, field: "from" | "to") => (
            <select
              className="select select-sm w-64"
              aria-label={name}
              value={value}
              onChange={(event) => set({ [field]: event.target.value })}
            >
              {view.states.map((state) => (
                <option key={state.name} value={state.name}>
                  {state.words}
                  {state.on === null ? "" : `, ${dateWords(state.on)}`}
                </option>
              ))}
            </select>
          );
          return (
            <div aria-busy={query.isPlaceholderData}>
              <div className="flex flex-wrap items-center gap-2">
                <h2 className="text-base">Compared</h2>
                {choice("From", from, "from")}
                <ToolButton
                  icon={ArrowLeftRight}
                  name="The other way round"
                  onClick={() => set({ from: to, to: from })}
                />
                {choice("To", to, "to")}
                <Link className="muted ml-auto text-sm underline" to={`/projects/${look.id}/approvals`}>
                  The ledger of approvals
                </Link>
              </div>
              <DriftPart view={view} project={look.id} />
              <Compared view={view} filter={params.get("show") ?? ""} onFilter={(show) => set({ show })} />
            </div>
          );
        }}
      </Loaded>
    </div>
  );
}
