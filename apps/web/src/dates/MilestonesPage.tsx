import type { DeadlineLine, MilestoneTrend } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { useProject } from "../project/useProject.ts";
import type { Column } from "../shared/table/column.ts";
import { DataTable } from "../shared/table/DataTable.tsx";
import { Foldable } from "../shared/page/Foldable.tsx";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import {
  dateWords,
  DEADLINE_ORDER,
  DEADLINE_TONES,
  DEADLINE_WORDS,
  driftTone,
  driftWords,
  marginWords,
  movedWords,
  shortDateWords,
} from "../shared/words/words.ts";
import { promiseKey } from "./PromiseLine.tsx";
import { trendQuery } from "./queries.ts";
import { slippedBetween } from "./slippage.ts";
import { TrendChart } from "./TrendChart.tsx";

type Milestone = MilestoneTrend["milestones"][number];

const inPlan = (project: string, activity: string, name: string) => (
  <Link className="link-quiet" to={`/projects/${project}/plan?at=${encodeURIComponent(activity)}`}>
    {name}
  </Link>
);

const SHOWN_AT_FIRST = 20;

function milestoneColumns(
  project: string,
  mayEdit: boolean,
  trend: MilestoneTrend,
  against: string,
  hidden: ReadonlySet<string>,
  onShow: (id: string, shown: boolean) => void,
): Column<Milestone>[] {
  const period = trend.periods.findIndex(({ number }) => `period-${number}` === against);
  const last = trend.periods.length - 1;
  const slip = (row: Milestone): number | null => slippedBetween(row, against === "baseline" ? null : period);
  const moved = (days: number | null) => (
    <Toned tone={driftTone(days)}>
      {days === null ? "–" : against === "baseline" ? driftWords(days) : movedWords(days, "no move")}
    </Toned>
  );
  const sinceLast = (row: Milestone): number | null => slippedBetween(row, last);
  return [
    {
      id: "show",
      head: "In the chart",
      tool: true,
      value: () => null,
      show: ({ id, name }) => (
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          aria-label={`${name} in the chart`}
          checked={!hidden.has(id)}
          onChange={(event) => onShow(id, event.target.checked)}
        />
      ),
    },
    {
      id: "name",
      head: "Milestone",
      value: ({ name }) => name,
      show: ({ id, name, now }) =>
        now === null ? (
          <span className="muted" title="no longer in the plan">
            {name}
          </span>
        ) : (
          inPlan(project, id, name)
        ),
    },
    {
      id: "gathers",
      head: "Gathers",
      hint: "Activities that make it up; opens their count by state, hours and trend",
      numeric: true,
      value: ({ gathers }) => gathers,
      show: ({ id, name, gathers, now }) =>
        now === null ? null : (
          <Link
            className="link-quiet"
            to={`/projects/${project}/milestones/${encodeURIComponent(id)}`}
            aria-label={`${name} gathers ${gathers}`}
          >
            {gathers}
          </Link>
        ),
    },
    {
      id: "baseline",
      head: "Approved",
      value: ({ baseline }) => baseline,
      show: ({ baseline }) => dateWords(baseline),
    },
    ...trend.periods.map(({ number, dataDate }, i): Column<Milestone> => ({
      id: `period-${number}`,
      head: `P${number}`,
      hint: `As issued for period ${number}, ${dateWords(dataDate)}`,
      value: ({ forecasts }) => forecasts[i]?.date ?? null,
      show: ({ forecasts }) =>
        forecasts[i] == null ? (
          "–"
        ) : (
          <span title={driftWords(forecasts[i].drift)}>{shortDateWords(forecasts[i].date)}</span>
        ),
      hidden: i < last - 4,
    })),
    {
      id: "now",
      head: "Now",
      value: ({ now }) => now,
      show: ({ now, reached }) => (now === null ? "–" : `${dateWords(now)}${reached ? ", reached" : ""}`),
    },
    {
      id: "slip",
      head: against === "baseline" ? "Drift" : `Since P${trend.periods[period]?.number ?? ""}`,
      is: "days",
      hint: "Working days",
      numeric: true,
      value: slip,
      show: (row) => moved(slip(row)),
    },
    ...(last >= 0 && against !== `period-${trend.periods[last]!.number}`
      ? [
          {
            id: "sinceLast",
            head: `Since period ${trend.periods[last]!.number}`,
            is: "days" as const,
            hint: "Working days since the last issued period",
            numeric: true,
            value: sinceLast,
            show: (row: Milestone) => {
              const days = sinceLast(row);
              return <Toned tone={driftTone(days)}>{days === null ? "–" : movedWords(days, "no move")}</Toned>;
            },
          },
        ]
      : []),
    {
      id: "why",
      head: "Why",
      tool: true,
      value: () => null,
      show: ({ id, now, name }) =>
        now === null || last < 0 ? null : (
          <Link
            className="underline"
            aria-label={`Why ${name} moved`}
            to={`/projects/${project}/compare?from=${against === "baseline" ? `period-${trend.periods[0]!.number}` : against}&to=plan&why=${encodeURIComponent(id)}`}
          >
            why
          </Link>
        ),
    },
    ...(mayEdit
      ? [
          {
            id: "doSlip",
            head: "Slip",
            tool: true,
            value: () => null,
            show: ({ id, now, reached, name }: Milestone) =>
              now === null || reached ? null : (
                <Link
                  className="underline"
                  aria-label={`Slip ${name}`}
                  to={`/projects/${project}/slip/${encodeURIComponent(id)}`}
                >
                  slip …
                </Link>
              ),
          },
        ]
      : []),
  ];
}

const deadlineColumns = (project: string): Column<DeadlineLine>[] => [
  {
    id: "name",
    head: "Milestone or activity",
    value: ({ name }) => name,
    show: ({ id, name }) => (
      <Link
        className="link-quiet"
        to={`/deadlines?project=${project}&at=${encodeURIComponent(promiseKey({ project, id }))}`}
      >
        {name}
      </Link>
    ),
  },
  { id: "deadline", head: "Deadline", value: ({ deadline }) => deadline, show: ({ deadline }) => dateWords(deadline) },
  { id: "finish", head: "Finishes", value: ({ finish }) => finish, show: ({ finish }) => dateWords(finish) },
  {
    id: "margin",
    head: "Margin",
    is: "days",
    hint: "Working days between finish and deadline",
    numeric: true,
    value: ({ marginDays }) => marginDays,
    show: ({ marginDays }) => (marginDays === null ? "–" : marginWords(marginDays)),
  },
  {
    id: "state",
    head: "State",
    value: ({ state }) => DEADLINE_ORDER.indexOf(state),
    says: ({ state }) => DEADLINE_WORDS[state],
    show: ({ state }) => (
      <Toned tone={DEADLINE_TONES[state]} marked>
        {DEADLINE_WORDS[state]}
      </Toned>
    ),
  },
];

function Milestones({ trend }: { trend: MilestoneTrend }) {
  const { id, mayEdit } = useProject();
  const [params, put] = useAddress();
  const [hidden, setHidden] = useState<ReadonlySet<string>>(
    () => new Set(trend.milestones.slice(SHOWN_AT_FIRST).map((each) => each.id)),
  );
  const against = params.get("against") ?? "baseline";
  const shown = useMemo(() => trend.milestones.filter((each) => !hidden.has(each.id)), [trend, hidden]);
  const onShow = (milestone: string, now: boolean): void =>
    setHidden((was) => {
      const next = new Set(was);
      if (now) next.delete(milestone);
      else next.add(milestone);
      return next;
    });
  return (
    <>
      {trend.periods.length > 0 && shown.length > 0 && (
        <Foldable name="Trend" place="milestones">
          <TrendChart trend={trend} shown={shown} />
        </Foldable>
      )}
      {trend.periods.length === 0 && trend.milestones.length > 0 && (
        <p className="muted pb-2 text-sm">The trend of these dates is drawn from the first issued period on.</p>
      )}
      <DataTable
        key={against}
        name="Milestones"
        rows={trend.milestones}
        columns={milestoneColumns(id, mayEdit, trend, against, hidden, onShow)}
        rowKey={(row) => row.id}
        tools={
          <label className="flex items-center gap-1 text-sm">
            against
            <select
              className="select select-sm w-auto"
              aria-label="Slip against"
              value={against}
              onChange={(event) => put({ against: event.target.value })}
            >
              <option value="baseline">the approved date</option>
              {[...trend.periods].reverse().map(({ number }) => (
                <option key={number} value={`period-${number}`}>
                  period {number}
                </option>
              ))}
            </select>
          </label>
        }
        empty="The plan has no milestones. A milestone is an activity without duration at which something can be said to be reached."
      />
    </>
  );
}

/** A project's milestones with the trend of their dates, and its deadlines with their margin. */
export function MilestonesPage() {
  const { id, summary } = useProject();
  const query = useQuery(trendQuery(id));
  return (
    <div className="page">
      <h2 className="flex items-baseline gap-4 pb-1 text-base">
        Milestones
        <Link
          className="link-quiet inline-flex min-h-[24px] items-center text-sm font-normal"
          to={`/calendar?project=${id}`}
        >
          On the calendar
        </Link>
      </h2>
      <Loaded query={query}>{(trend) => <Milestones trend={trend} />}</Loaded>
      <h2 id="deadlines" className="pt-6 pb-1 text-base">
        Deadlines
      </h2>
      <DataTable
        name="Deadlines"
        rows={summary.deadlines}
        columns={deadlineColumns(id)}
        rowKey={(row) => row.id}
        empty="No activity carries a deadline. Give one in the plan's Deadline column."
      />
    </div>
  );
}
