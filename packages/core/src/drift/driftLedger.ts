import { earlyFinish, schedulePlan, type Schedule } from "../network/schedule.ts";
import type { Activity, Assignment, Link, PlanBundle } from "../plan/schema.ts";
import { planTree } from "../plan/planTree.ts";
import { PlanProblems } from "../plan/problem.ts";
import { compileCalendars, type CalendarSet } from "../time/compileCalendars.ts";
import { finishDayOf, formatDate, type LocalMinute } from "../time/instant.ts";

/** What kind of change moved a date (calculations.md section 5). */
export const DRIFT_GROUPS = ["progress", "work", "logic", "calendars", "wishes", "scope"] as const;
export type DriftGroup = (typeof DRIFT_GROUPS)[number];

/** A cause of a drift: what changed, by name, and the working days that it moved the date; later is positive. */
export interface DriftCause {
  readonly group: DriftGroup;
  /** Of an activity, a calendar or a person; the data date and the like name nothing. */
  readonly kind: "activity" | "calendar" | "person" | "project";
  readonly id: string;
  readonly name: string;
  readonly days: number;
}

export interface DriftLedger {
  /** Dates as shown; `null` where there is none in that state. */
  readonly from: string | null;
  readonly to: string | null;
  /** Working days of the later state's project calendar: the sum of all causes. */
  readonly days: number;
  /** Only what moved the date, in the order in which it was applied. */
  readonly causes: readonly DriftCause[];
}

/** One thing that changed, and how a plan takes it over. */
interface Step {
  readonly group: DriftGroup;
  readonly kind: DriftCause["kind"];
  readonly id: string;
  readonly name: string;
  readonly take: (plan: Draft) => void;
}

/** A plan on its way from the one state to the other; rows by id. */
interface Draft {
  project: PlanBundle["project"];
  readonly calendars: Map<string, PlanBundle["calendars"][number]>;
  readonly people: Map<string, NonNullable<PlanBundle["people"]>[number]>;
  readonly activities: Map<string, Activity>;
  links: Map<string, Link>;
  readonly assignments: Map<string, Assignment>;
}

const linkKey = ({ from, to, type = "FS", lagMinutes = 0, lagIn = "successor" }: Link): string => JSON.stringify([from, to, type, lagMinutes, lagIn]);
const workKey = ({ activity, person }: Assignment): string => JSON.stringify([activity, person]);
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

function draftOf(plan: PlanBundle): Draft {
  return {
    project: plan.project,
    calendars: new Map(plan.calendars.map((row) => [row.id, row])),
    people: new Map((plan.people ?? []).map((row) => [row.id, row])),
    activities: new Map(plan.activities.map((row) => [row.id, row])),
    links: new Map((plan.links ?? []).map((row) => [linkKey(row), row])),
    assignments: new Map((plan.assignments ?? []).map((row) => [workKey(row), row])),
  };
}

const copyOf = ({ project, calendars, people, activities, links, assignments }: Draft): Draft => ({ project, calendars: new Map(calendars), people: new Map(people), activities: new Map(activities), links: new Map(links), assignments: new Map(assignments) });

const bundleOf = (draft: Draft): PlanBundle => ({
  format: "chronometra-plan",
  version: 1,
  project: draft.project,
  calendars: [...draft.calendars.values()],
  people: [...draft.people.values()],
  activities: [...draft.activities.values()],
  links: [...draft.links.values()],
  assignments: [...draft.assignments.values()],
});

/** Fields of a row as another has them. */
function withFields<T extends object>(row: T, other: T, fields: readonly (keyof T)[]): T {
  const next = { ...row };
  for (const field of fields) {
    if (other[field] === undefined) delete next[field];
    else next[field] = other[field];
  }
  return next;
}

const PROGRESS: readonly (keyof Activity)[] = ["actualStart", "actualFinish", "percent"];
const WORK: readonly (keyof Activity)[] = ["durationMinutes", "remainingMinutes", "driver", "windowPolicy"];
const differs = <T extends object>(a: T, b: T, fields: readonly (keyof T)[]): boolean => fields.some((field) => !same(a[field], b[field]));

/** Everything that changed between two plans, in the order in which it is applied. */
function stepsBetween(before: PlanBundle, after: PlanBundle): Step[] {
  const [was, will] = [draftOf(before), draftOf(after)];
  const kept = [...will.activities.values()].filter(({ id }) => was.activities.has(id));
  const isKept = (id: string): boolean => was.activities.has(id) && will.activities.has(id);
  const steps: Step[] = [];
  const project = (group: DriftGroup, name: string, fields: readonly (keyof PlanBundle["project"])[]): void => {
    if (differs(was.project, will.project, fields)) steps.push({ group, kind: "project", id: "", name, take: (draft) => void (draft.project = withFields(draft.project, will.project, fields)) });
  };
  const activityStep = (group: DriftGroup, { id, name }: Activity, take: Step["take"]): void => void steps.push({ group, kind: "activity", id, name, take });
  const fieldsOf = (group: DriftGroup, fields: readonly (keyof Activity)[]): void => {
    for (const row of kept) if (differs(was.activities.get(row.id)!, row, fields)) activityStep(group, row, (draft) => void draft.activities.set(row.id, withFields(draft.activities.get(row.id)!, row, fields)));
  };
  const workOf = (id: string, of: Draft): Assignment[] => [...of.assignments.values()].filter(({ activity }) => activity === id);

  project("progress", "the time that passed (the data date)", ["dataDate"]);
  fieldsOf("progress", PROGRESS);
  fieldsOf("work", WORK);
  for (const row of kept) {
    const [old, now] = [workOf(row.id, was), workOf(row.id, will)];
    if (same(old, now)) continue;
    activityStep("work", row, (draft) => {
      for (const each of old) draft.assignments.delete(workKey(each));
      for (const each of now) draft.assignments.set(workKey(each), each);
    });
  }
  project("logic", "the rule of progress", ["logic"]);
  const [oldLinks, newLinks] = [into(was), into(will)];
  for (const row of kept) {
    const [old, now] = [oldLinks.get(row.id) ?? [], newLinks.get(row.id) ?? []];
    // What leads to it from rows that came or went moves with those.
    if ([...old, ...now].some(({ from }) => !isKept(from))) continue;
    if (same([...old].sort((a, b) => (linkKey(a) < linkKey(b) ? -1 : 1)), [...now].sort((a, b) => (linkKey(a) < linkKey(b) ? -1 : 1)))) continue;
    activityStep("logic", row, (draft) => {
      for (const each of old) draft.links.delete(linkKey(each));
      for (const each of now) draft.links.set(linkKey(each), each);
    });
  }
  for (const row of will.calendars.values()) if (was.calendars.has(row.id) && !same(was.calendars.get(row.id), row)) steps.push({ group: "calendars", kind: "calendar", id: row.id, name: row.name, take: (draft) => void draft.calendars.set(row.id, row) });
  for (const row of will.people.values()) if (was.people.has(row.id) && was.people.get(row.id)!.calendar !== row.calendar) steps.push({ group: "calendars", kind: "person", id: row.id, name: row.name, take: (draft) => void draft.people.set(row.id, row) });
  fieldsOf("calendars", ["calendar"]);
  project("calendars", "the project’s calendar", ["calendar"]);
  project("wishes", "the project’s start", ["start"]);
  fieldsOf("wishes", ["wish"]);
  scopeSteps(was, will, steps);
  return steps;
}

/** Rows that came, went, were parked, woken or put elsewhere, each with all that hangs on it. */
function scopeSteps(was: Draft, will: Draft, steps: Step[]): void {
  const ids = [...new Set([...will.activities.keys(), ...was.activities.keys()])];
  const changed = ids.filter((id) => !same(pickScope(was.activities.get(id)), pickScope(will.activities.get(id))));
  if (changed.length === 0) return;
  const present = new Set(was.activities.keys());
  for (const id of orderedByBranch(changed, will, was)) {
    const row = will.activities.get(id);
    const name = (row ?? was.activities.get(id)!).name;
    const next = new Set(present);
    if (row === undefined) next.delete(id);
    else next.add(id);
    const links = (): Map<string, Link> => linksAmong(next, was, will);
    steps.push({
      group: "scope",
      kind: "activity",
      id,
      name,
      take: (draft) => {
        if (row === undefined) {
          draft.activities.delete(id);
          for (const [key, work] of draft.assignments) if (work.activity === id) draft.assignments.delete(key);
        } else {
          draft.activities.set(id, row);
          for (const [key, work] of will.assignments) if (work.activity === id) draft.assignments.set(key, work);
        }
        draft.links = links();
      },
    });
    present.clear();
    for (const each of next) present.add(each);
  }
}

const into = (of: Draft): Map<string, Link[]> => {
  const found = new Map<string, Link[]>();
  for (const link of of.links.values()) found.set(link.to, [...(found.get(link.to) ?? []), link]);
  return found;
};

/**
 * Links among the rows that a step between has: an activity is led to as in the later plan once all that leads to it there has
 * come and all that led to it and goes is gone; until then as in the earlier one.
 */
function linksAmong(present: ReadonlySet<string>, was: Draft, will: Draft): Map<string, Link> {
  const [old, now] = [into(was), into(will)];
  const links = new Map<string, Link>();
  for (const id of present) {
    const [before, after] = [old.get(id) ?? [], now.get(id) ?? []];
    const settled = !was.activities.has(id) || (after.every(({ from }) => present.has(from)) && before.every(({ from }) => will.activities.has(from) || !present.has(from)));
    for (const link of settled ? after : before) if (present.has(link.from)) links.set(linkKey(link), link);
  }
  return links;
}

const pickScope = (row: Activity | undefined): unknown => (row === undefined ? null : [row.parent ?? null, row.kind ?? "work", row.parked === true]);

/** Rows that came with their branches first, then those that went with what lies below them first. */
function orderedByBranch(ids: readonly string[], will: Draft, was: Draft): string[] {
  const depth = (id: string, of: Draft): number => {
    let deep = 0;
    for (let at = of.activities.get(id)?.parent; at !== undefined && deep < 100; at = of.activities.get(at)?.parent) deep++;
    return deep;
  };
  const came = ids.filter((id) => will.activities.has(id)).sort((a, b) => depth(a, will) - depth(b, will));
  // The last of a chain first, so that none of it is left without what came before it.
  const went = ids.filter((id) => !will.activities.has(id)).reverse().sort((a, b) => depth(b, was) - depth(a, was));
  return [...came, ...went];
}

/** People and calendars that only the later plan has are put into the earlier one: unused there, they move nothing. */
function withNewResources(before: PlanBundle, after: PlanBundle): PlanBundle {
  const missing = <T extends { id: string }>(had: readonly T[], has: readonly T[]): T[] => [...had, ...has.filter(({ id }) => had.every((each) => each.id !== id))];
  return { ...before, calendars: missing(before.calendars, after.calendars), people: missing(before.people ?? [], after.people ?? []) };
}

function finishIn(plan: PlanBundle, target: string | null): { schedule: Schedule; at: LocalMinute | null; shown: string | null } {
  const schedule = schedulePlan(plan);
  if (target === null) return { schedule, at: schedule.finish, shown: schedule.finish === null ? null : formatDate(finishDayOf(schedule.finish)) };
  const row = schedule.rows[planTree(plan.activities).indexOf.get(target) ?? -1] ?? null;
  return { schedule, at: row?.finish ?? null, shown: row === null ? null : formatDate(row.finishDay) };
}

/** Calendars as they were compiled last: most changes leave them as they are. */
type Compiled = { text: string; set: CalendarSet };

function compiled(calendars: PlanBundle["calendars"], last: Compiled): CalendarSet {
  const text = JSON.stringify(calendars);
  if (text !== last.text) Object.assign(last, { text, set: compileCalendars(calendars).set });
  return last.set;
}

/** Where a date lies in a plan between two states; `null` where it has none or the plan cannot be computed. */
function placeIn(plan: PlanBundle, target: string | null, last: Compiled): LocalMinute | null {
  try {
    const kind = target === null ? "work" : plan.activities.find(({ id }) => id === target)?.kind;
    // What spans or sums up others has no place of its own in the network.
    return kind === "summary" || kind === "levelOfEffort" ? finishIn(plan, target).at : earlyFinish(plan, target, compiled(plan.calendars, last));
  } catch (error) {
    if (!(error instanceof PlanProblems)) throw error;
    return null;
  }
}

/**
 * Why a date moved between two states of a plan: changes applied one after another to the earlier state, in groups, the network
 * recalculated, each credited with what it moved the date. Runs of changes that together move nothing are not taken apart, so
 * that only what counts is looked at one by one. The parts add up to the whole.
 * @param target an activity, or `null` for the project's finish
 * @param progress told the share that is done, 0 to 1
 * @throws {PlanProblems} where either state cannot be computed
 */
export function driftLedger(before: PlanBundle, after: PlanBundle, target: string | null, progress: (share: number) => void = () => undefined): DriftLedger {
  const earlier = withNewResources(before, after);
  const steps = stepsBetween(earlier, after);
  const first = finishIn(earlier, target);
  const last = finishIn(after, target);
  const calendar = last.schedule.calendars.get(after.project.calendar);
  if (first.at === null || last.at === null) return { from: first.shown, to: last.shown, days: 0, causes: [] };
  const indexOf = (at: LocalMinute): number => calendar.indexAt(at);
  const base = draftOf(earlier);
  const calendars: Compiled = { text: "", set: first.schedule.calendars };
  const known = new Map<number, number>([[0, indexOf(first.at)]]);
  const placeAfter = (count: number): number => {
    const found = known.get(count);
    if (found !== undefined) return found;
    const draft = copyOf(base);
    for (const step of steps.slice(0, count)) step.take(draft);
    // Where the date is away for a moment, or half of a change would be a loop, it counts as where it was: the step that
    // brings it back is credited.
    const at = placeIn(bundleOf(draft), target, calendars);
    const index = at === null ? placeAfter(count - 1) : indexOf(at);
    known.set(count, index);
    return index;
  };
  const causes: DriftCause[] = [];
  const credit = (low: number, high: number): void => {
    progress(low / Math.max(1, steps.length));
    if (placeAfter(low) === placeAfter(high)) return;
    if (high - low === 1) {
      const { group, kind, id, name } = steps[low]!;
      causes.push({ group, kind, id, name, days: (placeAfter(high) - placeAfter(low)) / calendar.dayMinutes });
      return;
    }
    const middle = (low + high) >> 1;
    credit(low, middle);
    credit(middle, high);
  };
  // Each group apart, so that one that moves a date forth and another that moves it back are both told.
  let low = 0;
  for (const group of DRIFT_GROUPS) {
    const high = low + steps.filter((step) => step.group === group).length;
    if (high > low) credit(low, high);
    low = high;
  }
  const rest = indexOf(last.at) - placeAfter(steps.length);
  if (rest !== 0) causes.push({ group: "scope", kind: "project", id: "", name: "what cannot be told apart", days: rest / calendar.dayMinutes });
  progress(1);
  return { from: first.shown, to: last.shown, days: (indexOf(last.at) - indexOf(first.at)) / calendar.dayMinutes, causes };
}
