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

/** The tables that a plan is computed from, by id or by what tells a row from the others. */
interface Tables {
  readonly calendars: ReadonlyMap<string, PlanBundle["calendars"][number]>;
  readonly people: ReadonlyMap<string, NonNullable<PlanBundle["people"]>[number]>;
  readonly activities: ReadonlyMap<string, Activity>;
  readonly links: ReadonlyMap<string, Link>;
  readonly assignments: ReadonlyMap<string, Assignment>;
}
type Row<T extends keyof Tables> = Tables[T] extends ReadonlyMap<string, infer R> ? R : never;

/** A plan on its way from the one state to the other. A table is copied when it is first changed: most changes touch one of them. */
class Draft {
  private readonly copied = new Set<keyof Tables>();
  private readonly now: Tables;

  constructor(
    public project: PlanBundle["project"],
    tables: Tables,
  ) {
    this.now = { ...tables };
  }

  get tables(): Tables {
    return this.now;
  }

  get<T extends keyof Tables>(table: T, key: string): Row<T> | undefined {
    return this.now[table].get(key) as Row<T> | undefined;
  }

  has(table: keyof Tables, key: string): boolean {
    return this.now[table].has(key);
  }

  private own<T extends keyof Tables>(table: T): Map<string, Row<T>> {
    const map = this.now[table] as unknown as Map<string, Row<T>>;
    if (this.copied.has(table)) return map;
    this.copied.add(table);
    return this.replace(table, new Map(map));
  }

  set<T extends keyof Tables>(table: T, key: string, row: Row<T>): void {
    this.own(table).set(key, row);
  }

  delete(table: keyof Tables, key: string): void {
    this.own(table).delete(key);
  }

  /** Puts other rows in the place of all. */
  replace<T extends keyof Tables>(table: T, rows: Map<string, Row<T>>): Map<string, Row<T>> {
    (this.now as Record<keyof Tables, unknown>)[table] = rows;
    return rows;
  }
}

const linkKey = ({ from, to, type = "FS", lagMinutes = 0, lagIn = "successor" }: Link): string => JSON.stringify([from, to, type, lagMinutes, lagIn]);
const workKey = ({ activity, person }: Assignment): string => JSON.stringify([activity, person]);
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

const draftOf = (plan: PlanBundle): Draft =>
  new Draft(plan.project, {
    calendars: new Map(plan.calendars.map((row) => [row.id, row])),
    people: new Map((plan.people ?? []).map((row) => [row.id, row])),
    activities: new Map(plan.activities.map((row) => [row.id, row])),
    links: new Map((plan.links ?? []).map((row) => [linkKey(row), row])),
    assignments: new Map((plan.assignments ?? []).map((row) => [workKey(row), row])),
  });

const lists = new WeakMap<ReadonlyMap<string, unknown>, readonly unknown[]>();

/** The rows of a table; the same list for the same table. */
function listOf<T>(rows: ReadonlyMap<string, T>): T[] {
  let list = lists.get(rows);
  if (list === undefined) lists.set(rows, (list = [...rows.values()]));
  return list as T[];
}

function bundleOf({ project, tables }: Draft): PlanBundle {
  return {
    format: "chronometra-plan",
    version: 1,
    project,
    calendars: listOf(tables.calendars),
    people: listOf(tables.people),
    activities: listOf(tables.activities),
    links: listOf(tables.links),
    assignments: listOf(tables.assignments),
  };
}

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
  const kept = [...will.tables.activities.values()].filter(({ id }) => was.has("activities", id));
  const isKept = (id: string): boolean => was.has("activities", id) && will.has("activities", id);
  const steps: Step[] = [];
  const project = (group: DriftGroup, name: string, fields: readonly (keyof PlanBundle["project"])[]): void => {
    if (differs(was.project, will.project, fields)) steps.push({ group, kind: "project", id: "", name, take: (draft) => void (draft.project = withFields(draft.project, will.project, fields)) });
  };
  const activityStep = (group: DriftGroup, { id, name }: Activity, take: Step["take"]): void => void steps.push({ group, kind: "activity", id, name, take });
  const fieldsOf = (group: DriftGroup, fields: readonly (keyof Activity)[]): void => {
    for (const row of kept) if (differs(was.get("activities", row.id)!, row, fields)) activityStep(group, row, (draft) => draft.set("activities", row.id, withFields(draft.get("activities", row.id)!, row, fields)));
  };
  const [oldWork, newWork] = [was, will].map(({ tables }) => grouped(tables.assignments, ({ activity }) => activity));

  project("progress", "the time that passed (the data date)", ["dataDate"]);
  fieldsOf("progress", PROGRESS);
  fieldsOf("work", WORK);
  for (const row of kept) {
    const [old, now] = [oldWork!.get(row.id) ?? [], newWork!.get(row.id) ?? []];
    if (same(old, now)) continue;
    activityStep("work", row, (draft) => {
      for (const each of old) draft.delete("assignments", workKey(each));
      for (const each of now) draft.set("assignments", workKey(each), each);
    });
  }
  project("logic", "the rule of progress", ["logic"]);
  const [oldLinks, newLinks] = [linksInto(was), linksInto(will)];
  for (const row of kept) {
    const [old, now] = [oldLinks.get(row.id) ?? [], newLinks.get(row.id) ?? []];
    // What leads to it from rows that came or went moves with those.
    if ([...old, ...now].some(({ from }) => !isKept(from))) continue;
    if (same([...old].sort((a, b) => (linkKey(a) < linkKey(b) ? -1 : 1)), [...now].sort((a, b) => (linkKey(a) < linkKey(b) ? -1 : 1)))) continue;
    activityStep("logic", row, (draft) => {
      for (const each of old) draft.delete("links", linkKey(each));
      for (const each of now) draft.set("links", linkKey(each), each);
    });
  }
  for (const row of will.tables.calendars.values()) if (was.has("calendars", row.id) && !same(was.get("calendars", row.id), row)) steps.push({ group: "calendars", kind: "calendar", id: row.id, name: row.name, take: (draft) => draft.set("calendars", row.id, row) });
  for (const row of will.tables.people.values()) if (was.has("people", row.id) && was.get("people", row.id)!.calendar !== row.calendar) steps.push({ group: "calendars", kind: "person", id: row.id, name: row.name, take: (draft) => draft.set("people", row.id, row) });
  fieldsOf("calendars", ["calendar"]);
  project("calendars", "the project’s calendar", ["calendar"]);
  project("wishes", "the project’s start", ["start"]);
  fieldsOf("wishes", ["wish"]);
  scopeSteps(was, will, steps);
  return steps;
}

/** Rows that came, went, were parked, woken or put elsewhere, each with all that hangs on it. */
function scopeSteps(was: Draft, will: Draft, steps: Step[]): void {
  const ids = [...new Set([...will.tables.activities.keys(), ...was.tables.activities.keys()])];
  const changed = ids.filter((id) => !same(pickScope(was.get("activities", id)), pickScope(will.get("activities", id))));
  if (changed.length === 0) return;
  const present = new Set(was.tables.activities.keys());
  for (const id of orderedByBranch(changed, will, was)) {
    const row = will.get("activities", id);
    const name = (row ?? was.get("activities", id)!).name;
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
          draft.delete("activities", id);
          for (const [key, work] of draft.tables.assignments) if (work.activity === id) draft.delete("assignments", key);
        } else {
          draft.set("activities", id, row);
          for (const [key, work] of will.tables.assignments) if (work.activity === id) draft.set("assignments", key, work);
        }
        draft.replace("links", links());
      },
    });
    present.clear();
    for (const each of next) present.add(each);
  }
}

function grouped<T>(rows: ReadonlyMap<string, T>, by: (row: T) => string): Map<string, T[]> {
  const found = new Map<string, T[]>();
  for (const row of rows.values()) {
    const list = found.get(by(row));
    if (list === undefined) found.set(by(row), [row]);
    else list.push(row);
  }
  return found;
}

const linksInto = ({ tables }: Draft): Map<string, Link[]> => grouped(tables.links, ({ to }) => to);

/**
 * Links among the rows that a step between has: an activity is led to as in the later plan once all that leads to it there has
 * come and all that led to it and goes is gone; until then as in the earlier one.
 */
function linksAmong(present: ReadonlySet<string>, was: Draft, will: Draft): Map<string, Link> {
  const [old, now] = [linksInto(was), linksInto(will)];
  const links = new Map<string, Link>();
  for (const id of present) {
    const [before, after] = [old.get(id) ?? [], now.get(id) ?? []];
    const settled = !was.has("activities", id) || (after.every(({ from }) => present.has(from)) && before.every(({ from }) => will.has("activities", from) || !present.has(from)));
    for (const link of settled ? after : before) if (present.has(link.from)) links.set(linkKey(link), link);
  }
  return links;
}

const pickScope = (row: Activity | undefined): unknown => (row === undefined ? null : [row.parent ?? null, row.kind ?? "work", row.parked === true]);

/** Rows that came with their branches first, then those that went with what lies below them first. */
function orderedByBranch(ids: readonly string[], will: Draft, was: Draft): string[] {
  const depth = (id: string, of: Draft): number => {
    let deep = 0;
    for (let at = of.get("activities", id)?.parent; at !== undefined && deep < 100; at = of.get("activities", at)?.parent) deep++;
    return deep;
  };
  const came = ids.filter((id) => will.has("activities", id)).sort((a, b) => depth(a, will) - depth(b, will));
  // The last of a chain first, so that none of it is left without what came before it.
  const went = ids.filter((id) => !will.has("activities", id)).reverse().sort((a, b) => depth(b, was) - depth(a, was));
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
type Compiled = { of: PlanBundle["calendars"] | null; set: CalendarSet };

function compiled(calendars: PlanBundle["calendars"], last: Compiled): CalendarSet {
  if (calendars !== last.of) Object.assign(last, { of: calendars, set: compileCalendars(calendars).set });
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
  // What the steps up to here have made; it only ever moves on.
  let standing = { count: 0, draft: draftOf(earlier) };
  const draftAfter = (count: number): Draft => {
    const draft = new Draft(standing.draft.project, standing.draft.tables);
    for (const step of steps.slice(standing.count, count)) step.take(draft);
    return draft;
  };
  const calendars: Compiled = { of: null, set: first.schedule.calendars };
  const known = new Map<number, number>([[0, indexOf(first.at)]]);
  const placeAfter = (count: number): number => {
    const found = known.get(count);
    if (found !== undefined) return found;
    const draft = draftAfter(count);
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
    if (low > standing.count) standing = { count: low, draft: draftAfter(low) };
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
