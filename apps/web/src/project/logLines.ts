import { standingOf, type Portfolio, type ProjectLine } from "@chronometra/contract";
import { brokenRules, limitsIn, CHECKS, failedChecks, fitnessOf, GRAVE, type QualityLimits } from "@chronometra/core";
import { commonOf, type Rates } from "./together.ts";
import {
  countWords,
  dateWords,
  money,
  movedWords,
  ratioWords,
  standingWords,
  type Tone,
} from "../shared/words/words.ts";

/** A row behind a line of the log. */
export interface LogRow {
  readonly key: string;
  readonly project: string;
  readonly name: string;
  readonly words: string;
  readonly tone: Tone;
  readonly to: string;
}

/** One line of the log: what it is about, what it says, and the rows that it counts. */
export interface LogLine {
  readonly about: "Moved" | "Promises" | "Cost" | "Trust" | "Reports";
  readonly words: string;
  readonly tone: Tone;
  readonly rows: readonly LogRow[];
}

const DAY_FRACTION = 0.05;

/**
 * How far a finish has moved against the last period before the open one: as the open one was issued, where it was,
 * else as it stands. Of a closed project nothing moves.
 */
export const movedOf = ({ summary, openDrift, issuedDrift, closed }: ProjectLine): number | null => {
  if (closed) return null;
  const now = openDrift ?? summary.drift;
  return now === null || issuedDrift === null ? null : now - issuedDrift;
};

/** How far a finish has moved, in words. */
export const moveWords = (days: number): string => movedWords(days, "no move");

const only = <T>(values: readonly T[]): T | null => (new Set(values).size === 1 ? values[0]! : null);

/** "3 finish later, 1 earlier" of so many movements; `null` where nothing moves. */
export function laterAndEarlier(days: readonly number[]): string | null {
  const later = days.filter((each) => each >= DAY_FRACTION).length;
  const earlier = days.filter((each) => each <= -DAY_FRACTION).length;
  const parts = [
    ...(later > 0 ? [`${countWords(later, "project finishes", "projects finish")} later`] : []),
    ...(earlier > 0
      ? [later > 0 ? `${earlier} earlier` : `${countWords(earlier, "project finishes", "projects finish")} earlier`]
      : []),
  ];
  return parts.length === 0 ? null : parts.join(", ");
}

/** The data dates that projects stand at: one, or how many stand at each. */
export function datesWords(projects: readonly ProjectLine[]): string {
  const counts = new Map<string, number>();
  for (const { summary } of projects)
    if (summary.dataDate !== null) counts.set(summary.dataDate, (counts.get(summary.dataDate) ?? 0) + 1);
  const dates = [...counts].sort(([a], [b]) => (a < b ? 1 : -1));
  if (dates.length <= 1) return dates.length === 0 ? "" : `as of ${dateWords(dates[0]![0])}`;
  return dates.map(([date, count]) => `${count} as of ${dateWords(date)}`).join(", ");
}

function moved(projects: readonly ProjectLine[]): LogLine {
  const compared = projects.filter((line) => movedOf(line) !== null);
  const rows = compared
    .map((line) => ({ line, days: movedOf(line)! }))
    .filter(({ days }) => Math.abs(days) >= DAY_FRACTION)
    .sort((a, b) => b.days - a.days);
  const later = rows.filter(({ days }) => days > 0).length;
  const parts = laterAndEarlier(rows.map(({ days }) => days));
  const against = only(compared.map(({ comparedNumber }) => comparedNumber));
  const than = against === null ? "the period issued before" : `period ${against}`;
  // What was issued for the open period is told as it was issued; the rest as it stands, which is not done yet.
  const open = compared.filter(({ openDrift }) => openDrift === null);
  const standing =
    open.length === 0
      ? "as issued"
      : `${datesWords(open)}${open.length < compared.length ? `, ${compared.length - open.length} as issued` : ""}`;
  return {
    about: "Moved",
    words:
      compared.length === 0
        ? "No period has been issued yet that movements could be told against."
        : `${parts ?? "No finish has moved"} against ${than}, ${standing}${later > 0 ? `; the furthest, ${rows[0]!.line.name}, ${moveWords(rows[0]!.days)}` : ""}.`,
    tone: later > 0 ? "adverse" : rows.length > 0 ? "favourable" : "plain",
    rows: rows.map(({ line, days }) => ({
      key: line.id,
      project: line.id,
      name: line.name,
      words: moveWords(days),
      tone: days > 0 ? "adverse" : "favourable",
      to: comparedTo(line),
    })),
  };
}

/** Where a movement is told in full: the states that it lies between. */
export const comparedTo = ({ id, comparedNumber, issuedNumber, openDrift }: ProjectLine): string =>
  comparedNumber === null
    ? `/projects/${id}/plan`
    : `/projects/${id}/compare?from=period-${comparedNumber}&to=${openDrift === null ? "plan" : `period-${issuedNumber}`}&why=finish`;

const IN_DANGER = ["breached", "willBreach", "tight"] as const;

/** Deadlines that are broken, will be, or are tight, the thinnest first. */
export const deadlinesInDanger = (projects: readonly ProjectLine[]) =>
  projects
    .flatMap((line) => line.summary.endangered.map((deadline) => ({ line, deadline })))
    .sort((a, b) => (a.deadline.marginDays ?? 0) - (b.deadline.marginDays ?? 0));

function promises(projects: readonly ProjectLine[]): LogLine {
  const rows = deadlinesInDanger(projects);
  const count = (state: string): number => rows.filter(({ deadline }) => deadline.state === state).length;
  const [broken, will, tight] = IN_DANGER.map(count) as [number, number, number];
  const parts = [
    ...(broken > 0 ? [`${countWords(broken, "deadline is", "deadlines are")} broken`] : []),
    ...(will > 0 ? [`${broken > 0 ? will : countWords(will, "deadline", "deadlines")} will break`] : []),
    ...(tight > 0 ? [`${broken + will > 0 ? tight : countWords(tight, "deadline is", "deadlines are")} tight`] : []),
  ];
  return {
    about: "Promises",
    words: parts.length === 0 ? "No deadline is in danger." : `${parts.join(", ")}.`,
    tone: broken + will > 0 ? "adverse" : tight > 0 ? "undecided" : "plain",
    rows: rows.map(({ line, deadline }) => ({
      key: `${line.id} ${deadline.id}`,
      project: line.id,
      name: `${deadline.name}, ${line.code}`,
      words: `${standingWords(deadline.state, deadline.marginDays)}; promised for ${dateWords(deadline.deadline)}`,
      tone: deadline.state === "tight" ? "undecided" : "adverse",
      to: `/deadlines?at=${line.id}:${encodeURIComponent(deadline.id)}`,
    })),
  };
}

function cost(projects: readonly ProjectLine[], rates: Rates): LogLine {
  const over = projects
    .flatMap((line) =>
      line.summary.figures !== null && line.summary.figures.cv < 0 ? [{ line, cv: line.summary.figures.cv }] : [],
    )
    .sort((a, b) => a.cv - b.cv);
  const common = commonOf(
    over.map(({ line }) => line),
    rates,
  );
  const sum = (): number => over.reduce((all, { line, cv }) => all + common.convert(-cv, line.summary), 0);
  const together =
    common.money === null
      ? common.missing.length > 0
        ? `; together not told, without a rate of ${common.missing.join(", ")}`
        : ""
      : `, ${money(sum(), common.money.minorDigits)} ${common.money.currency} together`;
  return {
    about: "Cost",
    words:
      over.length === 0
        ? "Nowhere did the work done cost more than its budget."
        : `In ${countWords(over.length, "project", "projects")} the work done cost more than its budget${together}.`,
    tone: over.length === 0 ? "plain" : "adverse",
    rows: over.map(({ line, cv }) => ({
      key: line.id,
      project: line.id,
      name: line.name,
      words: `${money(-cv, line.summary.minorDigits)} ${line.summary.currency} over, CPI ${ratioWords(line.summary.figures!.cpi)}`,
      tone: "adverse",
      to: `/projects/${line.id}?sort=cv`,
    })),
  };
}

/** The checks of its plan that a project fails, and the verdict that goes with them. */
export function trustOf({ summary: { quality, unscheduled } }: ProjectLine, limits: QualityLimits) {
  const failed = quality === undefined ? [] : failedChecks(quality, limits);
  return { failed, fitness: fitnessOf(failed, unscheduled) };
}

/** Why the figures of a project are to be taken with care. */
export function doubtsOf(line: ProjectLine, dataDate: string | null, limits: QualityLimits): string[] {
  const { summary } = line;
  if (summary.baseline === null) return ["no approved plan to measure against"];
  const { failed, fitness } = trustOf(line, limits);
  return [
    ...(fitness === "unfit"
      ? [
          `plan not fit: ${failed
            .filter((number) => GRAVE.has(number))
            .map((number) => CHECKS[number - 1]!.name.toLowerCase())
            .join(", ")}`,
        ]
      : []),
    ...(dataDate !== null && !line.closed && (summary.dataDate ?? "") < dataDate
      ? [`figures as of ${dateWords(summary.dataDate)}`]
      : []),
    ...(summary.unscheduled > 0 ? [`${countWords(summary.unscheduled, "activity", "activities")} without dates`] : []),
    ...((summary.dropped?.count ?? 0) > 0
      ? [`${countWords(summary.dropped!.count, "activity", "activities")} dropped`]
      : []),
    ...(summary.unbaselined > 0 ? [`${countWords(summary.unbaselined, "activity", "activities")} in no baseline`] : []),
  ];
}

function trust(projects: readonly ProjectLine[], dataDate: string | null, limits: QualityLimits): LogLine {
  const rows = projects
    .map((line) => ({ line, doubts: doubtsOf(line, dataDate, limits) }))
    .filter(({ doubts }) => doubts.length > 0);
  return {
    about: "Trust",
    words:
      rows.length === 0
        ? "Every plan is approved, dated, up to date and fit."
        : `${countWords(rows.length, "plan is", "plans are")} to be taken with care.`,
    tone: rows.length === 0 ? "plain" : "undecided",
    rows: rows.map(({ line, doubts }) => ({
      key: line.id,
      project: line.id,
      name: line.name,
      words: doubts.join(", "),
      tone: "undecided",
      to: `/projects/${line.id}/${line.summary.baseline === null ? "approvals" : "trust"}`,
    })),
  };
}

function reports(projects: readonly ProjectLine[]): LogLine {
  const rows = projects.filter(({ missing }) => missing.length > 0);
  const people = new Set(rows.flatMap(({ missing }) => missing.map(({ id }) => id))).size;
  return {
    about: "Reports",
    words:
      people === 0
        ? "Everyone has reported."
        : `${countWords(people, "person has", "people have")} not reported, on ${countWords(rows.length, "project", "projects")}.`,
    tone: people === 0 ? "plain" : "undecided",
    rows: rows.map((line) => ({
      key: line.id,
      project: line.id,
      name: line.name,
      words: line.missing.map(({ name }) => name).join(", "),
      tone: "undecided",
      to: `/cycle/missing?project=${line.id}`,
    })),
  };
}

/** What a controller asks on a Monday, in that order. */
export const logLines = (
  projects: readonly ProjectLine[],
  dataDate: string | null,
  limits: QualityLimits,
  rates: Rates,
): LogLine[] => [
  moved(projects),
  promises(projects),
  cost(projects, rates),
  trust(projects, dataDate, limits),
  reports(projects),
];

/** Which limits a project breaks: those of its group, else of the nearest above. */
export const rulesBroken = (
  line: ProjectLine,
  { thresholds, programmes }: Pick<Portfolio, "thresholds" | "programmes">,
) =>
  line.closed
    ? []
    : brokenRules(standingOf(line.summary, line.issuedDrift), limitsIn(programmes, thresholds, line.programme));
