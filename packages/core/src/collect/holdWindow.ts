import { dateWords } from "../words/dateWords.ts";
import { remainingWork, stateOf } from "../network/laid/nodeColumns.ts";
import { COMPLETE, FIXED } from "../network/laid/network.ts";
import { schedulePlan, type Schedule } from "../network/schedule.ts";
import type { ScheduledActivity } from "../network/scheduledActivity.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import type { Change } from "../plan/change.ts";
import { toBundle, type Plan } from "../plan/plan.ts";
import type { Activity } from "../plan/schema.ts";
import { closeOf, finishDayOf, formatDate, parseDate, type LocalMinute } from "../time/instant.ts";

/** What is left for someone on an activity, beside the working minutes that they have until it ends. */
export interface PersonsLoad {
  readonly person: string;
  readonly leftMinutes: number;
  readonly roomMinutes: number;
}

/** The window of an activity that would end later, or in which someone has more to do than fits. */
export interface ActivityWindow {
  readonly activity: string;
  readonly name: string;
  /** The days on which it ended before, and would end if nothing were held. */
  readonly was: string | null;
  readonly wouldEnd: string;
  /** The day on which it ends with what is held. */
  readonly ends: string;
  /** `stays` where it ends no later; `lost` where it is to be held and cannot be. */
  readonly outcome: "stays" | "moves" | "held" | "lost";
  /** Why it cannot be held; `null` where it can. */
  readonly why: string | null;
  /** Of a window that is fixed or held, those who have more than fits; of one that is held, the others too. */
  readonly load: readonly PersonsLoad[];
}

export interface Holding {
  /** To be made after those that would move the finishes. */
  readonly changes: Change[];
  readonly windows: ActivityWindow[];
}

/** Steps towards a length whose finish is the one before; a finish that links or wishes hold needs a second or third. */
const TRIES = 5;

const rowOf = (plan: Plan, schedule: Schedule, id: string): ScheduledActivity | null =>
  schedule.rows[[...plan.activities.keys()].indexOf(id)] ?? null;

/** Why the window of an activity cannot be held, whatever is left of it. */
function unholdable({ kind, actualFinish }: Activity): string | null {
  if (actualFinish !== undefined) return "it is finished, and ends with the last work on it";
  return kind === "milestone" || kind === "levelOfEffort" ? "it has no window of its own" : null;
}

/** An activity as it was, and as it would lie if nothing were held. */
interface Candidate {
  readonly id: string;
  readonly row: ScheduledActivity | null;
  readonly free: ScheduledActivity | null;
}

/** What becomes of its window, and the changes that hold it. */
interface Outcome extends Candidate, Pick<ActivityWindow, "outcome" | "why"> {
  readonly held: readonly Change[];
}

/** What becomes of a window in the plan as it is so far; `null` of an activity that has none there. */
function outcomeOf(of: Candidate, at: Plan, now: Schedule, hold: ReadonlySet<string>): Outcome | null {
  const { id, row, free } = of;
  const activity = at.activities.get(id);
  const moved = rowOf(at, now, id);
  if (activity === undefined || free === null || moved === null) return null;
  const isLater = row !== null && moved.finish > row.finish;
  const why = isLater ? unholdable(activity) : null;
  if (!isLater || !hold.has(id))
    return { ...of, outcome: row !== null && free.finish > row.finish ? "moves" : "stays", why, held: [] };
  const held = why === null ? changesToEndBy(at, activity, row.finish) : null;
  if (held !== null) return { ...of, outcome: "held", why: null, held };
  const ended = dateWords(formatDate(finishDayOf(row.finish)));
  return { ...of, outcome: "lost", why: why ?? `nothing remains of its window, which ended on ${ended}`, held: [] };
}

/** The window as it is told; `null` where there is nothing to tell of it. */
function windowOf({ id, row, free, outcome, why }: Outcome, at: Plan, now: Schedule): ActivityWindow | null {
  const all = loadOf(at, now, id);
  const load = outcome === "held" ? all : all.filter(({ leftMinutes, roomMinutes }) => leftMinutes > roomMinutes);
  if (outcome === "stays" && load.length === 0) return null;
  const shown = (each: ScheduledActivity): string => formatDate(each.finishDay);
  return {
    activity: id,
    name: at.activities.get(id)!.name,
    was: row === null ? null : shown(row),
    wouldEnd: shown(free!),
    ends: shown(rowOf(at, now, id)!),
    outcome,
    why,
    load,
  };
}

/**
 * The windows of activities that would end later, and those in which someone has more to do than fits. The ones that are to be
 * held keep their finish: they are fixed (driven by duration, held) and what is left of them shortened to fit. The work of their
 * people stays as it is, and is shown beside the time that they have.
 * @param before the plan as it is
 * @param after the plan with what would move it
 * @param hold those of the activities whose windows are held
 */
export function holdWindows(
  before: Plan,
  after: Plan,
  activities: readonly string[],
  hold: ReadonlySet<string>,
): Holding {
  const was = schedulePlan(toBundle(before));
  const unheld = schedulePlan(toBundle(after));
  const byStart = [...new Set(activities)]
    .map((id) => ({ id, row: rowOf(before, was, id), free: rowOf(after, unheld, id) }))
    .sort((a, b) => (a.row?.start ?? 0) - (b.row?.start ?? 0));
  const changes: Change[] = [];
  const outcomes: Outcome[] = [];
  let at = after;
  let now = unheld;
  for (const each of byStart) {
    const came = outcomeOf(each, at, now, hold);
    if (came === null) continue;
    outcomes.push(came);
    if (came.held.length === 0) continue;
    at = applyChanges(at, came.held).plan;
    now = schedulePlan(toBundle(at));
    changes.push(...came.held);
  }
  return { changes, windows: outcomes.flatMap((each) => windowOf(each, at, now) ?? []) };
}

/** Fixes a window and finds what must be left of it; `null` where it would be nothing. */
function changesToEndBy(plan: Plan, activity: Activity, finish: LocalMinute): Change[] | null {
  const calendar = schedulePlan(toBundle(plan)).calendars.get(activity.calendar ?? plan.project.calendar);
  const target = calendar.indexAt(finish);
  const begun = activity.actualStart !== undefined;
  const fixed: Change[] = [];
  if (activity.driver === "effort" || activity.windowPolicy === "drift")
    fixed.push({ type: "setWorking", activity: activity.id, driver: null, windowPolicy: null });
  if (begun && activity.durationMinutes === undefined)
    fixed.push({
      type: "setDuration",
      activity: activity.id,
      minutes: Math.max(1, target - calendar.indexAt(rowOf(plan, schedulePlan(toBundle(plan)), activity.id)!.start)),
    });
  const lasting = (minutes: number): Change =>
    begun
      ? { type: "reportProgress", activity: activity.id, remainingMinutes: minutes }
      : { type: "setDuration", activity: activity.id, minutes };
  let minutes = 1;
  for (let tries = 0; tries < TRIES; tries++) {
    const changes = [...fixed, lasting(minutes)];
    const trial = applyChanges(plan, changes).plan;
    const got = calendar.indexAt(rowOf(trial, schedulePlan(toBundle(trial)), activity.id)!.finish);
    if (got === target) return changes;
    minutes += target - got;
    if (minutes < 1) return null;
  }
  return null;
}

/** What is left for each person on work whose window is fixed, and the time they have for it: from where it goes on, and after the last day they booked. */
function loadOf(plan: Plan, { rows, network, early, calendars }: Schedule, id: string): PersonsLoad[] {
  const position = [...plan.activities.keys()].indexOf(id);
  const activity = plan.activities.get(id)!;
  const node = network.nodeOf[position]!;
  const row = rows[position];
  if (row == null || node < 0 || network.finishBy[node] !== FIXED || stateOf(activity) === COMPLETE) return [];
  const lastDays = new Map<string, string>();
  for (const { activity: on, person, date, minutes } of plan.timeEntries.values())
    if (on === id && minutes > 0 && date > (lastDays.get(person) ?? "")) lastDays.set(person, date);
  return [...plan.assignments.values()].flatMap((assignment) => {
    if (assignment.activity !== id) return [];
    const person = plan.people.get(assignment.person);
    const own = calendars.get(person?.calendar ?? plan.project.calendar);
    const booked = lastDays.get(assignment.person);
    const from = Math.max(early.restartAt[node]!, booked === undefined ? 0 : closeOf(parseDate(booked)!));
    const room = Math.max(
      0,
      Math.round(
        ((own.indexAt(row.finish) - own.indexAt(from as typeof row.finish)) * (assignment.unitsPercent ?? 100)) / 100,
      ),
    );
    return [
      {
        person: person?.name ?? assignment.person,
        leftMinutes: remainingWork(assignment, activity),
        roomMinutes: room,
      },
    ];
  });
}
