import type { LoadCell } from "@chronometra/contract";
import { addDays, demandsOf, formatDate, parseDate } from "@chronometra/core";
import type { HeldPlan } from "../plan/held/heldPlan.ts";

const LAST_DAY = 6;

/** What one person's week consists of in a plan: the work left in it, and the time booked. */
function personWeek(
  { whole: { bundle, computed } }: HeldPlan,
  { person, monday }: { readonly person: string; readonly monday: string },
): Omit<LoadCell[number], "project" | "projectName" | "mayEdit">[] {
  const { schedule } = computed;
  const first = parseDate(monday)!;
  const sunday = formatDate(addDays(first, LAST_DAY));
  const minutes = new Map<string, number>();
  for (const demand of demandsOf(bundle, schedule))
    if (demand.person === person)
      for (const [week, part] of demand.weeks)
        if (week === first) minutes.set(demand.activity, (minutes.get(demand.activity) ?? 0) + part);
  const posted = new Map<string, number>();
  for (const entry of bundle.timeEntries ?? [])
    if (entry.person === person && entry.state === "posted" && entry.date >= monday && entry.date <= sunday)
      posted.set(entry.activity, (posted.get(entry.activity) ?? 0) + entry.minutes);
  return [...new Set([...minutes.keys(), ...posted.keys()])].map((activity) => {
    const i = schedule.tree.indexOf.get(activity)!;
    const row = schedule.rows[i];
    const { dayMinutes } = schedule.calendars.get(bundle.activities[i]!.calendar ?? bundle.project.calendar);
    return {
      activity,
      name: bundle.activities[i]!.name,
      start: row == null ? "" : formatDate(row.startDay),
      finish: row == null ? "" : formatDate(row.finishDay),
      float: row?.totalFloat == null ? null : row.totalFloat / dayMinutes,
      minutes: minutes.get(activity) ?? 0,
      postedMinutes: posted.get(activity) ?? 0,
    };
  });
}

/** What is worked out over a plan when someone's load is looked at. */
export const LOAD_WORKS = { personWeek };
