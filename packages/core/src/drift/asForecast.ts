import { takeShare, wholes } from "../budget/exact.ts";
import { assignmentsByActivity, remainingWork } from "../network/laid/nodeColumns.ts";
import * as net from "../network/laid/network.ts";
import type { Schedule } from "../network/schedule.ts";
import type { Activity, Assignment, PlanBundle } from "../plan/schema.ts";
import { closeOf, formatInstant, type LocalMinute, localMinute, parseDate } from "../time/instant.ts";

/** What an activity was to be by a data date, as its own schedule forecast it. */
export interface Expected {
  readonly what: "finish" | "goOn" | "later";
  readonly start: LocalMinute;
  readonly finish: LocalMinute;
  /** Working days of its calendar left at the data date; 0 where it was to be finished. */
  readonly leftDays: number;
}

/** A plan advanced to a later data date as it forecast itself, and what that says of each activity. */
export interface Forecast {
  readonly plan: PlanBundle;
  readonly expected: ReadonlyMap<string, Expected>;
}

/**
 * Brings a plan to a later data date as its own schedule forecast it (calculations.md section 5, step 1): what was to be done by
 * then is done, what was to be under way has so much left that its finish stays where it was. But for rounding, no date moves.
 * @param schedule what `schedulePlan` gave for the plan
 * @param date the later data date, `YYYY-MM-DD`
 */
export function asForecast(plan: PlanBundle, schedule: Schedule, date: string): Forecast {
  const close = closeOf(parseDate(date)!);
  const byActivity = assignmentsByActivity(plan);
  const expected = new Map<string, Expected>();
  const left = new Map<Assignment, Assignment>();
  const activities = plan.activities.map((activity, i): Activity => {
    const row = schedule.rows[i];
    const node = schedule.network.nodeOf[i]!;
    if (row == null || node < 0) return activity;
    const calendar = schedule.network.calendars[schedule.network.calendarOf[node]!]!;
    const from = Math.max(calendar.indexAt(close), schedule.early.restartIndex[node]!);
    const leftDays = row.finish <= close ? 0 : (calendar.indexAt(row.finish) - from) / calendar.dayMinutes;
    const what = row.finish <= close ? "finish" : row.start < close ? "goOn" : "later";
    expected.set(activity.id, { what, start: row.start, finish: row.finish, leftDays });
    if (row.state === "complete" || what === "later") return activity;
    const actualStart = activity.actualStart ?? formatInstant(row.start);
    if (what === "finish") return finished(activity, row.shownAsStart, actualStart, formatInstant(row.finish));
    const parts = schedule.network.parts.get(node);
    if (parts !== undefined)
      byActivity
        .get(activity.id)!
        .forEach((assignment, k) =>
          left.set(assignment, workedUntil(assignment, activity, parts[k]!, schedule.early.restartAt[node]!, close)),
        );
    const minutes =
      schedule.network.finishBy[node] === net.FIXED
        ? calendar.indexAt(row.finish) - from
        : Math.max(
            0,
            schedule.network.duration[node]! - (calendar.indexAt(close) - schedule.early.restartIndex[node]!),
          );
    return { ...activity, actualStart, remainingMinutes: Math.max(0, minutes) };
  });
  return {
    plan: {
      ...plan,
      project: { ...plan.project, dataDate: date },
      activities,
      assignments: (plan.assignments ?? []).map((row) => left.get(row) ?? row),
    },
    expected,
  };
}

function finished(activity: Activity, shownAsStart: boolean, actualStart: string, finish: string): Activity {
  const { remainingMinutes: _left, ...rest } = activity;
  if (activity.kind === "milestone")
    return shownAsStart ? { ...rest, actualStart: finish } : { ...rest, actualFinish: finish };
  return { ...rest, actualStart, actualFinish: finish };
}

/** What a person has left of their work at the close of a day, having worked as forecast from where it went on. */
function workedUntil(
  assignment: Assignment,
  activity: Activity,
  part: net.EffortPart,
  from: number,
  close: LocalMinute,
): Assignment {
  const begin = localMinute(Math.max(from, part.restartAt));
  const done = begin >= close ? 0 : part.calendar.indexAt(close) - part.calendar.indexAt(begin);
  const [units, hundred] = wholes([assignment.unitsPercent ?? 100, 100]) as [number, number];
  const left = takeShare(Math.max(0, part.minutes - done), { part: units, whole: hundred });
  return { ...assignment, remainingMinutes: Math.min(remainingWork(assignment, activity), left) };
}
