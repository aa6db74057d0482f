import { actualFinishAt, actualStartAt } from "../plan/check/checkActivity.ts";
import { succession } from "../plan/derived/succession.ts";
import { handOnTree, planTree, type PlanTree } from "../plan/planTree.ts";
import { PlanProblems } from "../plan/problem.ts";
import type { Activity, PlanBundle } from "../plan/schema.ts";
import { compileCalendars, type CalendarSet } from "../plan/compileCalendars.ts";
import { epochDay, finishDayOf, type LocalMinute, localMinute, startDayOf } from "../time/instant.ts";
import { backwardPass, type LateDates } from "./backwardPass.ts";
import { buildNetwork } from "./laid/buildNetwork.ts";
import { stateOf } from "./laid/nodeColumns.ts";
import { forwardPass, NodeOutsideHorizon, type EarlyDates } from "./forwardPass.ts";
import { longestPath } from "./longestPath.ts";
import { renewNetwork } from "./laid/renewNetwork.ts";
import { renewDates } from "./renewDates.ts";
import { settledRow, type ActivityState, type ScheduledActivity } from "./scheduledActivity.ts";
import * as net from "./laid/network.ts";

const STATES: readonly ActivityState[] = ["notStarted", "inProgress", "complete"];

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
  readonly late: LateDates;
}

/** A plan whose dates are known. */
export interface Dated {
  readonly plan: PlanBundle;
  readonly schedule: Schedule;
}

/**
 * Computes the dates and float of a checked plan (calculations.md section 2).
 * @param before a plan that it came of: dates are computed where something moves, and rows that say the same are the
 * same objects
 * @throws {PlanProblems} for a loop of links or a date outside 1990 to 2099, naming the activities
 */
export function schedulePlan(plan: PlanBundle, before?: Dated): Schedule {
  const calendars = compileCalendars(plan.calendars).set;
  if (before !== undefined) handOnTree(before.plan.activities, plan.activities);
  const tree = planTree(plan.activities);
  const { network, early, late, isOther } = passes(plan, tree, calendars, before);
  const onPath = longestPath(network, early);
  const rows = new Array<ScheduledActivity | null>(plan.activities.length).fill(null);
  const former = formerRows(plan, before);
  const isSame = sameHead(plan, before);
  for (let node = 0; node < network.count; node++) {
    const at = network.activityOf[node]!;
    const was = former(at);
    rows[at] =
      was !== null && isSame && !isOther(node) && was.longestPath === (onPath[node] === 1)
        ? was
        : settledRow(scheduledNode(plan, network, early, late, onPath, node), was);
  }
  placeSpans(plan, tree, early, rows, former);
  rollUpSummaries(plan, tree, rows, former);
  return {
    rows,
    finish: early.latestFinish < 0 ? null : localMinute(early.latestFinish),
    unscheduled: unscheduledOf(plan, tree, network),
    tree,
    calendars,
    network,
    early,
    late,
  };
}

/** Gives the dates of an activity before, by its position now. */
type FormerRows = (at: number) => ScheduledActivity | null;

function formerRows(plan: PlanBundle, before: Dated | undefined): FormerRows {
  if (before === undefined) return () => null;
  const { from } = succession(before.plan.activities, plan.activities);
  const { rows } = before.schedule;
  return (at) => rows[from[at]!] ?? null;
}

/** Whether the head says the same of what is critical. */
const sameHead = (plan: PlanBundle, before: Dated | undefined): boolean =>
  plan.project.criticalFloatMinutes === before?.plan.project.criticalFloatMinutes;

/** Positions of unparked work without a duration. */
function unscheduledOf({ activities }: PlanBundle, { parked }: PlanTree, { nodeOf }: net.Network): number[] {
  const unscheduled: number[] = [];
  activities.forEach((activity, i) => {
    if (nodeOf[i] === -1 && (activity.kind ?? "work") === "work" && !parked.has(activity.id)) unscheduled.push(i);
  });
  return unscheduled;
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

interface Passes {
  readonly network: net.Network;
  readonly early: EarlyDates;
  readonly late: LateDates;
  /** Whether any date or float of a node may be other than before. */
  readonly isOther: (node: number) => boolean;
}

/** Both passes, of what is known from before as far as that holds; a date outside the horizon is told with its activity. */
function passes(plan: PlanBundle, tree: PlanTree, calendars: CalendarSet, before: Dated | undefined): Passes {
  const renewed =
    before === undefined ? null : renewNetwork(plan, tree, calendars, { plan: before.plan, ...before.schedule });
  if (renewed !== null)
    return withinHorizon(plan, renewed.network, () => ({
      network: renewed.network,
      ...renewDates(renewed, before!.schedule),
    }));
  const network = buildNetwork(plan, tree, calendars);
  return withinHorizon(plan, network, () => {
    const early = forwardPass(network);
    return { network, early, late: backwardPass(network, early), isOther: () => true };
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
function placeSpans(
  plan: PlanBundle,
  tree: PlanTree,
  early: EarlyDates,
  rows: (ScheduledActivity | null)[],
  former: FormerRows,
): void {
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
    placed.push([i, settledRow(spanRow(activity, start, Math.max(start, finish)), former(i))]);
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
function rollUpSummaries(
  plan: PlanBundle,
  tree: PlanTree,
  rows: (ScheduledActivity | null)[],
  former: FormerRows,
): void {
  const spans: (Span | undefined)[] = [];
  for (let k = tree.parentsFirst.length - 1; k >= 0; k--) {
    const i = tree.parentsFirst[k]!;
    if (plan.activities[i]!.kind === "summary" && spans[i] !== undefined && !tree.parked.has(plan.activities[i]!.id))
      rows[i] = settledRow(summaryRow(spans[i]!), former(i));
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
