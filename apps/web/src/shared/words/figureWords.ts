import type { EarnedSchedule, Figures } from "@chronometra/core";
import { dateWords, money, numberWords, percentWords, ratioWords } from "./words.ts";

export type FigureId = Exclude<keyof Figures, "etc" | "eacCpiSpi" | "percentSpent">;

type Amount = (minor: number) => string;

/** The figures that an index over a period is made of. */
type IndexFigures = Pick<Figures, "pv" | "ev" | "ac" | "spi" | "cpi">;

/** What an abbreviation stands for, and how it comes about. */
interface Meaning {
  readonly means: string;
  /** How it is computed, in the abbreviations of what it is computed from. */
  readonly by?: string;
  /** The same with this row's numbers. */
  readonly here?: (figures: Figures, amount: Amount) => string;
  readonly ratio?: true;
}

const INDICES = {
  spi: {
    means: "Schedule performance index: below 1 less was done than planned",
    by: "EV / PV",
    here: ({ ev, pv }: IndexFigures, amount: Amount) => `${amount(ev)} / ${amount(pv)}`,
    ratio: true,
  },
  cpi: {
    means: "Cost performance index: below 1 the work done cost more than its budget",
    by: "EV / AC",
    here: ({ ev, ac }: IndexFigures, amount: Amount) => `${amount(ev)} / ${amount(ac)}`,
    ratio: true,
  },
} as const;

const MEANINGS: Readonly<Record<FigureId, Meaning>> = {
  bac: { means: "Budget at completion: what was approved for all of it" },
  pv: { means: "Planned value: what was to be done by the data date, at its budget" },
  ev: { means: "Earned value: what has been done, at its budget" },
  ac: { means: "Actual cost: what has been spent by the data date" },
  percentComplete: {
    means: "Earned of the budget",
    by: "EV / BAC",
    here: ({ ev, bac }, amount) => `${amount(ev)} / ${amount(bac)}`,
  },
  sv: { means: "Schedule variance", by: "EV − PV", here: ({ ev, pv }, amount) => `${amount(ev)} − ${amount(pv)}` },
  cv: { means: "Cost variance", by: "EV − AC", here: ({ ev, ac }, amount) => `${amount(ev)} − ${amount(ac)}` },
  ...INDICES,
  eac: {
    means: "Estimate at completion: what it will cost at the rate so far",
    by: "BAC / CPI",
    here: ({ bac, cpi }, amount) => `${amount(bac)} / ${cpi === null ? "–" : numberWords(cpi, 4)}`,
  },
  vac: {
    means: "Variance at completion",
    by: "BAC − EAC",
    here: ({ bac, eac }, amount) => `${amount(bac)} − ${eac === null ? "–" : amount(eac)}`,
  },
  tcpiBac: {
    means: "To-complete performance index: what the rest must earn for its cost to keep the budget",
    by: "(BAC − EV) / (BAC − AC)",
    here: ({ bac, ev, ac }, amount) => `(${amount(bac)} − ${amount(ev)}) / (${amount(bac)} − ${amount(ac)})`,
    ratio: true,
  },
  tcpiEac: {
    means: "To-complete performance index: what the rest must earn for its cost to keep the estimate",
    by: "(BAC − EV) / (EAC − AC)",
    here: ({ bac, ev, eac, ac }, amount) =>
      `(${amount(bac)} − ${amount(ev)}) / (${eac === null ? "–" : amount(eac)} − ${amount(ac)})`,
    ratio: true,
  },
  eacRemaining: {
    means: "Estimate at completion where what remains costs what was planned",
    by: "AC + BAC − EV",
    here: ({ ac, bac, ev }, amount) => `${amount(ac)} + ${amount(bac)} − ${amount(ev)}`,
  },
  eacBottomUp: { means: "Estimate at completion from what remains", by: "AC and the remaining work at its rates" },
};

/** What a figure means and how it is computed, without numbers; for the head of a column. */
export function figureMeaning(id: FigureId): string {
  const { means, by } = MEANINGS[id];
  return by === undefined ? means : `${means}; ${by}`;
}

/** The same with a row's own numbers: "Cost variance; EV − AC: 1 200 − 1 500 = -300". */
export function figureExplained(id: FigureId, figures: Figures, minorDigits: number): string {
  const { here, ratio } = MEANINGS[id];
  const value = figures[id];
  if (here === undefined) return `${figureMeaning(id)}: ${money(value, minorDigits)}`;
  const comes =
    value === null
      ? "not defined"
      : id === "percentComplete"
        ? percentWords(value)
        : ratio === true
          ? ratioWords(value)
          : money(value, minorDigits);
  return `${figureMeaning(id)}: ${here(figures, (minor) => money(minor, minorDigits))} = ${comes}`;
}

/** How an index over a period comes about, with the period's own numbers. */
export function indexExplained(id: "spi" | "cpi", figures: IndexFigures, minorDigits: number): string {
  const value = figures[id];
  const here = INDICES[id].here(figures, (minor) => money(minor, minorDigits));
  return `${figureMeaning(id)}: ${here} = ${value === null ? "not defined" : ratioWords(value)}`;
}

/** Earned schedule in periods of one kind, as a look gives it. */
export type EarnedScheduleLine = Pick<
  EarnedSchedule,
  "period" | "es" | "at" | "pd" | "svt" | "spit" | "forecastFinish"
>;
export type ScheduleFigureId = Exclude<keyof EarnedScheduleLine, "period">;

const SCHEDULE_MEANINGS: Readonly<
  Record<ScheduleFigureId, { means: string; by?: string; here?: (line: EarnedScheduleLine) => string }>
> = {
  es: { means: "Earned schedule: the period by which what is earned was to be earned (Lipke)" },
  at: { means: "Actual time: periods from the approved start to the data date" },
  pd: { means: "Planned duration: periods from the approved start to the approved finish" },
  svt: { means: "Schedule variance in time", by: "ES − AT", here: ({ es, at }) => `${periods(es)} − ${periods(at)}` },
  spit: {
    means: "Schedule performance index in time: below 1 it earns slower than planned",
    by: "ES / AT",
    here: ({ es, at }) => `${periods(es)} / ${periods(at)}`,
  },
  forecastFinish: {
    means: "The finish at the pace so far",
    by: "PD / SPI(t) periods from the approved start",
    here: ({ pd, spit }) => `${periods(pd)} / ${ratioWords(spit)}`,
  },
};

/** A number of periods as it is written: "35.7". */
export const periods = (value: number | null): string => (value === null ? "–" : numberWords(value, 2));

/** What a figure of the earned schedule means, without numbers. */
export function scheduleMeaning(id: ScheduleFigureId): string {
  const { means, by } = SCHEDULE_MEANINGS[id];
  return by === undefined ? means : `${means}; ${by}`;
}

/** The same with a line's own numbers: "Schedule variance in time; ES − AT: 35.7 − 40 = -4.3". */
export function scheduleExplained(id: ScheduleFigureId, line: EarnedScheduleLine): string {
  const value =
    id === "forecastFinish"
      ? dateWords(line.forecastFinish)
      : id === "spit"
        ? ratioWords(line.spit)
        : periods(line[id]);
  const comes = line[id] === null ? "not defined" : value;
  const here = SCHEDULE_MEANINGS[id].here?.(line);
  return here === undefined ? `${scheduleMeaning(id)}: ${comes}` : `${scheduleMeaning(id)}: ${here} = ${comes}`;
}
