import type { LaneShapes } from "../../plan/chart/laneShapes.ts";
import { xOf, type Scale } from "../../plan/chart/scale.ts";
import type { ComparedRow } from "../words/comparedWords.ts";

const DAY = 1440;
const LEAST = 2;

/** The scale on which all windows of some rows lie side by side; `null` where none has dates. */
export function scaleOf(rows: readonly ComparedRow[], width: number): Scale | null {
  const ends = rows.flatMap(({ from, to }) =>
    [from?.start, from?.finish, to?.start, to?.finish].filter((at): at is number => at != null),
  );
  if (ends.length === 0) return null;
  const from = ends.reduce((least, at) => Math.min(least, at), Infinity) - DAY;
  const to = ends.reduce((most, at) => Math.max(most, at), -Infinity) + DAY;
  return { from, to, pixelsPerDay: (width / (to - from)) * DAY };
}

/**
 * An activity's lane: the earlier state as a bracket above, the later as a band below, a wedge between their finishes.
 */
export function comparedShapes({ from, to, milestone, finishDays }: ComparedRow, scale: Scale): LaneShapes {
  const span = (state: ComparedRow["from"]): readonly [number, number] | null =>
    state?.start == null || state.finish === null || state.parked
      ? null
      : [xOf(scale, state.start), Math.max(xOf(scale, state.finish), xOf(scale, state.start) + LEAST)];
  const [was, will] = [span(from), span(to)];
  const moved = was !== null && will !== null && finishDays !== null && finishDays !== 0;
  return {
    bracket: milestone ? null : was,
    band: milestone ? null : will,
    doneTo: null,
    wedge: moved ? { from: was[1], to: will[1], late: finishDays > 0 } : null,
    tail: null,
    keel: false,
    spans: false,
    moored: null,
    pennants: milestone && will !== null ? { approved: was?.[1] ?? null, now: will[1] } : null,
    deadline: null,
    label: null,
  };
}
