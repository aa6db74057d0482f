import type { Schedule } from "../network/schedule.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { finishDayOf, parseInstant, startDayOf, type EpochDay } from "../time/instant.ts";
import { baselineRows, type BaselineContent } from "../performance/plannedValue.ts";

/** How far an activity's finish has moved from the approved one; later is positive. */
export interface Slip {
  readonly baselineFinishDay: EpochDay;
  readonly finishDay: EpochDay;
  /** Working days of the project calendar. */
  readonly workingDays: number;
  readonly calendarDays: number;
}

/** Slip of every baselined activity that has dates, by id in the plan's order (calculations.md section 5). */
export function slipsAgainst(plan: PlanBundle, schedule: Schedule, baseline: BaselineContent): Map<string, Slip> {
  const rows = baselineRows(baseline.activities);
  const calendar = schedule.calendars.get(plan.project.calendar);
  const slips = new Map<string, Slip>();
  plan.activities.forEach((activity, i) => {
    const current = schedule.rows[i];
    const approved = rows.get(activity.id);
    if (current == null || approved === undefined || activity.kind === "summary") return;
    const finish = parseInstant(approved.finish)!;
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
