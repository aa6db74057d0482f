import { remainingWork } from "../network/laid/nodeColumns.ts";
import type { Schedule } from "../network/schedule.ts";
import type { Plan } from "../plan/plan.ts";
import type { Activity, Assignment } from "../plan/schema.ts";
import {
  formatDate,
  formatInstant,
  type LocalMinute,
  localMinute,
  openOf,
  parseDate,
  startDayOf,
} from "../time/instant.ts";
import type { Heard } from "./heard.ts";

/** A start taken from the plan, since those who were to begin then have not reported. */
export interface AssumedStart {
  readonly activity: string;
  readonly name: string;
  readonly start: string;
  /** The names of those who are taken to have begun. */
  readonly people: readonly string[];
}

const assignedTo = (plan: Plan, activity: string): Assignment[] =>
  [...plan.assignments.values()].filter((row) => row.activity === activity);

/** Those besides a person who have work left on an activity and have not reported on it. */
const stillUnheard = (plan: Plan, activity: Activity, person: string, heard: Heard): Assignment[] =>
  assignedTo(plan, activity.id).filter(
    (row) => row.person !== person && remainingWork(row, activity) > 0 && !heard.hasBegun(activity.id, row.person),
  );

/**
 * When an activity that has not begun begins, once somebody's first day is known: then, or earlier where others, who have not
 * reported, were to begin earlier. They keep their own start, so that whoever is late moves nobody else's work.
 * @param forecast the plan's dates before the reports
 */
export function beginningOf(
  plan: Plan,
  activity: Activity,
  person: string,
  day: string,
  heard: Heard,
  forecast: Schedule,
): { start: string; assumed: AssumedStart | null } {
  const row = forecast.rows[[...plan.activities.keys()].indexOf(activity.id)];
  const others = row == null ? [] : stillUnheard(plan, activity, person, heard);
  const starts = others.map((assignment) => ({ assignment, at: ownStart(plan, assignment, row!.start, forecast) }));
  const early = starts.filter(({ at }) => formatDate(startDayOf(at)) < day);
  if (early.length === 0) return { start: day, assumed: null };
  const at = localMinute(Math.min(...early.map(({ at: each }) => each)));
  const date = formatDate(startDayOf(at));
  const calendar = forecast.calendars.get(activity.calendar ?? plan.project.calendar);
  // A date stands for the opening of its day; work that begins later on it keeps its minute.
  const start = calendar.indexAt(openOf(startDayOf(at))) === calendar.indexAt(at) ? date : formatInstant(at);
  return {
    start,
    assumed: {
      activity: activity.id,
      name: activity.name,
      start: date,
      people: early.map(({ assignment }) => plan.people.get(assignment.person)?.name ?? assignment.person),
    },
  };
}

/** Where a person's work on an activity begins that begins at an instant. */
function ownStart(
  plan: Plan,
  { person, restart }: Assignment,
  start: LocalMinute,
  { calendars }: Schedule,
): LocalMinute {
  const calendar = calendars.get(plan.people.get(person)?.calendar ?? plan.project.calendar);
  const from = restart === undefined ? start : localMinute(Math.max(start, openOf(parseDate(restart)!)));
  return calendar.startAt(calendar.indexAt(from));
}

/**
 * The first day worked, where it lies after the start and everyone has reported: a start past the data date was taken from the
 * plan while somebody was still to be heard of. `null` where the start stands.
 */
export function laterBeginning(plan: Plan, activity: Activity, heard: Heard): string | null {
  const first = heard.firstDay(activity.id);
  const began = activity.actualStart!.slice(0, 10);
  const assigned = assignedTo(plan, activity.id);
  const open = first === null || first <= began || began <= (plan.project.dataDate ?? "9999") || assigned.length < 2;
  return open ||
    assigned.some(({ person, plannedMinutes }) => plannedMinutes > 0 && !heard.hasBegun(activity.id, person))
    ? null
    : first;
}
