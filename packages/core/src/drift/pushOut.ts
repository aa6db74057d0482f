import type { Schedule } from "../network/schedule.ts";
import { epochDay, formatDate } from "../time/instant.ts";
import type { Change } from "../plan/change.ts";
import type { Activity, PlanBundle } from "../plan/schema.ts";
import { dateWords } from "../words/dateWords.ts";

/** An activity that cannot be pushed out, and why. */
export interface NotPushed {
  readonly id: string;
  readonly name: string;
  readonly why: string;
}

/**
 * Changes that put activities off by some worked days of their own calendars: a start that is still to come by a wish not
 * to begin before, begun work and milestones by a wish not to end before. A wish that is there is moved with its kind.
 * What cannot be put off is named.
 * @param schedule what `schedulePlan` gave for the plan
 * @param days 1 and more
 */
export function pushOut(
  plan: PlanBundle,
  schedule: Schedule,
  ids: readonly string[],
  days: number,
  reason: string,
): { changes: Change[]; left: NotPushed[] } {
  const changes: Change[] = [];
  const left: NotPushed[] = [];
  for (const id of ids) {
    const i = schedule.tree.indexOf.get(id);
    if (i === undefined) continue;
    const activity = plan.activities[i]!;
    const pushed = wishFor(plan, schedule, activity, i, days);
    if (typeof pushed === "string") left.push({ id, name: activity.name, why: pushed });
    else changes.push({ type: "setWish", activity: id, wish: { ...pushed, reason } });
  }
  return { changes, left };
}

type Wish = NonNullable<Activity["wish"]>;

function wishFor(
  plan: PlanBundle,
  schedule: Schedule,
  activity: Activity,
  i: number,
  days: number,
): Omit<Wish, "reason"> | string {
  const row = schedule.rows[i];
  if (activity.kind === "summary") return "a branch: select what is below it";
  if (activity.kind === "levelOfEffort") return "it spans other work and moves with it";
  if (schedule.tree.parked.has(activity.id)) return "parked";
  if (row == null) return "has no dates";
  if (row.state === "complete") return "finished";
  const calendar = schedule.calendars.get(activity.calendar ?? plan.project.calendar);
  const { wish } = activity;
  if (wish !== undefined && (wish.type === "startNotAfter" || wish.type === "finishNotAfter"))
    return `a date wish says not after ${dateWords(wish.date)}: move that first`;
  const atFinish =
    row.state === "inProgress" ||
    (activity.kind === "milestone" ? !row.shownAsStart : wish?.type === "finishNotBefore" || wish?.type === "finishOn");
  const type =
    wish?.type === "startOn" || wish?.type === "finishOn"
      ? atFinish
        ? "finishOn"
        : "startOn"
      : atFinish
        ? "finishNotBefore"
        : "startNotBefore";
  const day = calendar.workedDay((atFinish ? row.finishDay : row.startDay) + 1, days);
  return day === null ? "would run past 2099" : { type, date: formatDate(epochDay(day)) };
}
