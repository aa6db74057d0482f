import type { ScheduledActivity } from "./schedule.ts";

type Row = ScheduledActivity | null;

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
 * Dates with those of before in the place of what says the same, so that whoever looks for what moved compares objects.
 * @param former the dates of an activity before, by its position; `null` where it had none
 */
export const settled = (rows: readonly Row[], former: (position: number) => Row): Row[] =>
  rows.map((row, i) => {
    const was = row === null ? null : former(i);
    return row !== null && was !== null && alike(was, row) ? was : row;
  });
