import { closeOf, openOf, parseDate } from "@chronometra/core";
import { driftWords } from "../../shared/words/words.ts";
import type { SheetRow } from "../engine/sheet.ts";
import { xOf, type Scale } from "./scale.ts";

type Span = readonly [from: number, to: number];

/**
 * What is drawn in one activity's lane, in pixels from the chart's left edge; `null` where there is nothing of a kind.
 */
export interface LaneShapes {
  /** The approved window. */
  readonly bracket: Span | null;
  /** The current window, and how far along it the work is done. */
  readonly band: Span | null;
  readonly doneTo: number | null;
  /** From the approved finish to the current one. */
  readonly wedge: { readonly from: number; readonly to: number; readonly late: boolean } | null;
  /** Float, fading from the finish on. */
  readonly tail: Span | null;
  /** Level of effort: it lasts as long as what it spans. */
  readonly spans: boolean;
  /** What is critical carries a line below its band or pennant. */
  readonly keel: boolean;
  /** Milestones: where approved, where now. */
  readonly pennants: { readonly approved: number | null; readonly now: number } | null;
  readonly deadline: number | null;
  /** Where what is parked lies. */
  readonly moored: number | null;
  readonly label: { readonly x: number; readonly words: string; readonly tone: "adverse" | "favourable" } | null;
}

const LEAST_BAND = 2;
const LEAST_TAIL = 4;
const LABEL_GAP = 6;

/** The share of an activity that is done, for drawing: reported, else earned. */
function doneShare(row: SheetRow): number {
  if (row.dates?.state === "complete") return 1;
  if (row.kind === "summary" || row.kind === "levelOfEffort") return Math.min(1, Math.max(0, row.earned ?? 0));
  return (row.percent ?? 0) / 100;
}

const wide = (from: number, to: number): Span => [from, Math.max(to, from + LEAST_BAND)];

function tailOf(row: SheetRow, scale: Scale): Span | null {
  const dates = row.dates;
  if (dates?.lateFinish == null || row.kind !== "work" || dates.lateFinish <= dates.finish) return null;
  const from = xOf(scale, dates.finish);
  const to = Math.min(xOf(scale, dates.lateFinish), xOf(scale, scale.to));
  return to - from < LEAST_TAIL ? null : [from, to];
}

/**
 * Works out what a row's lane shows.
 * @param withApproved whether the approved window, and the drift from it, are shown
 */
export function laneShapes(row: SheetRow, scale: Scale, withApproved = true): LaneShapes {
  const { dates } = row;
  const approved = withApproved ? row.approved : null;
  const milestone = row.kind === "milestone";
  const band = dates === null || milestone ? null : wide(xOf(scale, dates.start), xOf(scale, dates.finish));
  const bracket = approved === null || milestone ? null : wide(xOf(scale, approved.start), xOf(scale, approved.finish));
  const moved = dates !== null && approved !== null && row.drift !== null && driftWords(row.drift) !== "on the day";
  const finish = dates === null ? 0 : xOf(scale, dates.finish);
  const promised = approved === null ? 0 : xOf(scale, approved.finish);
  const late = (row.drift ?? 0) > 0;
  const tail = tailOf(row, scale);
  const rightmost = Math.max(finish, promised) + (milestone ? 10 : 0);
  return {
    bracket,
    band,
    doneTo: band === null || dates === null ? null : band[0] + (band[1] - band[0]) * doneShare(row),
    wedge: moved ? { from: promised, to: finish, late } : null,
    tail,
    keel: dates?.critical === true && dates.state !== "complete",
    spans: row.kind === "levelOfEffort",
    pennants: milestone && dates !== null ? { approved: approved === null ? null : promised, now: finish } : null,
    moored: row.mooredAt === null ? null : xOf(scale, row.mooredAt),
    deadline: row.deadline === null ? null : xOf(scale, closeOf(parseDate(row.deadline)!)),
    label: moved
      ? { x: rightmost + LABEL_GAP, words: driftWords(row.drift), tone: late ? "adverse" : "favourable" }
      : null,
  };
}

/** The first and last instant that a page of rows needs, with room at both ends. */
export function extentOf(
  rows: readonly SheetRow[],
  dataDate: string | null,
  start: string,
): { from: number; to: number } {
  let from = Infinity;
  let to = -Infinity;
  for (const { dates, approved, deadline } of rows) {
    for (const span of [dates, approved]) {
      if (span === null) continue;
      from = Math.min(from, span.start);
      to = Math.max(to, span.finish);
    }
    if (deadline !== null) to = Math.max(to, closeOf(parseDate(deadline)!));
  }
  if (dataDate !== null) {
    from = Math.min(from, openOf(parseDate(dataDate)!));
    to = Math.max(to, closeOf(parseDate(dataDate)!));
  }
  const begins = openOf(parseDate(start)!);
  return Number.isFinite(from) ? { from, to } : { from: begins, to: begins };
}
