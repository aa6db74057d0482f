import type { OwnPlanActivity } from "@chronometra/contract";
import { closeOf, openOf, parseDate } from "@chronometra/core";
import type { LaneShapes } from "../chart/laneShapes.ts";
import { xOf, type Scale } from "../chart/scale.ts";
import { driftWords } from "../../shared/words/words.ts";

const LEAST_BAND = 2;
const LABEL_GAP = 8;
const MARGIN_DAYS = 7;
/** Room for words behind the last finish, in pixels. */
const LABEL_PIXELS = 90;
const LEAST_PIXELS_A_DAY = 1.2;

const opens = (scale: Scale, date: string): number => xOf(scale, openOf(parseDate(date)!));
const closes = (scale: Scale, date: string): number => xOf(scale, closeOf(parseDate(date)!));

function span(scale: Scale, start: string | null, finish: string | null): readonly [number, number] | null {
  if (start === null || finish === null) return null;
  const from = opens(scale, start);
  return [from, Math.max(from + LEAST_BAND, closes(scale, finish))];
}

/** How far the finish has moved: the wedge between, and the words behind it; `null` where it has not. */
function movedOf({ drift, kind }: OwnPlanActivity, approved: number | null, now: number | null) {
  if (approved === null || now === null || drift === null || driftWords(drift) === "on the day") return null;
  const late = drift > 0;
  return {
    wedge: { from: approved, to: now, late },
    label: {
      x: Math.max(approved, now) + LABEL_GAP + (kind === "milestone" ? 10 : 0),
      words: driftWords(drift),
      tone: late ? ("adverse" as const) : ("favourable" as const),
    },
  };
}

/** An activity's lane: approved above, now below, between the two finishes the wedge of its drift. */
export function laneOf(activity: OwnPlanActivity, scale: Scale): LaneShapes {
  const { kind, state, finish, baselineFinish, deadline } = activity;
  const isMilestone = kind === "milestone";
  const on = (day: string | null): number | null => (day === null ? null : closes(scale, day));
  const [approved, now] = [on(baselineFinish), on(finish)];
  const band = isMilestone ? null : span(scale, activity.start, finish);
  const share = state === "complete" ? 1 : (activity.percent ?? 0) / 100;
  const moved = movedOf(activity, approved, now);
  return {
    ...{ tail: null, spans: kind === "levelOfEffort", keel: false, moored: null },
    bracket: isMilestone ? null : span(scale, activity.baselineStart, baselineFinish),
    band,
    doneTo: band === null ? null : band[0] + (band[1] - band[0]) * Math.min(1, Math.max(0, share)),
    wedge: moved?.wedge ?? null,
    pennants: isMilestone && now !== null ? { approved, now } : null,
    deadline: on(deadline),
    label: moved?.label ?? null,
  };
}

/** A plan as far as it is read in time. */
export interface ReadPlan {
  readonly activities: readonly OwnPlanActivity[];
  readonly dataDate: string | null;
}

/** The axis on which all of a plan lies, as wide as there is room or as it needs; `null` where nothing has dates. */
export function scaleOf({ activities, dataDate }: ReadPlan, width: number): Scale | null {
  const days = activities
    .flatMap(({ start, finish, baselineStart, baselineFinish, deadline }) => [
      ...[start, finish, baselineStart, baselineFinish, deadline],
    ])
    .concat(dataDate)
    .filter((day) => day !== null)
    .sort();
  if (activities.every(({ start }) => start === null)) return null;
  const from = openOf(parseDate(days[0]!)!) - MARGIN_DAYS * 1440;
  const last = closeOf(parseDate(days.at(-1)!)!) + MARGIN_DAYS * 1440;
  const pixelsPerDay = Math.max(LEAST_PIXELS_A_DAY, (width - LABEL_PIXELS) / ((last - from) / 1440));
  return { from, to: last + (LABEL_PIXELS / pixelsPerDay) * 1440, pixelsPerDay };
}

/** A row of the plan as it is shown: how deep, and whether there is something below it. */
export interface PlanRow {
  readonly activity: OwnPlanActivity;
  readonly depth: number;
  readonly isBranch: boolean;
}

export const PLAN_PARTS = ["all", "own", "deadlines"] as const;
/** What of a plan is shown. */
export type PlanPart = (typeof PLAN_PARTS)[number];

/** Whether an activity is of that part and has these letters in its name, or in that of one who does it. */
const isOf = ({ own, deadline, name, people }: OwnPlanActivity, part: PlanPart, find: string): boolean =>
  (part === "all" || (part === "own" ? own : deadline !== null)) &&
  [name, ...people].some((words) => words.toLocaleLowerCase().includes(find));

/** The rows of a plan in its order; of a part alone with the branches in which it lies, folded where nothing is looked for. */
export function rowsOf(
  activities: readonly OwnPlanActivity[],
  { part, find, folded }: { part: PlanPart; find: string; folded: ReadonlySet<string> },
): PlanRow[] {
  const byId = new Map(activities.map((activity) => [activity.id, activity]));
  const branches = new Set(activities.flatMap(({ parent }) => (parent === null ? [] : [parent])));
  const isWhole = part === "all" && find === "";
  const shown = new Set<string>();
  for (const activity of activities) {
    if (isWhole || !isOf(activity, part, find)) continue;
    let at: OwnPlanActivity | undefined = activity;
    while (at !== undefined && !shown.has(at.id)) {
      shown.add(at.id);
      at = byId.get(at.parent ?? "");
    }
  }
  const depths = new Map<string, number>();
  const hidden = new Set<string>();
  return activities.flatMap((activity) => {
    const { id, parent } = activity;
    const depth = parent === null ? 0 : (depths.get(parent) ?? 0) + 1;
    depths.set(id, depth);
    if (isWhole && parent !== null && (hidden.has(parent) || folded.has(parent))) hidden.add(id);
    return hidden.has(id) || !(isWhole || shown.has(id)) ? [] : [{ activity, depth, isBranch: branches.has(id) }];
  });
}
