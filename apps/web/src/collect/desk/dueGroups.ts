import type { DeskActivity } from "@chronometra/contract";
import { addDays, formatDate, parseDate, weekdayOf } from "@chronometra/core";

export const DUE_GROUPS = [
  "Overdue",
  "Due today",
  "Due this week",
  "Due next week",
  "Under way, due later",
  "Coming up",
] as const;
export type DueGroup = (typeof DUE_GROUPS)[number];

const SUNDAY = 6;

/** When an activity is due, in plain words, weeks ending on Sunday. Dates as `YYYY-MM-DD`. */
export function dueGroup(
  { start, finish, state }: Pick<DeskActivity, "start" | "finish" | "state">,
  today: string,
): DueGroup {
  const day = parseDate(today)!;
  const sunday = addDays(day, SUNDAY - weekdayOf(day));
  if (finish < today) return "Overdue";
  if (finish === today) return "Due today";
  if (finish <= formatDate(sunday)) return "Due this week";
  if (finish <= formatDate(addDays(sunday, 7))) return "Due next week";
  return state === "inProgress" || start <= today ? "Under way, due later" : "Coming up";
}

/** Activities by when they are due, the earliest first; groups without any are left out. */
export function byDue(
  activities: readonly DeskActivity[],
  today: string,
): { group: DueGroup; activities: DeskActivity[] }[] {
  const ordered = [...activities].sort((a, b) => (a.finish < b.finish ? -1 : a.finish > b.finish ? 1 : 0));
  return DUE_GROUPS.map((group) => ({
    group,
    activities: ordered.filter((activity) => dueGroup(activity, today) === group),
  })).filter(({ activities: own }) => own.length > 0);
}
