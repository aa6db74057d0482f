import { activityInBox } from "../plan/boxed.ts";
import { computePlan } from "../analyse.ts";
import { restOf, shareOfPercent, takeShare } from "../budget/exact.ts";
import { deadlineStandings, type DeadlineStanding } from "../drift/deadlines.ts";
import { slipsAgainst } from "../drift/slip.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import type { Change } from "../plan/change.ts";
import { toBundle, type Plan } from "../plan/plan.ts";
import { formatDate } from "../time/instant.ts";

/** An unfinished activity along the links from one that is blocked. */
export interface AlongBlock {
  readonly id: string;
  readonly name: string;
  readonly start: string;
  readonly finish: string;
  /** Working days that its finish lies after the approved one; `null` where no baseline holds it. */
  readonly driftDays: number | null;
  /** By what it is blocked itself. */
  readonly blockedBy: string | null;
  /** Working days that its finish would move; 0 upstream. */
  readonly movesDays: number;
}

export interface BlockedWays {
  /** What comes before and is not done: the nearest first. */
  readonly upstream: readonly AlongBlock[];
  /** What comes after: the nearest first. */
  readonly downstream: readonly AlongBlock[];
  /** Deadlines among the blocked activity and what comes after it, as they stand and as they would. */
  readonly deadlines: readonly {
    readonly id: string;
    readonly name: string;
    readonly now: DeadlineStanding;
    readonly then: DeadlineStanding;
  }[];
  /** Working days that the project's finish would move. */
  readonly finishDays: number;
}

/** Ids reached along links in one direction, the nearest first. */
function reached(plan: Plan, from: string, forward: boolean): string[] {
  const next = new Map<string, string[]>();
  for (const link of plan.links.values()) {
    const [a, b] = forward ? [link.from, link.to] : [link.to, link.from];
    next.set(a, [...(next.get(a) ?? []), b]);
  }
  const seen = new Set([from]);
  for (const id of seen) for (const other of next.get(id) ?? []) seen.add(other);
  return [...seen].slice(1);
}

/** Makes an activity take that much longer. */
function longer(plan: Plan, id: string, minutes: number): Change[] {
  const activity = activityInBox(plan, id)!;
  const own = [...plan.assignments].filter(([, row]) => row.activity === id);
  if (activity.driver === "effort" && own.length > 0)
    return own.map(([assignment, row]) => ({
      type: "setRemainingWork",
      assignment,
      remainingMinutes: (row.remainingMinutes ?? row.plannedMinutes) + minutes,
    }));
  if (activity.actualStart === undefined)
    return activity.durationMinutes === undefined
      ? []
      : [{ type: "setDuration", activity: id, minutes: activity.durationMinutes + minutes }];
  const left =
    activity.remainingMinutes ??
    takeShare(activity.durationMinutes ?? 0, restOf(shareOfPercent(activity.percent ?? 0)));
  return [{ type: "reportProgress", activity: id, remainingMinutes: left + minutes }];
}

/**
 * What could be the cause of a block and what will feel it, within one plan: unfinished activities before and after, by links
 * of any kind, and what would move were the activity to stay blocked for some working days more.
 * @param days working days of the project calendar
 * @throws {PlanProblems} where the plan cannot be computed
 */
export function blockedWays(plan: Plan, id: string, days: number): BlockedWays {
  const bundle = toBundle(plan);
  const now = computePlan(bundle);
  const calendar = now.schedule.calendars.get(plan.project.calendar);
  const later = toBundle(applyChanges(plan, longer(plan, id, days * calendar.dayMinutes)).plan);
  const then = computePlan(later);
  const position = new Map(bundle.activities.map((activity, i) => [activity.id, i]));
  const newest = [...plan.baselines.values()].reduce(
    (best, each) => (best === null || each.number > best.number ? each : best),
    null as null | (typeof bundle.baselines & object)[number],
  );
  const slips =
    newest === null ? new Map<string, { workingDays: number }>() : slipsAgainst(bundle, now.schedule, newest);
  const along = (other: string): AlongBlock[] => {
    const i = position.get(other)!;
    const row = now.schedule.rows[i];
    if (row == null || row.state === "complete") return [];
    const moved = then.schedule.rows[i]!;
    return [
      {
        id: other,
        name: bundle.activities[i]!.name,
        start: formatDate(row.startDay),
        finish: formatDate(row.finishDay),
        driftDays: slips.get(other)?.workingDays ?? null,
        blockedBy: plan.blocks.get(other)?.by ?? null,
        movesDays: (calendar.indexAt(moved.finish) - calendar.indexAt(row.finish)) / calendar.dayMinutes,
      },
    ];
  };
  const after = reached(plan, id, true);
  const [standing, would] = [deadlineStandings(bundle, now.schedule), deadlineStandings(later, then.schedule)];
  const { finish } = now.schedule;
  return {
    upstream: reached(plan, id, false).flatMap(along),
    downstream: after.flatMap(along),
    // One that stands as it stood is not at stake.
    deadlines: [id, ...after].flatMap((other) => {
      const [before, stands] = [standing.get(other), would.get(other)];
      const isOpen = now.schedule.rows[position.get(other)!]?.state !== "complete";
      const moves = before?.state !== stands?.state || before?.marginDays !== stands?.marginDays;
      return before !== undefined && stands !== undefined && isOpen && moves
        ? [{ id: other, name: plan.activities.get(other)!.name, now: before, then: stands }]
        : [];
    }),
    finishDays:
      finish === null ? 0 : (calendar.indexAt(then.schedule.finish!) - calendar.indexAt(finish)) / calendar.dayMinutes,
  };
}
