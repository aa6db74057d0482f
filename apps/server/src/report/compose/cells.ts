import type { ReportBlock, ReportCell, ReportTone, WatchQuestion } from "@chronometra/contract";
import {
  dateWords,
  driftWords,
  moneyWords,
  numberWords,
  ratioWords,
  roundedDays,
  type Rating,
} from "@chronometra/core";
import type { Gathered } from "../gather.ts";

/** Cells of a report: as they are read, with the number or date behind them. */

export const textCell = (text: string): ReportCell => ({ text });

export const dateCell = (date: string | null): ReportCell =>
  date === null ? { text: "–" } : { text: dateWords(date), value: date.slice(0, 10) };

export const moneyCell = (minor: number | null, digits: number): ReportCell =>
  minor === null ? { text: "–" } : { text: moneyWords(minor, digits), value: minor / 10 ** digits };

export const ratioCell = (value: number | null): ReportCell =>
  value === null ? { text: "–" } : { text: ratioWords(value), value: Math.round(value * 1000) / 1000 };

export const driftCell = (days: number | null): ReportCell =>
  days === null ? { text: "–" } : { text: driftWords(days), value: roundedDays(days) };

export const numberCell = (value: number, most = 0): ReportCell => ({ text: numberWords(value, most), value });

export const driftTone = (days: number | null): { tone?: ReportTone } => {
  const rounded = days === null ? 0 : roundedDays(days);
  return rounded === 0 ? {} : { tone: rounded > 0 ? "adverse" : "favourable" };
};

export const RATING_TONES: Readonly<Record<Rating, ReportTone>> = {
  well: "favourable",
  care: "undecided",
  trouble: "adverse",
};

type Table = Extract<ReportBlock, { is: "table" }>;

/**
 * A table of a report.
 * @param columns its names, a `#` before those whose cells are numbers
 */
export const table = (columns: readonly string[], rows: Table["rows"], none: string, caption?: string): Table => ({
  is: "table",
  ...(caption === undefined ? {} : { caption }),
  columns: columns.map((name) => ({ name: name.replace(/^#/, ""), number: name.startsWith("#") })),
  rows,
  none,
});

/** A page of the project that a report is of. */
export const pageOf = ({ project }: Pick<Gathered, "project">, part = ""): string =>
  `/projects/${project.id}${part === "" ? "" : `/${part}`}`;

/** How an amount or index moved since the report before; nothing where there was none, or nothing moved. */
export const change = (
  now: number | null | undefined,
  was: number | null | undefined,
  words: (by: number) => string,
): string => (now == null || was == null ? "" : words(now - was));

/** The watchlist of a project's activities in a state: what a count of them opens. */
export function activitiesBehind({ project }: Pick<Gathered, "project">, state: string): string {
  const anyOf = (field: string, of: string[]) => ({ field, is: "any" as const, of });
  const question: WatchQuestion = {
    about: "activities",
    where: [
      [anyOf("project", [project.id]), anyOf("kind", ["work", "milestone", "levelOfEffort"]), anyOf("state", [state])],
    ],
    columns: ["name", "people", "start", "finish", "drift", "percent"],
    sort: [{ field: "finish", desc: false }],
    group: null,
    pivot: null,
  };
  return `/watch?q=${Buffer.from(JSON.stringify(question)).toString("base64url")}`;
}
