import type { Schedule } from "../network/schedule.ts";
import type { BaselineRow, PlanBundle } from "../plan/schema.ts";
import { remembered } from "../plan/remembered.ts";
import { finishDayOf, parseInstant, startDayOf, type EpochDay, type LocalMinute } from "../time/instant.ts";
import type { BaselineContent } from "../performance/plannedValue.ts";

/** How far an activity's finish has moved from the approved one; later is positive. */
export interface Slip {
  readonly baselineFinishDay: EpochDay;
  readonly finishDay: EpochDay;
  /** Working days of the project calendar. */
  readonly workingDays: number;
  readonly calendarDays: number;
}

/** When each activity of a baseline was to finish. */
const approvedFinishes = remembered(
  (rows: readonly BaselineRow[]): ReadonlyMap<string, LocalMinute> =>
    new Map(rows.map(({ id, finish }) => [id, parseInstant(finish)!])),
);

/** Slip of every baselined activity that has dates, by id in the plan's order (calculations.md section 5). */
export function slipsAgainst(plan: PlanBundle, schedule: Schedule, baseline: BaselineContent): Map<string, Slip> {
  const approved = approvedFinishes(baseline.activities);
  const calendar = schedule.calendars.get(plan.project.calendar);
  const slips = new Map<string, Slip>();
  plan.activities.forEach((activity, i) => {
    const current = schedule.rows[i];
    const finish = approved.get(activity.id);
    if (current == null || finish === undefined || activity.kind === "summary") return;
    const baselineFinishDay = current.shownAsStart ? startDayOf(finish) : finishDayOf(finish);
    slips.set(activity.id, {
      baselineFinishDay,
      finishDay: current.finishDay,
      workingDays: (calendar.indexAt(current.finish) - calendar.indexAt(finish)) / calendar.dayMinutes,
      calendarDays: current.finishDay - baselineFinishDay,
    });
  });
  return slips;
}
