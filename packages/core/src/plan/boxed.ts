import { closeOf, openOf, parseDate } from "../time/instant.ts";
import type { WorkCalendar } from "../time/workCalendar.ts";
import { compileCalendars } from "./compileCalendars.ts";
import type { Timebox } from "./ownTables.ts";
import { remembered } from "./derived/remembered.ts";
import type { PlanTables } from "./rowSchemas.ts";
import type { Activity, Assignment, ProjectHead } from "./schema.ts";

/** What of a plan decides about work in timeboxes. */
type Boxable = { readonly project: ProjectHead } & {
  readonly [T in "calendars" | "activities" | "assignments" | "timeboxes" | "boxed"]: ReadonlyMap<
    string,
    PlanTables[T]
  >;
};

/** What can stand in a timebox: work and milestones; what spans or sums up others has no time of its own. */
export const takesBoxes = ({ kind = "work" }: Pick<Activity, "kind">): boolean =>
  kind === "work" || kind === "milestone";

/** The timebox in which an activity stands. */
export function timeboxOf({ timeboxes, boxed }: Pick<Boxable, "timeboxes" | "boxed">, id: string): Timebox | undefined {
  const box = boxed.get(id)?.box;
  return box === undefined ? undefined : timeboxes.get(box);
}

/** How the bound that a timebox gives is named among the reasons of a date. */
export const boxReason = ({ name }: Timebox): string => `timebox “${name}”`;

/** What around an activity decides how its timebox bounds it. */
interface Around {
  readonly assigned: boolean;
  readonly calendar: WorkCalendar;
  /** Whether the box begins after the data date. */
  readonly binds: boolean;
}

/**
 * An activity with what its timebox decides (calculations.md section 10): not started, it begins no earlier than the box;
 * with neither duration nor hours of people it lasts as long as the box has working time. The box caps nothing. A box that
 * begins by the data date bounds nothing that the data date does not bound.
 * @param assigned whether people work on it
 * @param calendar the one it is worked in
 */
function bound(activity: Activity, box: Timebox, { assigned, calendar, binds }: Around): Activity {
  const next: { -readonly [K in keyof Activity]: Activity[K] } = { ...activity };
  const isLater = activity.wish === undefined || activity.wish.date < box.first;
  if (binds && isLater && activity.actualStart === undefined)
    next.wish = { type: "startNotBefore", date: box.first, reason: boxReason(box) };
  if ((activity.kind ?? "work") === "work" && activity.durationMinutes === undefined) {
    const whole = calendar.indexAt(closeOf(parseDate(box.last)!)) - calendar.indexAt(openOf(parseDate(box.first)!));
    if (assigned) next.driver = "effort";
    else if (whole > 0) next.durationMinutes = whole;
  }
  return next;
}

const workedOn = remembered(
  (assignments: ReadonlyMap<string, Assignment>) => new Set([...assignments.values()].map(({ activity }) => activity)),
);

/** Bound activities as they were made last, so that one that has not changed stays the same object. */
const made = new WeakMap<Activity, { readonly box: Timebox; readonly around: Around; readonly bound: Activity }>();

function boundOnce(activity: Activity, box: Timebox, around: Around): Activity {
  const known = made.get(activity);
  const { assigned, calendar, binds } = known?.around ?? {};
  if (known?.box === box && assigned === around.assigned && calendar === around.calendar && binds === around.binds)
    return known.bound;
  const fresh = bound(activity, box, around);
  made.set(activity, { box, around, bound: fresh });
  return fresh;
}

/** An activity of a plan as it is computed: with what its timebox decides, where it stands in one. */
export function activityInBox(plan: Boxable, id: string): Activity | undefined {
  const activity = plan.activities.get(id);
  const box = timeboxOf(plan, id);
  if (activity === undefined || box === undefined || !takesBoxes(activity)) return activity;
  const { set, problems } = calendarsOf(plan.calendars);
  const calendar = activity.calendar ?? plan.project.calendar;
  // What cannot be computed is refused for what is wrong with it, by the checks that come next.
  if (problems.length > 0 || !set.has(calendar) || box.last < box.first) return activity;
  const binds = box.first > (plan.project.dataDate ?? "");
  const assigned = workedOn(plan.assignments).has(id);
  return boundOnce(activity, box, { assigned, calendar: set.get(calendar), binds });
}

const calendarsOf = remembered((calendars: Boxable["calendars"]) => compileCalendars([...calendars.values()]));

/** All activities of a plan as they are computed. */
export const activitiesInBoxes = (plan: Boxable): Activity[] =>
  [...plan.activities].map(([id, activity]) => (plan.boxed.has(id) ? activityInBox(plan, id)! : activity));
