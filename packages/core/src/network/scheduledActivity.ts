import type { EpochDay, LocalMinute } from "../time/instant.ts";

export type ActivityState = "notStarted" | "inProgress" | "complete";
/** By the number that a network has for each. */
export const ACTIVITY_STATES: readonly ActivityState[] = ["notStarted", "inProgress", "complete"];

/** The dates of one activity. Float in working minutes of its calendar; `null` where it has none. */
export interface ScheduledActivity {
  readonly start: LocalMinute;
  readonly finish: LocalMinute;
  /** The days on which start and finish are shown. */
  readonly startDay: EpochDay;
  readonly finishDay: EpochDay;
  readonly lateStart: LocalMinute | null;
  readonly lateFinish: LocalMinute | null;
  readonly totalFloat: number | null;
  readonly freeFloat: number | null;
  readonly critical: boolean;
  readonly longestPath: boolean;
  readonly state: ActivityState;
  /** A milestone that is shown at its start's day, not its finish's. */
  readonly shownAsStart: boolean;
}

/** Whether two dates of an activity say the same. */
const alike = (a: ScheduledActivity, b: ScheduledActivity): boolean =>
  a.start === b.start &&
  a.finish === b.finish &&
  a.startDay === b.startDay &&
  a.finishDay === b.finishDay &&
  a.lateStart === b.lateStart &&
  a.lateFinish === b.lateFinish &&
  a.totalFloat === b.totalFloat &&
  a.freeFloat === b.freeFloat &&
  a.critical === b.critical &&
  a.longestPath === b.longestPath &&
  a.state === b.state &&
  a.shownAsStart === b.shownAsStart;

/**
 * Dates of an activity, or those of before where they say the same, so that whoever looks for what moved compares
 * objects.
 * @param former its dates before; `null` where it had none
 */
export const settledRow = (row: ScheduledActivity, former: ScheduledActivity | null): ScheduledActivity =>
  former !== null && alike(former, row) ? former : row;

/** Gives the dates of an activity before, by its position now. */
export type FormerRows = (at: number) => ScheduledActivity | null;
