import { assignmentsByActivity, remainingWork } from "../network/laid/nodeColumns.ts";
import type { Schedule } from "../network/schedule.ts";
import type { ActivityState } from "../network/scheduledActivity.ts";
import { timeboxOf } from "../plan/boxed.ts";
import type { Timebox } from "../plan/ownTables.ts";
import type { Plan } from "../plan/plan.ts";
import { remembered } from "../plan/derived/remembered.ts";
import type { Activity, PlanBundle, TimeEntry } from "../plan/schema.ts";
import { addDays, closeOf, formatDate, openOf, parseDate } from "../time/instant.ts";
import type { WorkCalendar } from "../time/workCalendar.ts";

/** One activity as work by timeboxes sees it; minutes are hours of people. */
export interface BoxedWork {
  readonly id: string;
  readonly state: ActivityState;
  /** Of parked work, which counts for nothing and stays where it is. */
  readonly parked: boolean;
  readonly plannedMinutes: number;
  readonly bookedMinutes: number;
  readonly leftMinutes: number;
  /** Days as shown, `YYYY-MM-DD`; `null` without dates. */
  readonly start: string | null;
  readonly finish: string | null;
  /** Working days in its calendar by which it spills over the last day of its timebox; 0 where it keeps it. */
  readonly spillsDays: number;
  /** Who works on it. */
  readonly people: readonly string[];
}

const postedByActivity = remembered((entries: readonly TimeEntry[]) => {
  const by = new Map<string, number>();
  for (const { activity, minutes, state } of entries)
    if (state === "posted") by.set(activity, (by.get(activity) ?? 0) + minutes);
  return by;
});

const NO_TIME: readonly TimeEntry[] = [];

/**
 * What each activity but a branch holds in hours, and whether it keeps its timebox where it stands in one (calculations.md
 * section 10).
 * @param bundle the plan as it is computed, with its time
 * @param schedule what `schedulePlan` gave for it
 */
export function boxedWork(plan: Plan, bundle: PlanBundle, schedule: Schedule): Map<string, BoxedWork> {
  const assignments = assignmentsByActivity(bundle);
  const posted = postedByActivity(bundle.timeEntries ?? NO_TIME);
  const found = new Map<string, BoxedWork>();
  bundle.activities.forEach((activity, i) => {
    if (activity.kind === "summary") return;
    const { id } = activity;
    const row = schedule.rows[i] ?? null;
    const own = assignments.get(id) ?? [];
    const box = timeboxOf(plan, id);
    const calendar = schedule.calendars.get(activity.calendar ?? bundle.project.calendar);
    found.set(id, {
      id,
      state: row?.state ?? stateSaid(activity),
      parked: schedule.tree.parked.has(id),
      plannedMinutes: own.reduce((sum, { plannedMinutes }) => sum + plannedMinutes, 0),
      bookedMinutes: posted.get(id) ?? 0,
      leftMinutes: own.reduce((sum, each) => sum + remainingWork(each, activity), 0),
      start: row === null ? null : formatDate(row.startDay),
      finish: row === null ? null : formatDate(row.finishDay),
      spillsDays: box === undefined || row === null ? 0 : daysBeyond(calendar, box.last, row.finishDay),
      people: [...new Set(own.map(({ person }) => person))],
    });
  });
  return found;
}

const stateSaid = ({ actualStart, actualFinish }: Pick<Activity, "actualStart" | "actualFinish">): ActivityState =>
  actualFinish !== undefined ? "complete" : actualStart !== undefined ? "inProgress" : "notStarted";

/** Working days by which a finish lies beyond the last day of a box; at least one where it lies beyond it at all. */
function daysBeyond(calendar: WorkCalendar, last: string, finishDay: number): number {
  const end = parseDate(last)!;
  if (finishDay <= end) return 0;
  return Math.max(1, calendar.workedCountBefore(finishDay + 1) - calendar.workedCountBefore(end + 1));
}

/** The sums of a timebox. */
export interface BoxSums {
  /** Activities in it that are not parked, and how many of them are finished. */
  readonly count: number;
  readonly done: number;
  readonly plannedMinutes: number;
  readonly bookedMinutes: number;
  readonly leftMinutes: number;
  /** How many spill. */
  readonly spills: number;
  /** Working hours of everyone who has work in it, in their own calendars, from its first day to its last. */
  readonly capacityMinutes: number;
  /** The same from a day on. */
  readonly capacityLeftMinutes: number;
  /** Days worked in the project's calendar from that day on, 0 once it is over. */
  readonly daysLeft: number;
}

/**
 * What a timebox holds, against the hours that its people have.
 * @param works the work that stands in it
 * @param from `YYYY-MM-DD`: the day from which hours are left
 */
export function boxSums(
  plan: PlanBundle,
  schedule: Schedule,
  { first, last }: Timebox,
  works: readonly BoxedWork[],
  from: string,
): BoxSums {
  const live = works.filter(({ parked }) => !parked);
  const sum = (of: (work: BoxedWork) => number): number => live.reduce((all, work) => all + of(work), 0);
  const calendars = new Map((plan.people ?? []).map(({ id, calendar }) => [id, calendar]));
  const people = [...new Set(live.flatMap((work) => work.people))];
  const worked = (begin: string): number =>
    begin > last
      ? 0
      : people.reduce((all, id) => {
          const calendar = schedule.calendars.get(calendars.get(id) ?? plan.project.calendar);
          return all + calendar.indexAt(closeOf(parseDate(last)!)) - calendar.indexAt(openOf(parseDate(begin)!));
        }, 0);
  const begin = from < first ? first : from;
  const project = schedule.calendars.get(plan.project.calendar);
  return {
    count: live.length,
    done: live.filter(({ state }) => state === "complete").length,
    plannedMinutes: sum((work) => work.plannedMinutes),
    bookedMinutes: sum((work) => work.bookedMinutes),
    leftMinutes: sum((work) => work.leftMinutes),
    spills: live.filter(({ spillsDays }) => spillsDays > 0).length,
    capacityMinutes: worked(first),
    capacityLeftMinutes: worked(begin),
    daysLeft:
      begin > last ? 0 : project.workedCountBefore(parseDate(last)! + 1) - project.workedCountBefore(parseDate(begin)!),
  };
}

/** A day of a burn-down: what was left at its end. */
export interface BurntDay {
  readonly date: string;
  readonly bookedMinutes: number;
  readonly leftMinutes: number;
}

/**
 * How a timebox burnt down: day by day what was left, as far as it is known on the last of them. What is left now and
 * what was booked since add up to what was left then, so the line ends on what is left and rises from there by what was
 * booked.
 * @param ids what stands in it
 * @param leftMinutes what is left of that now
 * @param until `YYYY-MM-DD`: the last day that is shown, at most
 * @returns the day before its first, then each until it ends or that day; none before it begins
 */
export function burntDown(
  { timeEntries = [] }: PlanBundle,
  { first, last }: Timebox,
  ids: ReadonlySet<string>,
  leftMinutes: number,
  until: string,
): BurntDay[] {
  const end = until < last ? until : last;
  if (end < first) return [];
  const booked = new Map<string, number>();
  let since = 0;
  for (const { activity, date, minutes, state } of timeEntries) {
    if (state !== "posted" || !ids.has(activity) || date < first) continue;
    booked.set(date, (booked.get(date) ?? 0) + minutes);
    since += minutes;
  }
  const days: BurntDay[] = [];
  let left = leftMinutes + since;
  for (let day = addDays(parseDate(first)!, -1); formatDate(day) <= end; day = addDays(day, 1)) {
    const date = formatDate(day);
    const bookedMinutes = date < first ? 0 : (booked.get(date) ?? 0);
    left -= bookedMinutes;
    days.push({ date, bookedMinutes, leftMinutes: left });
  }
  return days;
}
