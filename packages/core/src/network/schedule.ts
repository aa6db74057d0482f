import { succession } from "../plan/derived/succession.ts";
import { handOnTree, planTree, type PlanTree } from "../plan/planTree.ts";
import { PlanProblems } from "../plan/problem.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { compileCalendars, type CalendarSet } from "../plan/compileCalendars.ts";
import { finishDayOf, type LocalMinute, localMinute, startDayOf } from "../time/instant.ts";
import { backwardPass, type LateDates } from "./backwardPass.ts";
import { buildNetwork } from "./laid/buildNetwork.ts";
import { forwardPass, NodeOutsideHorizon, type EarlyDates } from "./forwardPass.ts";
import { longestPath } from "./longestPath.ts";
import { renewNetwork } from "./laid/renewNetwork.ts";
import { renewDates } from "./renewDates.ts";
import { ACTIVITY_STATES, settledRow, type FormerRows, type ScheduledActivity } from "./scheduledActivity.ts";
import { placeSpans, rollUpSummaries } from "./spans.ts";
import * as net from "./laid/network.ts";

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
  /** By node, 1 on the longest path. */
  readonly onPath: Uint8Array;
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
  const { network, early, late, others } = passes(plan, tree, calendars, before);
  const onPath = longestPath(network, early);
  const dates = { plan, network, early, late, onPath };
  const isKept = before !== undefined && isRowByRow(plan, tree, network, before);
  const rows = isKept ? rowsRenewed(dates, tree, before, others!) : rowsAnew(dates, tree, before, others);
  return {
    rows,
    finish: early.latestFinish < 0 ? null : localMinute(early.latestFinish),
    unscheduled: isKept ? before.schedule.unscheduled : unscheduledOf(plan, tree, network),
    tree,
    calendars,
    network,
    early,
    late,
    onPath,
  };
}

/** Whether all activities and nodes stand where they stood, so that rows before and now are the same by position. */
const isRowByRow = (plan: PlanBundle, tree: PlanTree, network: net.Network, { plan: was, schedule }: Dated): boolean =>
  schedule.tree === tree &&
  schedule.network.activityOf === network.activityOf &&
  plan.project.criticalFloatMinutes === was.project.criticalFloatMinutes;

interface NodeDates {
  readonly plan: PlanBundle;
  readonly network: net.Network;
  readonly early: EarlyDates;
  readonly late: LateDates;
  readonly onPath: Uint8Array;
}

type Rows = (ScheduledActivity | null)[];

/** All rows of a plan; those that say the same as before are the same objects. */
function rowsAnew(dates: NodeDates, tree: PlanTree, before: Dated | undefined, others: Uint8Array | null): Rows {
  const { plan, network, onPath } = dates;
  const rows: Rows = new Array<ScheduledActivity | null>(plan.activities.length).fill(null);
  const former = formerRows(plan, before);
  const isSame = plan.project.criticalFloatMinutes === before?.plan.project.criticalFloatMinutes;
  for (let node = 0; node < network.count; node++) {
    const at = network.activityOf[node]!;
    const was = former(at);
    rows[at] =
      was !== null && isSame && others?.[node] === 0 && was.longestPath === (onPath[node] === 1)
        ? was
        : settledRow(scheduledNode(dates, node), was);
  }
  placeSpans(plan, tree, dates.early, rows, former);
  rollUpSummaries(plan, tree, rows, former);
  return rows;
}

/** The rows of before, with those written anew that may be others, and the summaries above what moved. */
function rowsRenewed(dates: NodeDates, tree: PlanTree, { schedule }: Dated, others: Uint8Array): Rows {
  const { plan, network, onPath } = dates;
  const rows = schedule.rows.slice();
  const former: FormerRows = (at) => schedule.rows[at]!;
  const above = new Uint8Array(rows.length);
  const note = (at: number): void => {
    if (rows[at] === schedule.rows[at]) return;
    for (let up = tree.parentOf[at]!; up >= 0 && above[up] === 0; up = tree.parentOf[up]!) above[up] = 1;
  };
  for (let node = 0; node < network.count; node++) {
    if (others[node] === 0 && onPath[node] === schedule.onPath[node]) continue;
    const at = network.activityOf[node]!;
    rows[at] = settledRow(scheduledNode(dates, node), former(at));
    note(at);
  }
  placeSpans(plan, tree, dates.early, rows, former);
  tree.spans.forEach(note);
  rollUpSummaries(plan, tree, rows, former, above);
  return rows;
}

function formerRows(plan: PlanBundle, before: Dated | undefined): FormerRows {
  if (before === undefined) return () => null;
  const { from } = succession(before.plan.activities, plan.activities);
  const { rows } = before.schedule;
  return (at) => rows[from[at]!] ?? null;
}

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
  /** By node, 1 where any date or float may be other than before; `null` where all may. */
  readonly others: Uint8Array | null;
}

/** Both passes, of what is known from before where that holds; a date outside the horizon is told with its activity. */
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
    return { network, early, late: backwardPass(network, early), others: null };
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

function scheduledNode({ plan, network, early, late, onPath }: NodeDates, node: number): ScheduledActivity {
  const start = localMinute(early.startAt[node]!);
  const finish = localMinute(early.finishAt[node]!);
  const state = ACTIVITY_STATES[network.state[node]!]!;
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
