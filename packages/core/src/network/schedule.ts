import { actualFinishAt, actualStartAt } from "../plan/check/checkActivity.ts";
import { planTree, type PlanTree } from "../plan/planTree.ts";
import { PlanProblems } from "../plan/problem.ts";
import type { Activity, PlanBundle } from "../plan/schema.ts";
import { compileCalendars, type CalendarSet } from "../plan/compileCalendars.ts";
import { type EpochDay, epochDay, finishDayOf, type LocalMinute, localMinute, startDayOf } from "../time/instant.ts";
import { backwardPass, type LateDates } from "./backwardPass.ts";
import { buildNetwork, stateOf } from "./buildNetwork.ts";
import { forwardPass, NodeOutsideHorizon, type EarlyDates } from "./forwardPass.ts";
import { longestPath } from "./longestPath.ts";
import * as net from "./network.ts";

export type ActivityState = "notStarted" | "inProgress" | "complete";
const STATES: readonly ActivityState[] = ["notStarted", "inProgress", "complete"];

/** The dates of one activity. Float in working minutes of its calendar; `null` where it has none. */
export interface ScheduledActivity {
  readonly start: LocalMinute;
  readonly finish: LocalMinute;
  /** The days on which start and finish are shown. */
  readonly startDay: EpochDay;
  readonly finishDay: EpochDay;
  readonly lateStart: LocalMinute | null;
  readonly lateFinish: LocalMinute | null;
  readonly totalFloat: number | null;
  readonly freeFloat: number | null;
  readonly critical: boolean;
  readonly longestPath: boolean;
  readonly state: ActivityState;
  /** A milestone that is shown at its start's day, not its finish's. */
  readonly shownAsStart: boolean;
}

/** The dates of a whole plan, by position in its activities; `null` where parked, unscheduled or empty. */
export interface Schedule {
  readonly rows: readonly (ScheduledActivity | null)[];
  /** T: the latest finish of work and milestones; `null` where nothing is scheduled. */
  readonly finish: LocalMinute | null;
  /** Positions of unparked work without a duration. */
  readonly unscheduled: readonly number[];
  readonly tree: PlanTree;
  readonly calendars: CalendarSet;
  /** What the dates were computed from and the early ones by node, for questions beyond them. */
  readonly network: net.Network;
  readonly early: EarlyDates;
}

/**
 * Computes the dates and float of a checked plan (calculations.md section 2).
 * @throws {PlanProblems} for a loop of links or a date outside 1990 to 2099, naming the activities
 */
export function schedulePlan(plan: PlanBundle): Schedule {
  const calendars = compileCalendars(plan.calendars).set;
  const tree = planTree(plan.activities);
  const network = buildNetwork(plan, tree, calendars);
  const { early, late } = runPasses(plan, network);
  const onPath = longestPath(network, early);
  const rows: (ScheduledActivity | null)[] = plan.activities.map(() => null);
  for (let node = 0; node < network.count; node++) {
    rows[network.activityOf[node]!] = scheduledNode(plan, network, early, late, onPath, node);
  }
  placeSpans(plan, tree, early, rows);
  rollUpSummaries(plan, tree, rows);
  const unscheduled: number[] = [];
  plan.activities.forEach((activity, i) => {
    if ((activity.kind ?? "work") === "work" && network.nodeOf[i] === -1 && !tree.parked.has(activity.id))
      unscheduled.push(i);
  });
  const finish = early.latestFinish < 0 ? null : localMinute(early.latestFinish);
  return { rows, finish, unscheduled, tree, calendars, network, early };
}

/**
 * Where the project or one activity finishes, by the forward pass alone: float and paths are left out.
 * @param target an activity of the network, or `null` for the project
 * @param calendars the plan's, compiled
 * @returns `null` where it has no date
 * @throws {PlanProblems} as `schedulePlan`
 */
export function earlyFinish(plan: PlanBundle, target: string | null, calendars: CalendarSet): LocalMinute | null {
  const tree = planTree(plan.activities);
  const network = buildNetwork(plan, tree, calendars);
  const early = withinHorizon(plan, network, () => forwardPass(network));
  if (target === null) return early.latestFinish < 0 ? null : localMinute(early.latestFinish);
  const position = tree.indexOf.get(target);
  const node = position === undefined ? -1 : network.nodeOf[position]!;
  return node < 0 ? null : localMinute(early.finishAt[node]!);
}

/** Both passes; a date outside the horizon is told with its activity. */
function runPasses(plan: PlanBundle, network: net.Network): { early: EarlyDates; late: LateDates } {
  return withinHorizon(plan, network, () => {
    const early = forwardPass(network);
    return { early, late: backwardPass(network, early) };
  });
}

function withinHorizon<T>(plan: PlanBundle, network: net.Network, pass: () => T): T {
  try {
    return pass();
  } catch (error) {
    if (!(error instanceof NodeOutsideHorizon)) throw error;
    const activity = plan.activities[network.activityOf[error.node]!]!;
    const message = "its dates run outside 1990 to 2099; look at its duration, lags, calendar and date wishes";
    throw new PlanProblems([{ table: "activities", row: activity.id, field: "", message }]);
  }
}

function scheduledNode(
  plan: PlanBundle,
  network: net.Network,
  early: EarlyDates,
  late: LateDates,
  onPath: Uint8Array,
  node: number,
): ScheduledActivity {
  const start = localMinute(early.startAt[node]!);
  const finish = localMinute(early.finishAt[node]!);
  const state = STATES[network.state[node]!]!;
  const milestone = network.kind[node] === net.MILESTONE;
  const shownAsFinish = early.shownAsFinish[node] === 1;
  const bare = state === "complete";
  const totalFloat = bare ? null : late.totalFloat[node]!;
  const calendar = network.calendars[network.calendarOf[node]!]!;
  const lateFinish = bare ? null : milestone ? late.startAt[node]! : calendar.finishAt(late.finishIndex[node]!);
  const lateStart = bare ? null : milestone ? lateFinish : late.startAt[node]!;
  return {
    start,
    finish,
    startDay: milestone && shownAsFinish ? finishDayOf(start) : startDayOf(start),
    finishDay: milestone && !shownAsFinish ? startDayOf(finish) : finishDayOf(finish),
    lateStart: lateStart === null ? null : localMinute(lateStart),
    lateFinish: lateFinish === null ? null : localMinute(lateFinish),
    totalFloat,
    freeFloat: bare ? null : late.freeFloat[node]!,
    critical: totalFloat !== null && totalFloat <= (plan.project.criticalFloatMinutes ?? 0),
    longestPath: onPath[node] === 1,
    state,
    shownAsStart: milestone && !shownAsFinish,
  };
}

const withoutFloat = {
  lateStart: null,
  lateFinish: null,
  totalFloat: null,
  freeFloat: null,
  critical: false,
  longestPath: false,
  shownAsStart: false,
};

/** `levelOfEffort` spans from its SS predecessors' earliest start to its FF predecessors' latest finish. */
function placeSpans(plan: PlanBundle, tree: PlanTree, early: EarlyDates, rows: (ScheduledActivity | null)[]): void {
  const spans = plan.activities
    .map((activity, i) => ({ activity, i }))
    .filter(({ activity }) => activity.kind === "levelOfEffort" && !tree.parked.has(activity.id));
  if (spans.length === 0) return;
  const starts = new Map<string, number>();
  const finishes = new Map<string, number>();
  for (const link of plan.links ?? []) {
    const from = rows[tree.indexOf.get(link.from)!];
    if (from == null) continue;
    if (link.type === "SS") starts.set(link.to, Math.min(starts.get(link.to) ?? Infinity, from.start));
    if (link.type === "FF") finishes.set(link.to, Math.max(finishes.get(link.to) ?? -Infinity, from.finish));
  }
  const firstStart = early.startAt.reduce((least, at) => Math.min(least, at), Infinity);
  const placed: [number, ScheduledActivity][] = [];
  for (const { activity, i } of spans) {
    const start =
      activity.actualStart !== undefined
        ? actualStartAt(activity.actualStart)
        : (starts.get(activity.id) ?? firstStart);
    const finish =
      activity.actualFinish !== undefined
        ? actualFinishAt(activity.actualFinish)
        : (finishes.get(activity.id) ?? early.latestFinish);
    if (!Number.isFinite(start) || finish < 0) continue;
    placed.push([i, spanRow(activity, start, Math.max(start, finish))]);
  }
  for (const [i, row] of placed) rows[i] = row;
}

function spanRow(activity: Activity, start: number, finish: number): ScheduledActivity {
  const from = localMinute(start);
  const to = localMinute(finish);
  const startDay = startDayOf(from);
  const state = STATES[stateOf(activity)]!;
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

/** Summaries take the outermost dates of what is below them: one scan from the leaves up. */
function rollUpSummaries(plan: PlanBundle, tree: PlanTree, rows: (ScheduledActivity | null)[]): void {
  const spans: (Span | undefined)[] = [];
  for (let k = tree.parentsFirst.length - 1; k >= 0; k--) {
    const i = tree.parentsFirst[k]!;
    if (plan.activities[i]!.kind === "summary" && spans[i] !== undefined && !tree.parked.has(plan.activities[i]!.id))
      rows[i] = summaryRow(spans[i]!);
    const row = rows[i];
    const parent = tree.parentOf[i]!;
    if (parent < 0 || row == null) continue;
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
