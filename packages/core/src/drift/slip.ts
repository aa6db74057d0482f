import type { Schedule } from "../network/schedule.ts";
import type { BaselineRow, PlanBundle } from "../plan/schema.ts";
import { remembered } from "../plan/derived/remembered.ts";
import { succession } from "../plan/derived/succession.ts";
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

/** A plan as it was compared with what was approved, for one that comes of it. */
export interface SlippedBefore {
  readonly plan: PlanBundle;
  readonly schedule: Schedule;
  readonly baseline: BaselineContent;
  readonly slips: readonly (Slip | null)[];
}

/**
 * Slip of every baselined activity that has dates (calculations.md section 5).
 * @param before a plan that it came of: slips of what did not move are taken from there
 * @returns by position in the plan's activities; `null` where there is none
 */
export function slipsByPosition(
  plan: PlanBundle,
  schedule: Schedule,
  baseline: BaselineContent,
  before?: SlippedBefore,
): (Slip | null)[] {
  const approved = approvedFinishes(baseline.activities);
  const calendar = schedule.calendars.get(plan.project.calendar);
  const former = formerSlips(plan, schedule, baseline, before);
  return plan.activities.map((activity, i) => {
    const current = schedule.rows[i];
    if (current == null || activity.kind === "summary") return null;
    const was = former(i);
    if (was !== undefined) return was;
    const finish = approved.get(activity.id);
    if (finish === undefined) return null;
    const baselineFinishDay = current.shownAsStart ? startDayOf(finish) : finishDayOf(finish);
    return {
      baselineFinishDay,
      finishDay: current.finishDay,
      workingDays: (calendar.indexAt(current.finish) - calendar.indexAt(finish)) / calendar.dayMinutes,
      calendarDays: current.finishDay - baselineFinishDay,
    };
  });
}

/** Gives the slip of an activity before, by its position now, where neither it nor what it is compared with moved. */
function formerSlips(
  plan: PlanBundle,
  schedule: Schedule,
  baseline: BaselineContent,
  before: SlippedBefore | undefined,
): (i: number) => Slip | null | undefined {
  if (
    before === undefined ||
    before.baseline.activities !== baseline.activities ||
    before.schedule.calendars !== schedule.calendars ||
    before.plan.project.calendar !== plan.project.calendar
  )
    return () => undefined;
  const { from } = succession(before.plan.activities, plan.activities);
  return (i) => {
    const was = from[i]!;
    if (was < 0 || before.schedule.rows[was] !== schedule.rows[i]) return undefined;
    const [then, now] = [before.plan.activities[was]!, plan.activities[i]!];
    const isSame = then === now || (then.kind === "summary") === (now.kind === "summary");
    return isSame ? before.slips[was] : undefined;
  };
}

/** The same by id, in the plan's order. */
export function slipsAgainst(plan: PlanBundle, schedule: Schedule, baseline: BaselineContent): Map<string, Slip> {
  const slips = new Map<string, Slip>();
  slipsByPosition(plan, schedule, baseline).forEach((slip, i) => {
    if (slip !== null) slips.set(plan.activities[i]!.id, slip);
  });
  return slips;
}
