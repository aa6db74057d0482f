import { computePlan, type Computed } from "../analyse.ts";
import { spentAfter } from "../performance/cost.ts";
import type { Figures } from "../performance/figures.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { finishDayOf, formatDate, formatTime, openOf, type EpochDay, type LocalMinute } from "../time/instant.ts";
import type { WorkCalendar } from "../time/workCalendar.ts";
import { deadlineStandings, type DeadlineStanding } from "./deadlines.ts";

/** A date that would move. Days are working days of the project calendar, later is positive. */
export interface Movement {
  readonly id: string;
  readonly name: string;
  /** The date as shown, `YYYY-MM-DD`; `null` where there is none before or after. */
  readonly from: string | null;
  readonly to: string | null;
  readonly days: number | null;
  /** The times of day, `HH:MM`, where it moves within the one date shown; `null` elsewhere. */
  readonly clock: { readonly from: string; readonly to: string } | null;
}

/** What a list of changes would move, before anything is stored. */
export interface Effect {
  readonly finish: Movement | null;
  /** Work whose finish moves, in the plan's order. */
  readonly activities: readonly Movement[];
  readonly milestones: readonly Movement[];
  /** Deadlines whose state or margin changes. */
  readonly deadlines: readonly {
    id: string;
    name: string;
    before: DeadlineStanding | null;
    after: DeadlineStanding | null;
  }[];
  /** Minor units; `null` where there is no baseline or data date. */
  readonly cost: null | CostChange;
  /** Variances in minor units and indices of the project; `null` where there is no baseline or data date. */
  readonly performance: null | { readonly before: Measured; readonly after: Measured };
}

/** Minor units. */
export interface CostChange {
  readonly actualBefore: number;
  readonly actualAfter: number;
  readonly estimateBefore: number;
  readonly estimateAfter: number;
  /** What of it becomes actual cost only when the data date passes its days, and the last of these days. */
  readonly laterBefore: number;
  readonly laterAfter: number;
  readonly laterBy: string | null;
}

type Measured = Pick<Figures, "sv" | "cv" | "spi" | "cpi">;

/** A plan with what was computed from it. */
export interface Reckoned {
  readonly plan: PlanBundle;
  readonly computed: Computed;
}

/**
 * Compares a plan before and after changes.
 * @throws {PlanProblems} where either cannot be computed
 */
export const effectOf = (before: PlanBundle, after: PlanBundle): Effect =>
  effectBetween({ plan: before, computed: computePlan(before) }, { plan: after, computed: computePlan(after) });

/** As `effectOf`, for plans that have been computed already. */
export function effectBetween(
  { plan: before, computed: was }: Reckoned,
  { plan: after, computed: will }: Reckoned,
): Effect {
  const calendar = will.schedule.calendars.get(after.project.calendar);
  const moved = movements(before, after, was, will, calendar);
  const isMilestone = new Set(after.activities.filter((activity) => activity.kind === "milestone").map(({ id }) => id));
  return {
    finish: projectFinish(was, will, calendar),
    activities: moved.filter(({ id }) => !isMilestone.has(id)),
    milestones: moved.filter(({ id }) => isMilestone.has(id)),
    deadlines: deadlineChanges(before, after, was, will),
    cost: costChange(before, after, was, will),
    performance:
      was.performance === null || will.performance === null
        ? null
        : { before: measured(was.performance.project), after: measured(will.performance.project) },
  };
}

const measured = ({ sv, cv, spi, cpi }: Figures): Measured => ({ sv, cv, spi, cpi });

function costChange(before: PlanBundle, after: PlanBundle, was: Computed, will: Computed): Effect["cost"] {
  if (was.performance === null || will.performance === null) return null;
  const [earlier, later] = [spentAfter(before, was.performance.asOf), spentAfter(after, will.performance.asOf)];
  return {
    actualBefore: was.performance.project.ac,
    actualAfter: will.performance.project.ac,
    estimateBefore: was.performance.project.eacBottomUp,
    estimateAfter: will.performance.project.eacBottomUp,
    laterBefore: earlier.costMinor,
    laterAfter: later.costMinor,
    laterBy: later.last ?? earlier.last,
  };
}

const workingDays = (calendar: WorkCalendar, from: LocalMinute, to: LocalMinute): number =>
  (calendar.indexAt(to) - calendar.indexAt(from)) / calendar.dayMinutes;

/** The time of day, `HH:MM`; the end of the day is 24:00. */
const clockOf = (at: LocalMinute, day: EpochDay): string => formatTime(at - openOf(day));

function projectFinish(was: Computed, will: Computed, calendar: WorkCalendar): Movement | null {
  const from = was.schedule.finish;
  const to = will.schedule.finish;
  if (from === null || to === null || from === to) return null;
  const [fromDay, toDay] = [finishDayOf(from), finishDayOf(to)];
  return {
    id: "",
    name: "",
    from: formatDate(fromDay),
    to: formatDate(toDay),
    days: workingDays(calendar, from, to),
    clock: fromDay === toDay ? { from: clockOf(from, fromDay), to: clockOf(to, toDay) } : null,
  };
}

function movements(
  before: PlanBundle,
  after: PlanBundle,
  was: Computed,
  will: Computed,
  calendar: WorkCalendar,
): Movement[] {
  const earlier = new Map(before.activities.map(({ id }, i) => [id, was.schedule.rows[i] ?? null]));
  const found: Movement[] = [];
  after.activities.forEach((activity, i) => {
    const from = earlier.get(activity.id) ?? null;
    const to = will.schedule.rows[i] ?? null;
    if (activity.kind === "summary" || (from === null && to === null) || from?.finish === to?.finish) return;
    found.push({
      id: activity.id,
      name: activity.name,
      from: from === null ? null : formatDate(from.finishDay),
      to: to === null ? null : formatDate(to.finishDay),
      days: from === null || to === null ? null : workingDays(calendar, from.finish, to.finish),
      clock:
        from !== null && to !== null && from.finishDay === to.finishDay
          ? { from: clockOf(from.finish, from.finishDay), to: clockOf(to.finish, to.finishDay) }
          : null,
    });
  });
  return found;
}

function deadlineChanges(before: PlanBundle, after: PlanBundle, was: Computed, will: Computed): Effect["deadlines"] {
  const then = deadlineStandings(before, was.schedule);
  const now = deadlineStandings(after, will.schedule);
  return after.activities.flatMap(({ id, name }) => {
    const a = then.get(id) ?? null;
    const b = now.get(id) ?? null;
    const same = a?.state === b?.state && a?.marginDays === b?.marginDays && a?.deadline === b?.deadline;
    return same ? [] : [{ id, name, before: a, after: b }];
  });
}
