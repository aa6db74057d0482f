import type { FeedFigure } from "@chronometra/contract";
import Papa from "papaparse";
import { harmless } from "../exchange/sheets/toSheets.ts";

type Cell = string | number | null;

/** Figures that are amounts; the others are told as they are. */
const AMOUNTS = [
  ...["bac", "pv", "ev", "ac", "sv", "cv", "eac", "etc", "vac", "eacRemaining", "eacCpiSpi", "eacBottomUp"],
] as const;
const INDICES = ["spi", "cpi", "percentComplete", "percentSpent", "tcpiBac", "tcpiEac"] as const;
const OF_SCHEDULE = ["es", "at", "pd", "svt", "spit", "forecastDuration", "forecastFinish"] as const;

/** An amount in whole units, as a number with its digits: exact, and read by any program. */
function inWholeUnits(minor: number | null | undefined, digits: number): Cell {
  if (minor === null || minor === undefined) return null;
  const sign = minor < 0 ? "-" : "";
  const text = String(Math.abs(minor)).padStart(digits + 1, "0");
  return digits === 0 ? sign + text : `${sign}${text.slice(0, -digits)}.${text.slice(-digits)}`;
}

const COLUMNS: readonly (readonly [string, (row: FeedFigure) => Cell])[] = [
  ["project", ({ project }) => harmless(project.code)],
  ["projectName", ({ project }) => harmless(project.name)],
  ["period", ({ period }) => period],
  ["dataDate", ({ dataDate }) => dataDate],
  ["edition", ({ edition }) => edition],
  ["issuedAt", ({ issuedAt }) => issuedAt],
  ["currency", ({ currency }) => currency],
  ["finish", ({ finish }) => finish],
  ["baselineFinish", ({ baselineFinish }) => baselineFinish],
  ["drift", ({ drift }) => drift],
  ...AMOUNTS.map(
    (name) =>
      [name, ({ figures, minorDigits }: FeedFigure) => inWholeUnits(figures?.[name as "bac"], minorDigits)] as const,
  ),
  ...INDICES.map((name) => [name, ({ figures }: FeedFigure) => figures?.[name] ?? null] as const),
  ...OF_SCHEDULE.map((name) => [name, ({ earnedSchedule }: FeedFigure) => earnedSchedule?.[name] ?? null] as const),
];

/** Figures as a table with commas (RFC 4180), its columns named as in the JSON. */
export const figuresCsv = (rows: readonly FeedFigure[]): string =>
  Papa.unparse(
    { fields: COLUMNS.map(([name]) => name), data: rows.map((row) => COLUMNS.map(([, of]) => of(row))) },
    { newline: "\r\n" },
  );
