import { remainingWork } from "../network/laid/nodeColumns.ts";
import type { Schedule } from "../network/schedule.ts";
import type { ScheduledActivity } from "../network/scheduledActivity.ts";
import type { Assignment, PlanBundle } from "../plan/schema.ts";
import {
  addDays,
  closeOf,
  type EpochDay,
  finishDayOf,
  localMinute,
  openOf,
  parseDate,
  startDayOf,
  weekdayOf,
  type LocalMinute,
  greater,
} from "../time/instant.ts";
import type { WorkCalendar } from "../time/workCalendar.ts";

const WEEK_DAYS = 7;

/** What one person's week holds, in minutes. */
export interface WeekLoad {
  /** Work that is left. */
  readonly demand: number;
  /** Activities with work left in that week. */
  readonly things: number;
  /** All that was planned, whether done or not. */
  readonly planned: number;
  /** Time posted. */
  readonly posted: number;
}

/** By person, then by the Monday of the week; weeks that hold nothing are left out. */
export type LoadByWeek = ReadonlyMap<string, ReadonlyMap<EpochDay, WeekLoad>>;

/** The Monday on or before a day. */
export const mondayOf = (day: EpochDay): EpochDay => addDays(day, -weekdayOf(day));

/**
 * Minutes spread evenly over the working minutes of a calendar from one instant to another, week by week; what falls on
 * a window without any stands in its last week. The parts add up to the whole.
 */
export function spreadOverWeeks(
  minutes: number,
  from: LocalMinute,
  to: LocalMinute,
  calendar: WorkCalendar,
): [monday: EpochDay, minutes: number][] {
  if (minutes === 0) return [];
  const whole = calendar.indexAt(to) - calendar.indexAt(from);
  const last = mondayOf(finishDayOf(localMinute(Math.max(to, from + 1))));
  if (whole <= 0) return [[last, minutes]];
  const parts: [EpochDay, number][] = [];
  const begin = calendar.indexAt(from);
  let given = 0;
  for (let monday = mondayOf(startDayOf(from)); monday <= last; monday = addDays(monday, WEEK_DAYS)) {
    const passed = calendar.indexAt(localMinute(Math.min(to, openOf(addDays(monday, WEEK_DAYS))))) - begin;
    const upTo = Math.round((minutes * passed) / whole);
    if (upTo !== given) parts.push([monday, upTo - given]);
    given = upTo;
  }
  return parts;
}

/**
 * From when what is left of an assignment is worked: where its activity begins, or goes on with all that holds it, and
 * its own restart.
 */
function remainingFrom(
  row: ScheduledActivity,
  goesOn: LocalMinute | undefined,
  { restart }: Assignment,
  dataClose: LocalMinute,
): LocalMinute {
  const from = row.state !== "inProgress" ? row.start : (goesOn ?? greater(row.start, dataClose));
  return restart === undefined ? from : greater(from, openOf(parseDate(restart)!));
}

/**
 * Each person's load by week (calculations.md section 7): what is left of every assignment, spread evenly over the
 * working time of its person's calendar in what is left of the activity's window; what was planned, over the whole
 * window; and the time posted.
 * @param schedule what `schedulePlan` gave for the plan
 */
export function loadByWeek(plan: PlanBundle, schedule: Schedule): LoadByWeek {
  const load = new Map<string, Map<EpochDay, { demand: number; things: number; planned: number; posted: number }>>();
  const weekOf = (person: string, monday: EpochDay) => {
    let weeks = load.get(person);
    if (weeks === undefined) load.set(person, (weeks = new Map()));
    let week = weeks.get(monday);
    if (week === undefined) weeks.set(monday, (week = { demand: 0, things: 0, planned: 0, posted: 0 }));
    return week;
  };
  const calendarOf = calendarsOfPeople(plan, schedule);
  const things = new Set<string>();
  for (const demand of demandsOf(plan, schedule, calendarOf)) {
    for (const [monday, minutes] of demand.weeks) {
      const week = weekOf(demand.person, monday);
      week.demand += minutes;
      const thing = `${demand.person} ${monday} ${demand.activity}`;
      if (!things.has(thing)) week.things++;
      things.add(thing);
    }
    for (const [monday, minutes] of demand.plannedWeeks) weekOf(demand.person, monday).planned += minutes;
  }
  for (const { person, date, minutes, state } of plan.timeEntries ?? [])
    if (state === "posted") weekOf(person, mondayOf(parseDate(date)!)).posted += minutes;
  return load;
}

export interface Demand {
  readonly activity: string;
  readonly person: string;
  readonly remaining: number;
  readonly weeks: [monday: EpochDay, minutes: number][];
  readonly plannedWeeks: [monday: EpochDay, minutes: number][];
}

/** What each assignment with dates asks of its person, week by week. */
export function demandsOf(
  plan: PlanBundle,
  schedule: Schedule,
  calendarOf = calendarsOfPeople(plan, schedule),
): Demand[] {
  const dataClose = plan.project.dataDate === undefined ? localMinute(0) : closeOf(parseDate(plan.project.dataDate)!);
  return (plan.assignments ?? []).flatMap((assignment) => {
    const i = schedule.tree.indexOf.get(assignment.activity)!;
    const row = schedule.rows[i];
    if (row == null) return [];
    const { activity, person, plannedMinutes } = assignment;
    const calendar = calendarOf(person);
    const remaining = remainingWork(assignment, plan.activities[i]!);
    const node = schedule.network.nodeOf[i]!;
    const from = remainingFrom(row, node < 0 ? undefined : schedule.early.restartAt[node]!, assignment, dataClose);
    return [
      {
        activity,
        person,
        remaining,
        weeks: spreadOverWeeks(remaining, from, row.finish, calendar),
        plannedWeeks: spreadOverWeeks(plannedMinutes, row.start, row.finish, calendar),
      },
    ];
  });
}

function calendarsOfPeople(plan: PlanBundle, { calendars }: Schedule): (person: string) => WorkCalendar {
  const ids = new Map((plan.people ?? []).map(({ id, calendar }) => [id, calendar]));
  return (person) => calendars.get(ids.get(person) ?? plan.project.calendar);
}
