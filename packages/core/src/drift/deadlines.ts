import type { Schedule } from "../network/schedule.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { closeOf, formatDate, parseDate } from "../time/instant.ts";
import type { DeadlineState } from "../words/standingWords.ts";

export interface DeadlineStanding {
  readonly deadline: string;
  /** The finish as shown, `YYYY-MM-DD`. */
  readonly finish: string;
  /** Working days of the activity's calendar between finish and deadline; negative is past it, `null` where it was dropped. */
  readonly marginDays: number | null;
  readonly state: DeadlineState;
}

const DEFAULT_TIGHT_DAYS = 5;

/** How every dated activity stands to its deadline, by id in the plan's order (calculations.md section 5). */
export function deadlineStandings(plan: PlanBundle, schedule: Schedule): ReadonlyMap<string, DeadlineStanding> {
  const last = known.get(schedule);
  if (last?.plan === plan) return last.standings;
  const standings = standingsOf(plan, schedule);
  known.set(schedule, { plan, standings });
  return standings;
}

interface Known {
  readonly plan: PlanBundle;
  readonly standings: ReadonlyMap<string, DeadlineStanding>;
}
const known = new WeakMap<Schedule, Known>();

function standingsOf(plan: PlanBundle, schedule: Schedule): ReadonlyMap<string, DeadlineStanding> {
  const { dataDate, tightDays = DEFAULT_TIGHT_DAYS } = plan.project;
  const standings = new Map<string, DeadlineStanding>();
  plan.activities.forEach((activity, i) => {
    const row = schedule.rows[i];
    if (row == null || activity.deadline === undefined) return;
    const { deadline } = activity;
    const calendar = schedule.calendars.get(activity.calendar ?? plan.project.calendar);
    const marginDays =
      (calendar.indexAt(closeOf(parseDate(deadline)!)) - calendar.indexAt(row.finish)) / calendar.dayMinutes;
    const finish = formatDate(row.finishDay);
    if (activity.dropped === true) {
      standings.set(activity.id, { deadline, finish, marginDays: null, state: "dropped" });
      return;
    }
    const state = (): DeadlineState => {
      if (row.state === "complete") return finish <= deadline ? "metOnTime" : "metLate";
      if (dataDate !== undefined && dataDate >= deadline) return "breached";
      if (marginDays < 0 || finish > deadline) return "willBreach";
      return marginDays < tightDays ? "tight" : "safe";
    };
    standings.set(activity.id, { deadline, finish, marginDays, state: state() });
  });
  return standings;
}
