import { compileCalendars, type CalendarSet } from "../plan/compileCalendars.ts";
import type { Plan } from "../plan/plan.ts";
import { PlanProblems } from "../plan/problem.ts";
import type { Timebox } from "../plan/ownTables.ts";
import type { Activity } from "../plan/schema.ts";
import { addDays, formatDate, greater, parseDate, type EpochDay } from "../time/instant.ts";
import type { WorkCalendar } from "../time/workCalendar.ts";

const WEEK_DAYS = 7;

/** Where a date of a plan lies after its start has moved. */
export interface Moved {
  readonly from: EpochDay;
  readonly to: EpochDay;
}

const outside = (name: string, date: string): PlanProblems =>
  new PlanProblems([
    {
      table: "activities",
      row: name,
      field: "date",
      message: `“${name}”: its date ${date} would lie outside 1990 to 2099.`,
    },
  ]);

/**
 * The day on which something begins, as many worked days after the new start as it lay after the old one. What lay on a
 * day that is not worked comes onto a worked one.
 * @returns `null` outside the horizon
 */
export function movedStart(calendar: WorkCalendar, day: EpochDay, { from, to }: Moved): EpochDay | null {
  return calendar.workedDay(to, calendar.workedCountBefore(day) - calendar.workedCountBefore(from) + 1);
}

/** The day by whose end something is to be finished, alike. */
export function movedFinish(calendar: WorkCalendar, day: EpochDay, { from, to }: Moved): EpochDay | null {
  return calendar.workedDay(to, calendar.workedCountBefore(day + 1) - calendar.workedCountBefore(from));
}

/** A meeting keeps its day of the week. */
const movedWeekly = (date: string, { from, to }: Moved): string =>
  formatDate(addDays(parseDate(date)!, Math.round((to - from) / WEEK_DAYS) * WEEK_DAYS));

function movedBox(plan: Plan, calendars: CalendarSet, moved: Moved, box: Timebox): Timebox {
  const calendar = calendars.get(plan.project.calendar);
  const [first, last] = [
    movedStart(calendar, parseDate(box.first)!, moved),
    movedFinish(calendar, parseDate(box.last)!, moved),
  ];
  if (first === null || last === null) throw outside(box.name, box.last);
  return { ...box, first: formatDate(first), last: formatDate(greater(first, last)) };
}

/**
 * A plan with another start: wishes, deadlines, timeboxes and meetings lie as many worked days after it as before, each
 * in the calendar of its activity; days off, leave and rates stay on their dates, since they are the world's.
 * @param start `YYYY-MM-DD`
 * @throws {PlanProblems} where a date would lie outside 1990 to 2099
 */
export function movedTo(plan: Plan, start: string): Plan {
  const moved: Moved = { from: parseDate(plan.project.start)!, to: parseDate(start)! };
  if (moved.from === moved.to) return plan;
  const calendars = compileCalendars([...plan.calendars.values()]).set;
  const dated = (activity: Activity, date: string, move: typeof movedStart): string => {
    const day = move(calendars.get(activity.calendar ?? plan.project.calendar), parseDate(date)!, moved);
    if (day === null) throw outside(activity.name, date);
    return formatDate(day);
  };
  const activities = [...plan.activities].map(([id, activity]): [string, Activity] => {
    const { wish, deadline } = activity;
    if (wish === undefined && deadline === undefined) return [id, activity];
    const next = { ...activity };
    if (wish !== undefined) {
      const move = wish.type.startsWith("finish") ? movedFinish : movedStart;
      next.wish = { ...wish, date: dated(activity, wish.date, move) };
    }
    if (deadline !== undefined) next.deadline = dated(activity, deadline, movedFinish);
    return [id, next];
  });
  return {
    ...plan,
    project: { ...plan.project, start },
    activities: new Map(activities),
    timeboxes: new Map([...plan.timeboxes].map(([key, box]) => [key, movedBox(plan, calendars, moved, box)])),
    meetings: new Map(
      [...plan.meetings].map(([key, { date, weeklyUntil, ...rest }]) => [
        key,
        {
          ...rest,
          date: movedWeekly(date, moved),
          ...(weeklyUntil === undefined ? {} : { weeklyUntil: movedWeekly(weeklyUntil, moved) }),
        },
      ]),
    ),
  };
}
