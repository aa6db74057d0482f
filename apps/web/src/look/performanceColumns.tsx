import type { PerformanceView } from "@chronometra/contract";
import type { Money } from "@chronometra/core";
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Column } from "../shared/table/column.ts";
import {
  figureExplained,
  figureMeaning,
  indexExplained,
  periods,
  scheduleExplained,
  scheduleMeaning,
  type FigureId,
  type ScheduleFigureId,
} from "../shared/words/figureWords.ts";
import { Toned } from "../shared/dialogs/Toned.tsx";
import {
  dateWords,
  driftTone,
  indexTone,
  money,
  ratioWords,
  varianceTone,
  varianceWords,
} from "../shared/words/words.ts";
import { activitiesBehind, anyOf, costsBehind, timeBehind } from "../watch/question/opens.ts";

type Part = PerformanceView["parts"][number];
export type Period = PerformanceView["periods"][number];

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

/** Figures split by a kind of part, each opening the rows that it is made of. */
export function partColumns(view: PerformanceView, project: string): readonly Column<Part>[] {
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

/** Figures over the periods: of all until then, or of each period alone. */
export function periodColumns(kind: Money, own: boolean): readonly Column<Period>[] {
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
      show: ({ number }) =>
        number === null ? (
          "now"
        ) : (
          <Link className="link-quiet" to={`../report/${number}`} relative="path">
            period {number}
          </Link>
        ),
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

/** Earned schedule in periods of each kind. */
export const SCHEDULE_COLUMNS: readonly Column<ScheduleLine>[] = [
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
