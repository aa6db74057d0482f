import { mondayOf } from "../load/loadByWeek.ts";
import type { Plan } from "../plan/plan.ts";
import type { Change } from "../plan/change.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { addDays, formatDate, parseDate } from "../time/instant.ts";
import type { BoxedWork } from "./boxFigures.ts";

/** The ids of what a milestone gathers, in the order of the plan. */
export const gatheredBy = ({ activities, gathered }: Plan, milestone: string): string[] =>
  [...activities.keys()].filter((id) => gathered.get(id)?.milestone === milestone);

/** What a milestone gathers, counted; parked work counts for nothing. */
export interface GatheredSums {
  readonly count: number;
  readonly notStarted: number;
  readonly inProgress: number;
  readonly complete: number;
  readonly parked: number;
  readonly plannedMinutes: number;
  readonly bookedMinutes: number;
  readonly leftMinutes: number;
}

/** Counts what a milestone gathers by state, and adds up its hours. */
export function gatheredSums(works: readonly BoxedWork[]): GatheredSums {
  const live = works.filter(({ parked }) => !parked);
  const count = (state: BoxedWork["state"]): number => live.filter((work) => work.state === state).length;
  const sum = (of: (work: BoxedWork) => number): number => live.reduce((all, work) => all + of(work), 0);
  return {
    count: live.length,
    notStarted: count("notStarted"),
    inProgress: count("inProgress"),
    complete: count("complete"),
    parked: works.length - live.length,
    plannedMinutes: sum((work) => work.plannedMinutes),
    bookedMinutes: sum((work) => work.bookedMinutes),
    leftMinutes: sum((work) => work.leftMinutes),
  };
}

/** How far what is gathered had come by the end of a week. */
export interface GatheredWeek {
  /** `YYYY-MM-DD`, a Sunday. */
  readonly until: string;
  readonly complete: number;
  readonly bookedMinutes: number;
}

/**
 * Week by week what was finished and booked by then, from the first of either to a day; none before anything was.
 * @param today `YYYY-MM-DD`
 */
export function gatheredTrend(
  { timeEntries = [] }: Pick<PlanBundle, "timeEntries">,
  works: readonly BoxedWork[],
  today: string,
): GatheredWeek[] {
  const live = works.filter(({ parked }) => !parked);
  const ids = new Set(live.map(({ id }) => id));
  const booked = timeEntries.filter(({ activity, state }) => state === "posted" && ids.has(activity));
  const finished = live.flatMap(({ state, finish }) => (state === "complete" && finish !== null ? [finish] : []));
  const days = [...finished, ...booked.map(({ date }) => date)].sort();
  if (days[0] === undefined || days[0] > today) return [];
  const weeks: GatheredWeek[] = [];
  for (let monday = mondayOf(parseDate(days[0])!); formatDate(monday) <= today; monday = addDays(monday, 7)) {
    const until = formatDate(addDays(monday, 6));
    weeks.push({
      until,
      complete: finished.filter((date) => date <= until).length,
      bookedMinutes: booked.reduce((sum, { date, minutes }) => (date <= until ? sum + minutes : sum), 0),
    });
  }
  return weeks;
}

/**
 * The changes by which a milestone gathers activities, away from another that gathered them; with links, each that has
 * none leads to it.
 * @param newKey keys that nothing has yet, for links
 */
export function gather(
  plan: Plan,
  milestone: string,
  ids: readonly string[],
  withLinks: boolean,
  newKey: () => string,
): Change[] {
  const linked = new Set([...plan.links.values()].flatMap(({ from, to }) => (to === milestone ? [from] : [])));
  return ids.flatMap((id): Change[] => {
    const was = plan.gathered.get(id)?.milestone;
    return [
      ...(was === undefined || was === milestone ? [] : [{ type: "removeRow", table: "gathered", key: id } as const]),
      ...(was === milestone ? [] : [{ type: "addRow", table: "gathered", key: id, row: { milestone } } as const]),
      ...(withLinks && !linked.has(id)
        ? [{ type: "addRow", table: "links", key: newKey(), row: { from: id, to: milestone } } as const]
        : []),
    ];
  });
}
