import { planTree } from "../plan/planTree.ts";
import { pushOut, type NotPushed } from "./pushOut.ts";
import type { Change } from "../plan/change.ts";
import type { Activity, PlanBundle } from "../plan/schema.ts";
import { schedulePlan } from "../network/schedule.ts";
import { decidingChain } from "../network/explain.ts";
import { compileCalendars } from "../plan/compileCalendars.ts";
import { epochDay, formatDate, parseDate, type EpochDay } from "../time/instant.ts";

/** Something that can go along when a milestone slips. */
export interface Along {
  readonly id: string;
  readonly name: string;
  readonly milestone: boolean;
  /** Shown dates, `YYYY-MM-DD`. */
  readonly start: string;
  readonly finish: string;
  readonly deadline: string | null;
  /** Whether the milestone's date hangs on it now. */
  readonly decides: boolean;
  /** People who work on it, and its owner. */
  readonly people: readonly string[];
}

/** What leads to a milestone and is not finished, and the milestones that come after it; each in the order of dates. */
export interface SlipChoice {
  readonly before: readonly Along[];
  readonly after: readonly Along[];
}

/** Ids reached from one along the links, in one direction. */
function reached(plan: PlanBundle, from: string, backwards: boolean, parked: ReadonlySet<string>): Set<string> {
  const next = new Map<string, string[]>();
  for (const link of plan.links ?? []) {
    const [here, there] = backwards ? [link.to, link.from] : [link.from, link.to];
    if (!parked.has(link.from) && !parked.has(link.to)) next.set(here, [...(next.get(here) ?? []), there]);
  }
  const found = new Set<string>();
  const open = [from];
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    for (const id of next.get(at) ?? []) {
      if (found.has(id)) continue;
      found.add(id);
      open.push(id);
    }
  }
  return found;
}

/** What can go along when a milestone slips. */
export function slipChoice(plan: PlanBundle, milestone: string): SlipChoice {
  const schedule = schedulePlan(plan);
  const { parked } = planTree(plan.activities);
  const before = reached(plan, milestone, true, parked);
  const after = reached(plan, milestone, false, parked);
  const deciding = new Set(decidingChain(plan, milestone));
  const people = new Map<string, Set<string>>();
  for (const { activity, person } of plan.assignments ?? [])
    people.set(activity, (people.get(activity) ?? new Set()).add(person));
  const rows = plan.activities.flatMap((activity, i): Along[] => {
    const row = schedule.rows[i];
    const { id, name, kind = "work", owner, deadline } = activity;
    if (row == null || row.state === "complete" || kind === "summary" || kind === "levelOfEffort") return [];
    const concerned = new Set([...(people.get(id) ?? []), ...(owner === undefined ? [] : [owner])]);
    return [
      {
        id,
        name,
        milestone: kind === "milestone",
        start: formatDate(row.startDay),
        finish: formatDate(row.finishDay),
        deadline: deadline ?? null,
        decides: deciding.has(id),
        people: [...concerned],
      },
    ];
  });
  const byDate = (a: Along, b: Along): number => (a.finish < b.finish ? -1 : a.finish > b.finish ? 1 : 0);
  return {
    before: rows.filter(({ id }) => before.has(id)).sort(byDate),
    after: rows.filter(({ id, milestone: is }) => is && after.has(id)).sort(byDate),
  };
}

/** How a milestone is to slip. */
/**
 * How many worked days of its own calendar an activity has to slip to lie on a day, so that it comes to lie there or on
 * the next that is worked; 0 and less where that is no later.
 * @param from the day on which it lies
 */
export function slipDays(plan: PlanBundle, activity: Activity, from: EpochDay, to: EpochDay): number {
  const { set } = compileCalendars(plan.calendars);
  const calendar = set.get(activity.calendar ?? plan.project.calendar);
  const days = calendar.workedCountBefore(to + 1) - calendar.workedCountBefore(from + 1);
  // A day off is not reached by the worked days before it.
  return days >= 0 && to > from && calendar.minutesOn(to) === 0 ? days + 1 : days;
}

export interface Slipping {
  readonly milestone: string;
  /** Worked days of each one's own calendar, 1 and more. */
  readonly days: number;
  /** Activities and milestones that go along. */
  readonly along: readonly string[];
  /** Whether the deadlines of all that go are put off too; they stay where they were promised otherwise. */
  readonly deadlines: boolean;
  readonly reason: string;
}

/** Changes that slip a milestone with all that goes along; every date falls on a worked day. */
export function slipMilestone(
  plan: PlanBundle,
  { milestone, days, along, deadlines, reason }: Slipping,
): { changes: Change[]; left: NotPushed[] } {
  const ids = [...new Set([...along, milestone])];
  const pushed = pushOut(plan, schedulePlan(plan), ids, days, reason);
  if (!deadlines) return pushed;
  const { set } = compileCalendars(plan.calendars);
  const byId = new Map(plan.activities.map((activity) => [activity.id, activity]));
  const put = pushed.changes.flatMap((change): Change[] => {
    const activity = change.type === "setWish" ? byId.get(change.activity) : undefined;
    if (activity?.deadline === undefined) return [];
    const day = set.get(activity.calendar ?? plan.project.calendar).workedDay(parseDate(activity.deadline)! + 1, days);
    return day === null ? [] : [{ type: "setDeadline", activity: activity.id, date: formatDate(epochDay(day)) }];
  });
  return { changes: [...pushed.changes, ...put], left: pushed.left };
}
