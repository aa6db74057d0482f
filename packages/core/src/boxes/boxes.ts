import { takesBoxes, timeboxOf } from "../plan/boxed.ts";
import type { Change } from "../plan/change.ts";
import { compileCalendars } from "../plan/compileCalendars.ts";
import type { Boxed, Timebox } from "../plan/ownTables.ts";
import type { Plan } from "../plan/plan.ts";
import { PlanProblems } from "../plan/problem.ts";
import type { Activity } from "../plan/schema.ts";
import { addDays, formatDate, HORIZON_DAYS, parseDate, type EpochDay } from "../time/instant.ts";
import type { WorkCalendar } from "../time/workCalendar.ts";

/** How long each timebox of a series is: weeks of the calendar, or days on which work is done. */
export interface BoxLength {
  readonly count: number;
  readonly unit: "weeks" | "days";
}

/** A series of timeboxes, one after the other. */
export interface BoxSeries {
  /** What each is called, before its number. */
  readonly name: string;
  /** Number of the first. */
  readonly number: number;
  /** `YYYY-MM-DD`, the day from which the first begins. */
  readonly first: string;
  readonly length: BoxLength;
  readonly count: number;
  /** The branch that they are for; `null` for the whole project. */
  readonly branch: string | null;
}

/** So many timeboxes are made in one go at most. */
export const MOST_BOXES = 104;
const WEEK_DAYS = 7;

const outside = (name: string): PlanProblems =>
  new PlanProblems([
    { table: "timeboxes", row: name, field: "last", message: `"${name}" would lie outside 1990 to 2099.` },
  ]);

const projectCalendar = ({ calendars, project }: Plan): WorkCalendar =>
  compileCalendars([...calendars.values()]).set.get(project.calendar);

/** The days of one box that begins on or after a day, and the day after which the next may begin. */
function daysOf(calendar: WorkCalendar, from: EpochDay, { count, unit }: BoxLength) {
  const first = calendar.workedDay(from, 1);
  if (first === null) return null;
  if (unit === "days") {
    const last = calendar.workedDay(first, count);
    return last === null ? null : { first, last, next: addDays(last, 1) };
  }
  const next = addDays(from, count * WEEK_DAYS);
  if (next > HORIZON_DAYS) return null;
  // A box that holds no day of work in its weeks, such as those of a shutdown, is left out.
  const worked = calendar.workedCountBefore(next) - calendar.workedCountBefore(from);
  return worked === 0 ? { first: null, last: null, next } : { first, last: calendar.workedDay(from, worked)!, next };
}

/**
 * The changes that make a series of timeboxes: each begins and ends on a day that is worked in the project's calendar.
 * @param newId ids that nothing has yet
 * @throws {PlanProblems} where one would lie outside 1990 to 2099
 */
export function boxSeries(plan: Plan, series: BoxSeries, newId: () => string): Change[] {
  const calendar = projectCalendar(plan);
  const changes: Change[] = [];
  for (let from = parseDate(series.first)!, made = 0; made < Math.min(series.count, MOST_BOXES);) {
    const name = `${series.name} ${series.number + made}`;
    const days = daysOf(calendar, from, series.length);
    if (days === null) throw outside(name);
    from = days.next;
    if (days.first === null) continue;
    const id = newId();
    const row: Timebox = {
      ...{ id, name, first: formatDate(days.first), last: formatDate(days.last) },
      ...(series.branch === null ? {} : { branch: series.branch }),
    };
    changes.push({ type: "addRow", table: "timeboxes", key: id, row });
    made++;
  }
  return changes;
}

/** Timeboxes in the order of their days. */
export const boxesInOrder = ({ timeboxes }: Pick<Plan, "timeboxes">): Timebox[] =>
  [...timeboxes.values()].sort((a, b) =>
    a.first === b.first ? a.name.localeCompare(b.name, "en") : a.first < b.first ? -1 : 1,
  );

/** Timeboxes of the same branch that begin after one has ended. */
const after = (plan: Plan, box: Timebox): Timebox[] =>
  boxesInOrder(plan).filter(({ branch, first }) => branch === box.branch && first > box.last);

/** Where what was not done in a timebox goes: the next one of its series. */
export const boxAfter = (plan: Plan, box: Timebox): Timebox | null => after(plan, box)[0] ?? null;

/**
 * The changes that give a timebox other days. Those that follow it in its series keep their lengths in days of work and
 * the days between them, where they are asked to go along.
 * @throws {PlanProblems} where one would lie outside 1990 to 2099
 */
export function boxMoved(
  plan: Plan,
  id: string,
  days: { readonly first: string; readonly last: string },
  alongWithIt: boolean,
): Change[] {
  const box = plan.timeboxes.get(id)!;
  const calendar = projectCalendar(plan);
  const edit = ({ id: key }: Timebox, set: { first: string; last: string }): Change => ({
    type: "editRow",
    ...{ table: "timeboxes" as const, key, set },
  });
  const changes = [edit(box, { first: days.first, last: days.last })];
  const by =
    calendar.workedCountBefore(parseDate(days.last)! + 1) - calendar.workedCountBefore(parseDate(box.last)! + 1);
  if (!alongWithIt || by === 0) return changes;
  const moved = ({ name }: Timebox, date: string): string => {
    const day = calendar.workedDay(0, calendar.workedCountBefore(parseDate(date)! + 1) + by);
    if (day === null) throw outside(name);
    return formatDate(day);
  };
  return [
    ...changes,
    ...after(plan, box).map((each) => edit(each, { first: moved(each, each.first), last: moved(each, each.last) })),
  ];
}

/** What stands in a timebox, or waits for one where it is `null`, in its order. */
export function standingIn(plan: Plan, box: string | null): Activity[] {
  const ranked = [...plan.activities.values()].flatMap((activity, at) => {
    if (!takesBoxes(activity) || (timeboxOf(plan, activity.id)?.id ?? null) !== box) return [];
    return [{ activity, at, rank: plan.boxed.get(activity.id)?.rank ?? Infinity }];
  });
  // What nobody has put in order yet comes last, as it stands in the plan.
  return ranked.sort((a, b) => (a.rank === b.rank ? a.at - b.at : a.rank - b.rank)).map(({ activity }) => activity);
}

const placed = (plan: Plan, id: string, { box, rank }: { box: string | null; rank: number }): Change => {
  const was = plan.boxed.get(id);
  const row: Boxed = { ...(box === null ? {} : { box }), rank };
  if (was === undefined) return { type: "addRow", table: "boxed", key: id, row };
  // What only changes its place stays in its box, whoever else moves it meanwhile.
  const set = (was.box ?? null) === box ? { rank } : { box, rank };
  return { type: "editRow", table: "boxed", key: id, set };
};

/**
 * The changes that put activities into a timebox, or among what waits where it is `null`, in the order given, before
 * one that stands there; at the end where `before` names none of them. Those before which they come keep their order: where
 * there is no room between two, or one has no rank yet, all that stands there is ranked anew.
 */
export function placedIn(plan: Plan, ids: readonly string[], box: string | null, before: string | null): Change[] {
  const going = new Set(ids);
  const there = standingIn(plan, box).filter(({ id }) => !going.has(id));
  const at = there.findIndex(({ id }) => id === before);
  const end = at < 0 ? there.length : at;
  const rankOf = (i: number): number | undefined => plan.boxed.get(there[i]?.id ?? "")?.rank;
  const [low, high] = [end === 0 ? undefined : rankOf(end - 1), rankOf(end)];
  const fitsBelow = end === 0 || low !== undefined;
  const fitsAbove = end === there.length || high !== undefined;
  if (fitsBelow && fitsAbove) {
    const from = low ?? (high ?? ids.length + 1) - ids.length - 1;
    const step = high === undefined ? 1 : (high - from) / (ids.length + 1);
    const ranks = ids.map((_id, i) => from + step * (i + 1));
    const rises = [from, ...ranks, ...(high === undefined ? [] : [high])].every(
      (rank, i, all) => i === 0 || rank > all[i - 1]!,
    );
    if (rises) return ids.map((id, i) => placed(plan, id, { box, rank: ranks[i]! }));
  }
  const order = [...there.slice(0, end).map(({ id }) => id), ...ids, ...there.slice(end).map(({ id }) => id)];
  // What has not been ranked yet after the last that moves stays so.
  const upTo = fitsAbove || rankOf(end) !== undefined ? order.length : end + ids.length;
  return order.slice(0, upTo).flatMap((id, i) => {
    const rank = i + 1;
    return !going.has(id) && plan.boxed.get(id)?.rank === rank ? [] : [placed(plan, id, { box, rank })];
  });
}

/** The changes that move what was not finished in a timebox into another or back to what waits, before what stands there. */
export function carriedOver(plan: Plan, from: string, to: string | null): Change[] {
  const left = standingIn(plan, from).filter(({ actualFinish }) => actualFinish === undefined);
  const first = standingIn(plan, to)[0]?.id ?? null;
  return left.length === 0
    ? []
    : placedIn(
        plan,
        left.map(({ id }) => id),
        to,
        first,
      );
}

/** The changes that take a timebox out; what stands in it waits, in its order and before the rest. */
export const boxRemoved = (plan: Plan, id: string): Change[] => {
  const standing = standingIn(plan, id).map((activity) => activity.id);
  return [
    ...(standing.length === 0 ? [] : placedIn(plan, standing, null, standingIn(plan, null)[0]?.id ?? null)),
    { type: "removeRow", table: "timeboxes", key: id },
  ];
};
