import { knownInstants, workColumn } from "../../time/columns.ts";
import { mulDivCeil, restOf, shareOfPercent, takeShare, wholes } from "../../budget/exact.ts";
import { actualFinishAt, actualStartAt } from "../../plan/check/checkActivity.ts";
import { remembered } from "../../plan/derived/remembered.ts";
import type { Activity, Assignment, PlanBundle } from "../../plan/schema.ts";
import type { CalendarSet } from "../../plan/compileCalendars.ts";
import { localMinute, openOf, parseDate, workMinutes } from "../../time/instant.ts";
import type { WorkCalendar } from "../../time/workCalendar.ts";
import * as net from "./network.ts";

/** Whether an activity has begun and ended, as its actual dates say. */
export function stateOf(activity: Activity): number {
  if (activity.actualFinish !== undefined) return net.COMPLETE;
  if (activity.actualStart === undefined) return net.NOT_STARTED;
  return activity.kind === "milestone" ? net.COMPLETE : net.IN_PROGRESS;
}

/** An assignment's remaining work in minutes, section 2 of calculations.md. */
export function remainingWork(assignment: Assignment, activity: Activity): number {
  const state = stateOf(activity);
  if (state === net.COMPLETE) return 0;
  if (assignment.remainingMinutes !== undefined) return assignment.remainingMinutes;
  if (state === net.NOT_STARTED) return assignment.plannedMinutes;
  return takeShare(assignment.plannedMinutes, restOf(shareOfPercent(activity.percent ?? 0)));
}

/** Assignments by the id of their activity. */
export const assignmentsByActivity = ({ assignments }: PlanBundle): ReadonlyMap<string, readonly Assignment[]> =>
  assignmentsOf(assignments ?? NOBODY);

const NOBODY: readonly Assignment[] = [];

const assignmentsOf = remembered((assignments: readonly Assignment[]) => {
  const byActivity = new Map<string, Assignment[]>();
  for (const assignment of assignments) {
    const list = byActivity.get(assignment.activity);
    if (list === undefined) byActivity.set(assignment.activity, [assignment]);
    else list.push(assignment);
  }
  return byActivity;
});

/** Whether an activity has a place in the passes; the tree's parked ones have none either. */
export const isScheduled = (activity: Activity, assigned: boolean): boolean => {
  const kind = activity.kind ?? "work";
  if (kind === "milestone") return true;
  return kind === "work" && (activity.durationMinutes !== undefined || (activity.driver === "effort" && assigned));
};

export const dayOr = (date: string | undefined): number => (date === undefined ? net.NONE : parseDate(date)!);

/** Columns of so many nodes, to be written to. */
export const emptyColumns = (count: number): NodeColumns & { calendarOf: Uint16Array } => {
  const days = (): Int32Array => new Int32Array(count).fill(net.NONE);
  return {
    kind: new Uint8Array(count),
    state: new Uint8Array(count),
    calendarOf: new Uint16Array(count),
    duration: workColumn(count),
    actualStart: knownInstants(count),
    actualFinish: knownInstants(count),
    startNotBefore: days(),
    startNotAfter: days(),
    finishNotBefore: days(),
    finishNotAfter: days(),
    deadline: days(),
    finishBy: new Uint8Array(count),
  };
};

/** What activities say of their nodes. */
export function activityColumns(
  plan: PlanBundle,
  activityOf: Int32Array,
  set: CalendarSet,
  byActivity: ReadonlyMap<string, readonly Assignment[]>,
) {
  const columns = emptyColumns(activityOf.length);
  const calendars: WorkCalendar[] = [];
  const calendarIndex = new Map<string, number>();
  const parts = new Map<number, net.EffortPart[]>();
  for (let n = 0; n < activityOf.length; n++) {
    const activity = plan.activities[activityOf[n]!]!;
    const id = activity.calendar ?? plan.project.calendar;
    let index = calendarIndex.get(id);
    if (index === undefined) {
      index = calendars.push(set.get(id)) - 1;
      calendarIndex.set(id, index);
    }
    columns.calendarOf[n] = index;
    columns.kind[n] = kindOf(activity);
    const own = writeNode(columns, n, activity, byActivity.get(activity.id) ?? [], plan, set);
    if (own !== null) parts.set(n, own);
  }
  return { ...columns, calendars, parts };
}

/** What an activity in the passes is to them. */
export const kindOf = ({ kind }: Activity): number => (kind === "milestone" ? net.MILESTONE : net.WORK);

/** What an activity and its people say of a node. */
export type NodeColumns = Pick<
  net.Network,
  | "kind"
  | "state"
  | "duration"
  | "deadline"
  | "actualStart"
  | "actualFinish"
  | "finishBy"
  | "startNotBefore"
  | "startNotAfter"
  | "finishNotBefore"
  | "finishNotAfter"
>;

/**
 * Writes what an activity's own fields and people say of its node; gives the parts of its people where they decide its
 * finish.
 */
export function writeNode(
  columns: NodeColumns,
  n: number,
  activity: Activity,
  assignments: readonly Assignment[],
  plan: PlanBundle,
  set: CalendarSet,
): net.EffortPart[] | null {
  columns.state[n] = stateOf(activity);
  columns.duration[n] = workMinutes(durationOf(activity));
  columns.deadline[n] = dayOr(activity.deadline);
  columns.actualStart[n] = activity.actualStart === undefined ? net.NO_INSTANT : actualStartAt(activity.actualStart);
  columns.actualFinish[n] =
    activity.actualFinish === undefined ? net.NO_INSTANT : actualFinishAt(activity.actualFinish);
  writeWish(activity, columns, n);
  const decided = assignments.length > 0 && columns.kind[n] !== net.MILESTONE;
  columns.finishBy[n] = !decided
    ? net.FIXED
    : activity.driver === "effort"
      ? net.EFFORT
      : activity.windowPolicy === "drift"
        ? net.DRIFT
        : net.FIXED;
  return columns.finishBy[n] === net.FIXED ? null : assignments.map((a) => effortPart(a, activity, plan, set));
}

/**
 * Writes an activity's own fields and people anew into a network that was built with it.
 * @returns whether that was possible: not where it comes into the passes, leaves them, or has another kind or calendar
 */
export function rewriteNode(
  network: net.Network,
  n: number,
  activity: Activity,
  assignments: readonly Assignment[],
  plan: PlanBundle,
  set: CalendarSet,
): boolean {
  const calendar = set.get(activity.calendar ?? plan.project.calendar);
  const kind = activity.kind === "milestone" ? net.MILESTONE : net.WORK;
  if (
    activity.kind === "summary" ||
    activity.kind === "levelOfEffort" ||
    activity.parked === true ||
    network.kind[n] !== kind
  )
    return false;
  if (network.calendars[network.calendarOf[n]!] !== calendar || !isScheduled(activity, assignments.length > 0))
    return false;
  const parts = network.parts as Map<number, readonly net.EffortPart[]>;
  const own = writeNode(network, n, activity, assignments, plan, set);
  if (own === null) parts.delete(n);
  else parts.set(n, own);
  return true;
}

function durationOf(activity: Activity): number {
  const planned = activity.durationMinutes ?? 0;
  if (stateOf(activity) !== net.IN_PROGRESS) return planned;
  return activity.remainingMinutes ?? takeShare(planned, restOf(shareOfPercent(activity.percent ?? 0)));
}

type WishColumns = Pick<net.Network, "startNotBefore" | "startNotAfter" | "finishNotBefore" | "finishNotAfter">;

function writeWish(activity: Activity, columns: WishColumns, n: number): void {
  columns.startNotBefore[n] =
    columns.startNotAfter[n] =
    columns.finishNotBefore[n] =
    columns.finishNotAfter[n] =
      net.NONE;
  if (activity.wish === undefined) return;
  const day = parseDate(activity.wish.date)!;
  switch (activity.wish.type) {
    case "startOn":
      columns.startNotBefore[n] = columns.startNotAfter[n] = day;
      break;
    case "finishOn":
      columns.finishNotBefore[n] = columns.finishNotAfter[n] = day;
      break;
    default:
      columns[activity.wish.type][n] = day;
  }
}

function effortPart(assignment: Assignment, activity: Activity, plan: PlanBundle, set: CalendarSet): net.EffortPart {
  const [units, hundred] = wholes([assignment.unitsPercent ?? 100, 100]);
  return {
    calendar: set.get(personCalendar(plan, assignment.person)),
    minutes: workMinutes(mulDivCeil(remainingWork(assignment, activity), hundred!, units!)),
    restartAt: assignment.restart === undefined ? localMinute(0) : openOf(parseDate(assignment.restart)!),
  };
}

const calendarsOfPeople = remembered(
  ({ people = [], project }: PlanBundle) =>
    new Map(people.map(({ id, calendar = project.calendar }) => [id, calendar])),
);

/** The id of a person's calendar: their own, else the project's. */
const personCalendar = (plan: PlanBundle, person: string): string =>
  calendarsOfPeople(plan).get(person) ?? plan.project.calendar;
