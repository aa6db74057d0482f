import { isPassed, type ReportBlock, type Summary } from "@chronometra/contract";
import { dateWords, driftWords, moneyWords, ratioWords } from "@chronometra/core";
import type { Gathered } from "../../gather.ts";
import {
  activitiesBehind,
  change,
  dateCell,
  driftCell,
  driftTone,
  moneyCell,
  pageOf,
  ratioCell,
  textCell,
} from "../cells.ts";

/** What of all that is gathered the figures need. */
type Known = { readonly of: Pick<Gathered["of"], "summary"> } & Pick<Gathered, "before" | "project"> &
  Partial<Pick<Gathered, "gates">>;
type FigureItem = Extract<ReportBlock, { is: "figures" }>["items"][number];

/** How figures moved, in words. */
const moneyChange =
  (digits: number) =>
  (by: number): string =>
    moneyWords(by, digits) === "0" ? "as before" : `${by > 0 ? "+" : "−"}${moneyWords(Math.abs(by), digits)}`;
const indexChange = (by: number): string =>
  Math.abs(by) < 0.005 ? "as before" : `${by > 0 ? "+" : "−"}${ratioWords(Math.abs(by))}`;
const countChange = (by: number): string => (by === 0 ? "as before" : `${by > 0 ? "+" : "−"}${Math.abs(by)}`);

/** Of a project that lives by a life cycle the stage it is in, and the gate that comes next. */
function staged(gathered: Known): FigureItem[] {
  const { gates, events } = gathered.gates ?? { gates: [], events: [] };
  if (gates.length === 0) return [];
  const here = gates.find(({ standing }) => standing === "here");
  const last = events.find(({ act }) => isPassed(act));
  const next =
    here === undefined ? "" : `next ${here.gate}${here.dueOn === null ? "" : `, due ${dateWords(here.dueOn.date)}`}`;
  return [
    {
      name: "Stage",
      value: textCell(here?.name ?? "all gates passed"),
      change: here === undefined && last !== undefined ? `the last was ${last.gate}` : next,
      link: pageOf(gathered, "stages"),
    },
  ];
}

/** When it is done. */
function dated(gathered: Known, was: Summary | undefined): FigureItem[] {
  const { summary } = gathered.of;
  return [
    {
      name: "Finish",
      value: dateCell(summary.finish),
      change: was === undefined ? "" : was.finish === summary.finish ? "as before" : `was ${dateWords(was.finish)}`,
      link: pageOf(gathered, "dates"),
    },
    {
      name: "Approved finish",
      value: dateCell(summary.baselineFinish),
      change: "",
      link: pageOf(gathered, "approvals"),
    },
    {
      name: "Drift of the finish",
      value: driftCell(summary.drift),
      change: was?.drift == null ? "" : `was ${driftWords(was.drift)}`,
      ...driftTone(summary.drift),
      link: pageOf(gathered, "dates"),
    },
    {
      name: "Finished activities",
      value: { text: `${summary.done} of ${summary.activities}`, value: summary.done },
      change: change(summary.done, was?.done, countChange),
      link: activitiesBehind(gathered, "complete"),
    },
  ];
}

/** The activities that a figure is made of, by that figure. */
const activitiesBy = (gathered: Known, figure: string): string => `${pageOf(gathered)}?sort=${figure}`;

/** Amounts and indices, where there is a baseline to measure against. */
function measured(gathered: Known, was: Summary | undefined): FigureItem[] {
  const { minorDigits: digits, currency, figures: now, earnedSchedule } = gathered.of.summary;
  if (now === null) return [];
  const old = was?.figures;
  const amount = (name: string, key: "bac" | "pv" | "ev" | "ac" | "eac" | "vac"): FigureItem => ({
    name: `${name}, ${currency}`,
    value: moneyCell(now[key], digits),
    change: change(now[key], old?.[key], moneyChange(digits)),
    ...(key === "vac" && now.vac !== null && now.vac !== 0
      ? { tone: now.vac < 0 ? ("adverse" as const) : ("favourable" as const) }
      : {}),
    link: activitiesBy(gathered, key),
  });
  const index = (name: string, value: number | null, before: number | null | undefined, link: string): FigureItem => ({
    name,
    value: ratioCell(value),
    change: change(value, before, indexChange),
    ...(value === null || ratioWords(value) === "1.00" ? {} : { tone: value < 1 ? "adverse" : "favourable" }),
    link,
  });
  return [
    amount("Budget at completion", "bac"),
    amount("Planned value", "pv"),
    amount("Earned value", "ev"),
    amount("Actual cost", "ac"),
    index("SPI", now.spi, old?.spi, activitiesBy(gathered, "spi")),
    index("CPI", now.cpi, old?.cpi, activitiesBy(gathered, "cpi")),
    index("SPI(t)", earnedSchedule?.spit ?? null, was?.earnedSchedule?.spit, pageOf(gathered, "performance")),
    amount("Estimate at completion", "eac"),
    amount("Variance at completion", "vac"),
  ];
}

/** The figures of a project, each with its change since the report before. */
export function figures(gathered: Known): ReportBlock[] {
  const was = gathered.before?.summary;
  return [{ is: "figures", items: [...staged(gathered), ...dated(gathered, was), ...measured(gathered, was)] }];
}

export function curves({ of, period }: Gathered): ReportBlock[] {
  const { currency, minorDigits } = of.summary;
  return of.curve.length === 0
    ? [{ is: "lines", items: [], none: "There is no baseline, and so no curve." }]
    : [{ is: "curve", currency, minorDigits, dataDate: period.dataDate, points: of.curve }];
}
