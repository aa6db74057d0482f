import { actualFinishAt, actualStartAt } from "../plan/check/checkActivity.ts";
import type { PlanTree } from "../plan/planTree.ts";
import type { Activity, PlanBundle } from "../plan/schema.ts";
import { epochDay, finishDayOf, localMinute, startDayOf } from "../time/instant.ts";
import type { EarlyDates } from "./forwardPass.ts";
import { stateOf } from "./laid/nodeColumns.ts";
import { ACTIVITY_STATES, settledRow, type FormerRows, type ScheduledActivity } from "./scheduledActivity.ts";

const withoutFloat = {
  lateStart: null,
  lateFinish: null,
  totalFloat: null,
  freeFloat: null,
  critical: false,
  longestPath: false,
  shownAsStart: false,
};

/** What links ask of what spans others: the earliest start and the latest finish, by its id. */
function linkedBounds({ links = [] }: PlanBundle, { indexOf }: PlanTree, rows: Rows) {
  const starts = new Map<string, number>();
  const finishes = new Map<string, number>();
  for (const link of links) {
    const from = rows[indexOf.get(link.from)!];
    if (from == null) continue;
    if (link.type === "SS") starts.set(link.to, Math.min(starts.get(link.to) ?? Infinity, from.start));
    if (link.type === "FF") finishes.set(link.to, Math.max(finishes.get(link.to) ?? -Infinity, from.finish));
  }
  return { starts, finishes };
}

type Rows = (ScheduledActivity | null)[];

/** `levelOfEffort` spans from its SS predecessors' earliest start to its FF predecessors' latest finish. */
export function placeSpans(plan: PlanBundle, tree: PlanTree, early: EarlyDates, rows: Rows, former: FormerRows): void {
  if (tree.spans.length === 0) return;
  // None spans another one.
  for (const i of tree.spans) rows[i] = null;
  const { starts, finishes } = linkedBounds(plan, tree, rows);
  const firstStart = early.startAt.reduce((least, at) => Math.min(least, at), Infinity);
  for (const i of tree.spans) {
    const { id, actualStart, actualFinish } = plan.activities[i]!;
    const start = actualStart === undefined ? (starts.get(id) ?? firstStart) : actualStartAt(actualStart);
    const finish = actualFinish === undefined ? (finishes.get(id) ?? early.latestFinish) : actualFinishAt(actualFinish);
    if (!Number.isFinite(start) || finish < 0) continue;
    rows[i] = settledRow(spanRow(plan.activities[i]!, start, Math.max(start, finish)), former(i));
  }
}

function spanRow(activity: Activity, start: number, finish: number): ScheduledActivity {
  const from = localMinute(start);
  const to = localMinute(finish);
  const startDay = startDayOf(from);
  const state = ACTIVITY_STATES[stateOf(activity)]!;
  return {
    ...withoutFloat,
    start: from,
    finish: to,
    startDay,
    finishDay: finishDayOf(to) > startDay ? finishDayOf(to) : startDay,
    state,
  };
}

interface Span {
  start: number;
  finish: number;
  startDay: number;
  finishDay: number;
  count: number;
  complete: number;
  untouched: number;
}

/**
 * Summaries take the outermost dates of what is below them: one scan from the leaves up.
 * @param above by position, 1 where something below has moved; where it is left out, all are rolled up
 */
export function rollUpSummaries(
  plan: PlanBundle,
  tree: PlanTree,
  rows: (ScheduledActivity | null)[],
  former: FormerRows,
  above?: Uint8Array,
): void {
  const spans: (Span | undefined)[] = [];
  for (let k = tree.parentsFirst.length - 1; k >= 0; k--) {
    const i = tree.parentsFirst[k]!;
    if (above === undefined || above[i] === 1) rollUp(plan, tree, rows, former, i, spans[i]);
    const parent = tree.parentOf[i]!;
    if (parent < 0 || above?.[parent] === 0) continue;
    const row = rows[i];
    if (row == null) continue;
    const span = (spans[parent] ??= {
      start: Infinity,
      finish: -Infinity,
      startDay: Infinity,
      finishDay: -Infinity,
      count: 0,
      complete: 0,
      untouched: 0,
    });
    span.start = Math.min(span.start, row.start);
    span.finish = Math.max(span.finish, row.finish);
    span.startDay = Math.min(span.startDay, row.startDay);
    span.finishDay = Math.max(span.finishDay, row.finishDay);
    span.count++;
    if (row.state === "complete") span.complete++;
    if (row.state === "notStarted") span.untouched++;
  }
}

function rollUp(
  { activities }: PlanBundle,
  { parked }: PlanTree,
  rows: (ScheduledActivity | null)[],
  former: FormerRows,
  i: number,
  span: Span | undefined,
): void {
  const { kind, id } = activities[i]!;
  if (kind !== "summary") return;
  rows[i] = span === undefined || parked.has(id) ? null : settledRow(summaryRow(span), former(i));
}

function summaryRow(span: Span): ScheduledActivity {
  const state = span.complete === span.count ? "complete" : span.untouched === span.count ? "notStarted" : "inProgress";
  return {
    ...withoutFloat,
    start: localMinute(span.start),
    finish: localMinute(span.finish),
    startDay: epochDay(span.startDay),
    finishDay: epochDay(span.finishDay),
    state,
  };
}
