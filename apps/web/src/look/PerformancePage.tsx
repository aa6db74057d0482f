import type { Money } from "@chronometra/core";
import type { PerformanceView } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, type ReactNode } from "react";
import { Link, useSearchParams } from "react-router";
import { LimitLink } from "../cycle/BrokenLimits.tsx";
import { useProject } from "../project/useProject.ts";
import type { Inks } from "../shared/Chart.tsx";
import { ChartInView } from "../shared/ChartInView.tsx";
import type { Column } from "../shared/column.ts";
import { DataTable } from "../shared/DataTable.tsx";
import {
  figureExplained,
  figureMeaning,
  indexExplained,
  periods,
  scheduleExplained,
  scheduleMeaning,
  type FigureId,
  type ScheduleFigureId,
} from "../shared/figureWords.ts";
import { Foldable } from "../shared/Foldable.tsx";
import { Loaded } from "../shared/Failure.tsx";
import { Toned } from "../shared/Toned.tsx";
import { useAddress } from "../shared/useAddress.ts";
import {
  dateWords,
  driftTone,
  indexTone,
  money,
  ratioWords,
  timeAxis,
  varianceTone,
  varianceWords,
} from "../shared/words.ts";
import { activitiesBehind, anyOf, costsBehind, timeBehind } from "../watch/opens.ts";
import { performanceQuery } from "./queries.ts";
import { SinceLock } from "./SinceLock.tsx";

type Part = PerformanceView["parts"][number];
type Period = PerformanceView["periods"][number];

const index = (value: number | null) => (
  <Toned tone={indexTone(value)} marked>
    {ratioWords(value)}
  </Toned>
);

/** The first day that dates are told of: figures run from the beginning to the data date. */
const FIRST_DAY = "1990-01-01";

/** Where the rows behind a part's budget and its actual cost are; `null` where no list holds just these. */
function behindPart(
  { by, asOf }: PerformanceView,
  project: string,
  key: string,
): { work: string | null; spent: string | null } {
  if (key === "" || asOf === null) return { work: null, spent: null };
  if (by === "category") return { work: null, spent: costsBehind(project, FIRST_DAY, asOf, anyOf("category", [key])) };
  if (by === "person")
    return {
      work: activitiesBehind(project, anyOf("people", [key])),
      spent: timeBehind([project], FIRST_DAY, asOf, anyOf("person", [key])),
    };
  if (by === "role") return { work: null, spent: timeBehind([project], FIRST_DAY, asOf, anyOf("role", [key])) };
  return { work: null, spent: null };
}

function partColumns(view: PerformanceView, project: string): readonly Column<Part>[] {
  const kind: Money = { currency: view.currency, minorDigits: view.minorDigits };
  const { minorDigits: digits } = kind;
  const opens = (to: string | null, words: ReactNode): ReactNode =>
    to === null ? (
      words
    ) : (
      <Link className="link-quiet" to={to}>
        {words}
      </Link>
    );
  const inMoney = () => kind;
  const sum = (pick: (part: Part) => number) => (rows: readonly Part[]) =>
    money(
      rows.reduce((total, row) => total + pick(row), 0),
      digits,
    );
  const meant = (id: FigureId): Pick<Column<Part>, "hint" | "explains"> => ({
    hint: figureMeaning(id),
    explains: ({ figures }) => figureExplained(id, figures, digits),
  });
  const amount = (id: "bac" | "pv" | "ev" | "ac", head: string): Column<Part> => ({
    id,
    head,
    ...meant(id),
    money: inMoney,
    numeric: true,
    value: ({ figures }) => figures[id],
    show: ({ key, figures }) =>
      opens(behindPart(view, project, key)[id === "ac" ? "spent" : "work"], money(figures[id], digits)),
    total: sum(({ figures }) => figures[id]),
  });
  const variance = (id: "sv" | "cv", head: string, adverse: string, favourable: string): Column<Part> => ({
    id,
    head,
    ...meant(id),
    money: inMoney,
    numeric: true,
    value: ({ figures }) => figures[id],
    show: ({ figures }) => (
      <Toned tone={varianceTone(figures[id])}>{varianceWords(figures[id], digits, adverse, favourable)}</Toned>
    ),
    total: (rows) =>
      varianceWords(
        rows.reduce((total, { figures }) => total + figures[id], 0),
        digits,
        adverse,
        favourable,
      ),
  });
  return [
    {
      id: "name",
      head: "Part",
      value: ({ name }) => name,
      show: ({ key, name }) =>
        key === "" ? <span className="muted">{name}</span> : opens(behindPart(view, project, key).work, name),
    },
    amount("bac", "BAC"),
    amount("pv", "PV"),
    amount("ev", "EV"),
    amount("ac", "AC"),
    variance("sv", "SV", "behind", "ahead"),
    variance("cv", "CV", "over", "under"),
    {
      id: "spi",
      head: "SPI",
      ...meant("spi"),
      numeric: true,
      value: ({ figures }) => figures.spi,
      show: ({ figures }) => index(figures.spi),
    },
    {
      id: "cpi",
      head: "CPI",
      ...meant("cpi"),
      numeric: true,
      value: ({ figures }) => figures.cpi,
      show: ({ figures }) => index(figures.cpi),
    },
    {
      id: "estimate",
      head: "EAC from what remains",
      ...meant("eacBottomUp"),
      money: inMoney,
      numeric: true,
      value: ({ figures }) => figures.eacBottomUp,
      show: ({ figures }) => money(figures.eacBottomUp, digits),
      total: sum(({ figures }) => figures.eacBottomUp),
    },
  ];
}

function periodColumns(kind: Money, own: boolean): readonly Column<Period>[] {
  const { minorDigits: digits } = kind;
  const of = (period: Period) => (own ? period.own : period);
  const amount = (id: "pv" | "ev" | "ac", head: string): Column<Period> => ({
    id,
    head,
    hint: figureMeaning(id),
    money: () => kind,
    numeric: true,
    value: (period) => of(period)[id],
    show: (period) => money(of(period)[id], digits),
    ...(own
      ? {
          total: (rows: readonly Period[]) =>
            money(
              rows.reduce((sum, row) => sum + row.own[id], 0),
              digits,
            ),
        }
      : {}),
  });
  return [
    {
      id: "number",
      head: "Period",
      value: ({ number }) => number ?? Infinity,
      show: ({ number }) => (number === null ? "now" : `period ${number}`),
    },
    {
      id: "dataDate",
      head: "Data date",
      value: ({ dataDate }) => dataDate,
      show: ({ dataDate }) => dateWords(dataDate),
    },
    amount("pv", "PV"),
    amount("ev", "EV"),
    amount("ac", "AC"),
    {
      id: "spi",
      head: "SPI",
      hint: figureMeaning("spi"),
      explains: (period) => indexExplained("spi", of(period), digits),
      numeric: true,
      value: (period) => of(period).spi,
      show: (period) => index(of(period).spi),
    },
    {
      id: "cpi",
      head: "CPI",
      hint: figureMeaning("cpi"),
      explains: (period) => indexExplained("cpi", of(period), digits),
      numeric: true,
      value: (period) => of(period).cpi,
      show: (period) => index(of(period).cpi),
    },
    {
      id: "explanation",
      head: "Explained",
      wraps: true,
      value: ({ explanation }) => explanation?.words ?? null,
      show: ({ explanation }) => (explanation === null ? "" : <span title={explanation.by}>{explanation.words}</span>),
    },
  ];
}

const KIND_WORDS = { workday: "working days", week: "weeks", month: "months" } as const;
type ScheduleLine = PerformanceView["earnedSchedules"][number];

const scheduleColumn = (id: ScheduleFigureId, head: string): Column<ScheduleLine> => ({
  id,
  head,
  numeric: true,
  hint: scheduleMeaning(id),
  explains: (line) => scheduleExplained(id, line),
  value: (line) => line[id],
  show: (line) => (id === "forecastFinish" ? dateWords(line[id]) : periods(line[id])),
});

const SCHEDULE_COLUMNS: readonly Column<ScheduleLine>[] = [
  { id: "period", head: "In", value: ({ period }) => KIND_WORDS[period] },
  scheduleColumn("es", "ES"),
  scheduleColumn("at", "AT"),
  scheduleColumn("pd", "PD"),
  {
    ...scheduleColumn("svt", "SV(t)"),
    show: ({ svt }) =>
      svt === null ? (
        "–"
      ) : (
        <Toned tone={driftTone(-svt)}>
          {periods(Math.abs(svt))} {svt < 0 ? "behind" : "ahead"}
        </Toned>
      ),
  },
  { ...scheduleColumn("spit", "SPI(t)"), show: ({ spit }) => index(spit) },
  scheduleColumn("forecastFinish", "Points to"),
];

/** SPI and CPI over the periods: of all until then, and of each period alone. */
function IndexCurves({ periods }: { periods: readonly Period[] }) {
  const option = useCallback(
    ({ of, text }: Inks) => {
      const line = (
        name: string,
        pick: (period: Period) => number | null,
        colour: string,
        type: string,
        width: number,
      ) => ({
        name,
        type: "line",
        symbol: "circle",
        symbolSize: 4,
        connectNulls: true,
        data: periods.flatMap((period) =>
          pick(period) === null ? [] : [[period.dataDate, Math.round(pick(period)! * 1000) / 1000]],
        ),
        lineStyle: { color: of(colour), type, width },
        itemStyle: { color: of(colour) },
      });
      return {
        grid: { left: 8, right: 16, top: 28, bottom: 4, containLabel: true },
        legend: { type: "scroll", top: 0, left: 0, right: 40, textStyle: text, itemGap: 26 },
        tooltip: {
          trigger: "axis",
          backgroundColor: of("--color-base-100"),
          borderColor: of("--color-base-content"),
          textStyle: text,
          valueFormatter: (value: unknown) => ratioWords(typeof value === "number" ? value : null),
        },
        xAxis: timeAxis(text),
        yAxis: {
          type: "value",
          scale: true,
          axisLabel: { ...text, formatter: ratioWords },
          splitLine: { lineStyle: { color: of("--color-base-300") } },
        },
        series: [
          {
            ...line("SPI", ({ spi }) => spi, "--color-info", "solid", 2),
            markLine: {
              silent: true,
              symbol: ["none", "none"],
              label: { show: false },
              lineStyle: { color: of("--color-base-content"), type: "dashed", width: 1 },
              data: [{ yAxis: 1 }],
            },
          },
          line("CPI", ({ cpi }) => cpi, "--color-error", "solid", 2),
          line("SPI of the period alone", ({ own }) => own.spi, "--color-info", "dotted", 1),
          line("CPI of the period alone", ({ own }) => own.cpi, "--color-error", "dotted", 1),
        ],
      };
    },
    [periods],
  );
  const last = periods.at(-1);
  return (
    <ChartInView
      name="Indices over the periods"
      words={`SPI and CPI over ${periods.length} periods${last === undefined ? "" : `, now ${ratioWords(last.spi)} and ${ratioWords(last.cpi)}`}; the table beside says the same.`}
      height="h-56"
      option={option}
    />
  );
}

function Page({ view }: { view: PerformanceView }) {
  const [params, put] = useAddress();
  const look = useProject();
  const { id } = look;
  const own = params.get("alone") === "yes";
  const columns = useMemo(() => partColumns(view, id), [view, id]);
  const overTime = useMemo(
    () => periodColumns({ currency: view.currency, minorDigits: view.minorDigits }, own),
    [view.currency, view.minorDigits, own],
  );
  if (view.project === null)
    return (
      <p className="page muted">
        There is nothing to measure yet: the plan needs to be approved and to have a data date.{" "}
        <Link className="underline" to={`/projects/${id}/approvals`}>
          Go to approvals
        </Link>
      </p>
    );
  const { forecast, minorDigits: digits } = view;
  return (
    <div className="page flex flex-col gap-4">
      <p className="text-sm">
        <span className="muted">
          As of {dateWords(view.asOf)}, in {view.currency}.
        </span>{" "}
        At completion it will cost {money(forecast.least, digits)} to {money(forecast.most, digits)}, depending on how
        the rest goes; the plan finishes {dateWords(forecast.finish)}, earned schedule points to{" "}
        {dateWords(forecast.esFinish)}.
        {view.broken.length > 0 && (
          <>
            {" "}
            To be explained:{" "}
            {view.broken.map((limit, i) => (
              <span key={limit.rule}>
                {i > 0 && "; "}
                <LimitLink project={id} limit={limit} />
                {limit.explanation !== null && <span className="muted"> “{limit.explanation.words}”</span>}
              </span>
            ))}
            .{" "}
            <Link className="underline" to={`/cycle?step=Explain&project=${id}`}>
              Explain
            </Link>
          </>
        )}
      </p>
      <SinceLock look={look} />
      <div className="grid gap-x-8 gap-y-3 lg:grid-cols-2">
        <Foldable name="Indices" place="performance">
          <IndexCurves periods={view.periods} />
        </Foldable>
        <div>
          <h2 className="pb-1 text-base">Earned schedule</h2>
          <DataTable
            name="Earned schedule"
            rows={view.earnedSchedules}
            columns={SCHEDULE_COLUMNS}
            rowKey={({ period }) => period}
            empty="Nothing to measure without an approved plan."
          />
        </div>
      </div>
      <section>
        <DataTable
          key={view.by}
          name={`Figures by ${view.kinds.find(({ id: kind }) => kind === view.by)?.name ?? view.by}`}
          rows={view.parts}
          columns={columns}
          rowKey={({ key }) => key}
          totalName="The project"
          empty="Nothing to split."
          tools={
            <label className="flex items-center gap-1 text-sm">
              by
              <select
                className="select select-sm w-auto"
                aria-label="Split by"
                value={view.by}
                onChange={(event) => put({ by: event.target.value })}
              >
                {view.kinds.map(({ id: kind, name }) => (
                  <option key={kind} value={kind}>
                    {name.toLowerCase()}
                  </option>
                ))}
              </select>
            </label>
          }
        />
      </section>
      <section>
        <DataTable
          key={String(own)}
          name="Periods"
          rows={view.periods}
          columns={overTime}
          rowKey={({ number }) => String(number)}
          {...(own ? { totalName: "Together" } : {})}
          empty="No period has been issued yet."
          tools={
            <label className="flex items-center gap-1.5 text-sm">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={own}
                onChange={(event) => put({ alone: event.target.checked ? "yes" : null })}
              />
              each period alone
            </label>
          }
        />
      </section>
    </div>
  );
}

/** A project's figures split by people, roles, categories and own fields, over the periods, and in time. */
export function PerformancePage() {
  const { id } = useProject();
  const [params] = useSearchParams();
  const query = useQuery(performanceQuery(id, params.get("by") ?? "person"));
  return <Loaded query={query}>{(view) => <Page view={view} />}</Loaded>;
}
