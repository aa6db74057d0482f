import { closeOf, compileCalendars, localMinute, openOf, parseDate, type EpochDay, type Plan } from "@chronometra/core";
import type { HeldPlan } from "../../plan/held/heldPlan.ts";

/**
 * Work that a plan asks of each person from one day to another: what is planned of an assignment, spread evenly over
 * its person's working time between the activity's start and finish.
 */
export function plannedBetween(
  { plan, whole: { bundle, computed } }: HeldPlan,
  from: EpochDay,
  to: EpochDay,
): Map<string, number> {
  const { rows } = computed.schedule;
  const calendars = compileCalendars([...plan.calendars.values()]).set;
  const position = new Map(bundle.activities.map(({ id }, i) => [id, i]));
  const planned = new Map<string, number>();
  for (const { activity, person, plannedMinutes } of plan.assignments.values()) {
    const row = rows[position.get(activity)!];
    if (row == null || row.finish <= openOf(from) || row.start >= closeOf(to)) continue;
    const calendar = calendars.get(plan.people.get(person)?.calendar ?? plan.project.calendar);
    const whole = calendar.indexAt(row.finish) - calendar.indexAt(row.start);
    const part =
      calendar.indexAt(localMinute(Math.min(row.finish, closeOf(to)))) -
      calendar.indexAt(localMinute(Math.max(row.start, openOf(from))));
    if (whole > 0) planned.set(person, (planned.get(person) ?? 0) + Math.round((plannedMinutes * part) / whole));
  }
  return planned;
}

/** Minutes of a plan's posted time from one date to another, by person. */
function postedBetween(plan: Plan, from: string, to: string): Map<string, number> {
  const posted = new Map<string, number>();
  for (const { person, date, minutes, state } of plan.timeEntries.values())
    if (state === "posted" && date >= from && date <= to) posted.set(person, (posted.get(person) ?? 0) + minutes);
  return posted;
}

/** Minutes of a plan from one date to another, planned and posted, by person. */
export const peopleBetween = (
  held: HeldPlan,
  { from, to }: { readonly from: string; readonly to: string },
): { planned: Map<string, number>; posted: Map<string, number> } => ({
  planned: plannedBetween(held, parseDate(from)!, parseDate(to)!),
  posted: postedBetween(held.plan, from, to),
});
