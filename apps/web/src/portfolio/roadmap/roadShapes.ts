import type { RoadLine } from "@chronometra/contract";
import { closeOf, openOf, parseDate } from "@chronometra/core";
import type { LaneShapes } from "../../plan/chart/laneShapes.ts";
import { xOf, type Scale } from "../../plan/chart/scale.ts";
import { dateWords, driftWords, standingWords } from "../../shared/words/words.ts";

const LEAST_BAND = 2;
const LABEL_GAP = 8;

/** Where a day begins and ends on the axis. */
const opens = (scale: Scale, date: string): number => xOf(scale, openOf(parseDate(date)!));
const closes = (scale: Scale, date: string): number => xOf(scale, closeOf(parseDate(date)!));

function span(scale: Scale, start: string | null, finish: string | null): readonly [number, number] | null {
  if (start === null || finish === null) return null;
  const from = opens(scale, start);
  return [from, Math.max(from + LEAST_BAND, closes(scale, finish))];
}

/** A project's lane: approved above, current below, between the two finishes the wedge of its drift. */
export function laneOf(line: RoadLine, scale: Scale): LaneShapes {
  const { drift, earned, finish, baselineFinish } = line;
  const bracket = span(scale, line.baselineStart, baselineFinish);
  const band = span(scale, line.start, finish);
  const moved = band !== null && bracket !== null && drift !== null && driftWords(drift) !== "on the day";
  const late = (drift ?? 0) > 0;
  return {
    bracket,
    band,
    doneTo: band === null ? null : band[0] + (band[1] - band[0]) * Math.min(1, Math.max(0, earned ?? 0)),
    wedge: moved ? { from: bracket[1], to: band[1], late } : null,
    tail: null,
    spans: false,
    keel: false,
    pennants: null,
    deadline: null,
    moored: null,
    label: moved
      ? {
          x: Math.max(bracket[1], band[1]) + LABEL_GAP,
          words: driftWords(drift),
          tone: late ? "adverse" : "favourable",
        }
      : null,
  };
}

/** Something that stands on a project's lane. */
export interface Mark {
  readonly id: string;
  readonly kind: "milestone" | "deadline" | "gate";
  readonly x: number;
  /** Where it was approved to stand. */
  readonly approved: number | null;
  /** Reached, kept or passed. */
  readonly done: boolean;
  readonly adverse: boolean;
  /** All that is known of it. */
  readonly words: string;
  /** Where it is told in full, after the project's address. */
  readonly to: string;
}

/** The milestones, deadlines and gates of a project, in the order of their days. */
export function marksOf(line: RoadLine, scale: Scale): Mark[] {
  const milestones = line.milestones
    .filter(({ dropped }) => dropped !== true)
    .map((each): Mark => ({
      id: each.id,
      kind: "milestone",
      x: closes(scale, each.forecast),
      approved: each.baseline === null ? null : closes(scale, each.baseline),
      done: each.reached,
      adverse: !each.reached && (each.drift ?? 0) > 0,
      words:
        `${each.name}: ${each.reached ? "reached" : "forecast"} ${dateWords(each.forecast)}` +
        (each.baseline === null ? "" : `, approved for ${dateWords(each.baseline)}, ${driftWords(each.drift)}`),
      to: "dates",
    }));
  const deadlines = line.deadlines
    .filter(({ state }) => state !== "dropped")
    .map((each): Mark => ({
      id: `deadline ${each.id}`,
      kind: "deadline",
      x: closes(scale, each.deadline),
      approved: null,
      done: each.state === "metOnTime" || each.state === "metLate",
      adverse: each.state === "breached" || each.state === "willBreach",
      words: `Deadline of ${each.name}, ${dateWords(each.deadline)}: ${standingWords(each.state, each.marginDays)}`,
      to: "dates",
    }));
  const gates = line.gates.map((each): Mark => ({
    id: `gate ${each.stage}`,
    kind: "gate",
    x: closes(scale, each.date),
    approved: each.approved === null ? null : closes(scale, each.approved),
    done: each.passed,
    adverse: false,
    words: `Gate “${each.name}”, ${each.passed ? "passed" : "due"} ${dateWords(each.date)}`,
    to: `stages?stage=${each.stage}`,
  }));
  return [...milestones, ...deadlines, ...gates].sort((a, b) => a.x - b.x);
}

/** The first and last day that some projects need; `null` where none has a day. */
export function extentOfRoad(
  lines: readonly RoadLine[],
  dataDate: string | null,
): { readonly from: string; readonly to: string } | null {
  let from: string | null = null;
  let to: string | null = null;
  for (const line of lines) {
    const days = [
      ...[line.start, line.finish, line.baselineStart, line.baselineFinish],
      ...line.milestones.map(({ forecast }) => forecast),
      ...line.deadlines.map(({ deadline }) => deadline),
      ...line.gates.map(({ date }) => date),
    ];
    for (const day of days) {
      if (day === null) continue;
      if (from === null || day < from) from = day;
      if (to === null || day > to) to = day;
    }
  }
  if (from === null || to === null) return null;
  if (dataDate !== null) {
    if (dataDate < from) from = dataDate;
    if (dataDate > to) to = dataDate;
  }
  return { from, to };
}
