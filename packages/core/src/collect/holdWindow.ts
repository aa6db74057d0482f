import { remainingWork } from "../network/buildNetwork.ts";
import { schedulePlan, type Schedule } from "../network/schedule.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import type { Change } from "../plan/change.ts";
import { toBundle, type Plan } from "../plan/plan.ts";
import type { Activity } from "../plan/schema.ts";
import { finishDayOf, formatDate } from "../time/instant.ts";

/** A window that is held though work came late into it, and what that asks of its people. */
export interface HeldWindow {
  readonly activity: string;
  readonly name: string;
  /** The day on which it still finishes. */
  readonly finish: string;
  /** What is left for each, beside the working minutes that they have of it until then. */
  readonly load: readonly { readonly person: string; readonly leftMinutes: number; readonly roomMinutes: number }[];
}

export interface Holding {
  /** To be made after those that would move the finishes. */
  readonly changes: Change[];
  readonly held: HeldWindow[];
  /** Windows that cannot be held, with the reason. */
  readonly lost: { readonly activity: string; readonly name: string; readonly why: string }[];
}

/** Steps towards a length whose finish is the one before; a finish that links or wishes hold needs a second or third. */
const TRIES = 5;

const rowOf = (plan: Plan, schedule: Schedule, id: string) => schedule.rows[[...plan.activities.keys()].indexOf(id)] ?? null;

/**
 * Keeps activities from finishing later than before: their window is fixed (driven by duration, held) and what is left of it
 * shortened to fit. The work of their people stays as it is, and is shown beside the time that they have.
 * @param before the plan as it is
 * @param after the plan with what would move it
 */
export function holdWindows(before: Plan, after: Plan, activities: readonly string[]): Holding {
  const was = schedulePlan(toBundle(before));
  const byStart = [...new Set(activities)].map((id) => ({ id, row: rowOf(before, was, id) })).sort((a, b) => (a.row?.start ?? 0) - (b.row?.start ?? 0));
  const holding: Holding = { changes: [], held: [], lost: [] };
  let at = after;
  for (const { id, row } of byStart) {
    const activity = at.activities.get(id);
    if (activity === undefined || row === null || activity.actualFinish !== undefined || activity.kind === "milestone" || activity.kind === "levelOfEffort") continue;
    const now = schedulePlan(toBundle(at));
    const moved = rowOf(at, now, id);
    if (moved === null || moved.finish <= row.finish) continue;
    const changes = changesToEndBy(at, activity, row.finish);
    if (changes === null) {
      holding.lost.push({ activity: id, name: activity.name, why: `nothing is left of its window, which ended on ${formatDate(finishDayOf(row.finish))}` });
      continue;
    }
    at = applyChanges(at, changes).plan;
    holding.changes.push(...changes);
    holding.held.push(heldWindow(at, id));
  }
  return holding;
}

/** Fixes a window and finds what must be left of it; `null` where it would be nothing. */
function changesToEndBy(plan: Plan, activity: Activity, finish: number): Change[] | null {
  const calendar = schedulePlan(toBundle(plan)).calendars.get(activity.calendar ?? plan.project.calendar);
  const target = calendar.indexAt(finish);
  const begun = activity.actualStart !== undefined;
  const fixed: Change[] = [];
  if (activity.driver === "effort" || activity.windowPolicy === "drift") fixed.push({ type: "setWorking", activity: activity.id, driver: null, windowPolicy: null });
  if (begun && activity.durationMinutes === undefined) fixed.push({ type: "setDuration", activity: activity.id, minutes: Math.max(1, target - calendar.indexAt(rowOf(plan, schedulePlan(toBundle(plan)), activity.id)!.start)) });
  const lasting = (minutes: number): Change => (begun ? { type: "reportProgress", activity: activity.id, remainingMinutes: minutes } : { type: "setDuration", activity: activity.id, minutes });
  let minutes = 1;
  for (let tries = 0; tries < TRIES; tries++) {
    const changes = [...fixed, lasting(minutes)];
    const trial = applyChanges(plan, changes).plan;
    const got = calendar.indexAt(rowOf(trial, schedulePlan(toBundle(trial)), activity.id)!.finish);
    if (got === target) return changes;
    minutes += target - got;
    if (minutes < 1) return null;
  }
  return null;
}

function heldWindow(plan: Plan, id: string): HeldWindow {
  const activity = plan.activities.get(id)!;
  const schedule = schedulePlan(toBundle(plan));
  const row = rowOf(plan, schedule, id)!;
  const window = schedule.calendars.get(activity.calendar ?? plan.project.calendar);
  const left = activity.actualStart === undefined ? activity.durationMinutes! : activity.remainingMinutes!;
  const from = window.startAt(window.indexAt(row.finish) - left);
  const load = [...plan.assignments.values()].flatMap((assignment) => {
    if (assignment.activity !== id) return [];
    const person = plan.people.get(assignment.person);
    const own = schedule.calendars.get(person?.calendar ?? plan.project.calendar);
    const room = Math.round(((own.indexAt(row.finish) - own.indexAt(from)) * (assignment.unitsPercent ?? 100)) / 100);
    return [{ person: person?.name ?? assignment.person, leftMinutes: remainingWork(assignment, activity), roomMinutes: room }];
  });
  return { activity: id, name: activity.name, finish: formatDate(row.finishDay), load };
}
