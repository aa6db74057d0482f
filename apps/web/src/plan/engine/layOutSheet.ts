import {
  CallNames,
  closeOf,
  deadlineStandings,
  finishDayOf,
  formatDate,
  localMinute,
  linkTexts,
  openOf,
  parseDate,
  parseInstant,
  peopleNames,
  plannedBudget,
  slipsAgainst,
  startDayOf,
  workTexts,
  type Activity,
  type Computed,
  type Plan,
  type PlanBundle,
  type Rows,
  type Schedule,
} from "@chronometra/core";
import type { Named, Sheet, SheetDates, SheetRow } from "./sheet.ts";

interface Placed {
  readonly position: number;
  readonly depth: number;
  readonly wbs: string;
}

/** Activities in reading order: each branch whole, what is below it in the order of the table. */
function inReadingOrder(plan: PlanBundle, { tree }: Schedule): { placed: Placed[]; children: Int32Array } {
  const children = new Int32Array(plan.activities.length);
  const below: number[][] = [];
  const top: number[] = [];
  plan.activities.forEach((_activity, i) => {
    const parent = tree.parentOf[i]!;
    if (parent < 0) top.push(i);
    else {
      (below[parent] ??= []).push(i);
      children[parent] = children[parent]! + 1;
    }
  });
  const placed: Placed[] = [];
  const open: Placed[] = top.map((position, n) => ({ position, depth: 0, wbs: String(n + 1) })).reverse();
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    placed.push(at);
    const own = below[at.position] ?? [];
    for (let n = own.length - 1; n >= 0; n--)
      open.push({ position: own[n]!, depth: at.depth + 1, wbs: `${at.wbs}.${n + 1}` });
  }
  return { placed, children };
}

type Approved = SheetRow["approved"];

/** Approved windows by position; a summary's reaches over those below it. */
function approvedWindows(plan: PlanBundle, { schedule, baseline }: Computed): Approved[] {
  const windows: Approved[] = plan.activities.map(() => null);
  if (baseline === null) return windows;
  const rows = new Map(baseline.content.activities.map((row) => [row.id, row]));
  for (const i of schedule.tree.parentsFirst.toReversed()) {
    const row = rows.get(plan.activities[i]!.id);
    if (row !== undefined) {
      const start = parseInstant(row.start)!;
      const finish = parseInstant(row.finish)!;
      const atStart = schedule.rows[i]?.shownAsStart === true;
      windows[i] = {
        start,
        finish,
        startDate: formatDate(startDayOf(start)),
        finishDate: formatDate(atStart ? startDayOf(finish) : finishDayOf(finish)),
      };
    }
    const parent = schedule.tree.parentOf[i]!;
    if (parent >= 0 && windows[i] != null) windows[parent] = together(windows[parent]!, windows[i]!);
  }
  return windows;
}

function together(a: Approved, b: NonNullable<Approved>): Approved {
  if (a === null) return b;
  const first = a.start <= b.start ? a : b;
  const last = a.finish >= b.finish ? a : b;
  return { start: first.start, startDate: first.startDate, finish: last.finish, finishDate: last.finishDate };
}

function datesOf(schedule: Schedule, i: number): SheetDates | null {
  const row = schedule.rows[i];
  if (row == null) return null;
  const { start, finish, startDay, finishDay, lateFinish, totalFloat, critical, longestPath, state } = row;
  return {
    start,
    finish,
    startDate: formatDate(startDay),
    finishDate: formatDate(finishDay),
    lateFinish,
    floatMinutes: totalFloat,
    critical,
    longestPath,
    state,
  };
}

const drivenBy = ({ driver, windowPolicy }: Activity): SheetRow["drivenBy"] =>
  driver === "effort" ? "hours" : windowPolicy === "drift" ? "lengthDrifting" : "length";

const progressOf = ({
  percent,
  remainingMinutes,
  actualStart,
  actualFinish,
  dropped,
}: Activity): Pick<SheetRow, "percent" | "remainingMinutes" | "actualStart" | "actualFinish" | "dropped"> => ({
  dropped: dropped ?? false,
  percent: percent ?? null,
  remainingMinutes: remainingMinutes ?? null,
  actualStart: actualStart ?? null,
  actualFinish: actualFinish ?? null,
});

/** What people and calendars are called, each told apart from its namesakes. */
interface Calls {
  readonly people: CallNames;
  readonly calendars: CallNames;
}

/** Whom and what an activity names, by id and by what it is called. */
function namesOf(
  { people, calendars }: Calls,
  { owner, calendar }: Activity,
): Pick<SheetRow, "owner" | "ownerName" | "calendar" | "calendarName"> {
  const called = (names: CallNames, id: string | undefined): string =>
    id === undefined || !names.has(id) ? "" : names.of(id);
  return {
    owner: owner ?? null,
    ownerName: called(people, owner),
    calendar: calendar ?? null,
    calendarName: called(calendars, calendar),
  };
}

const named = (rows: Rows<unknown>, names: CallNames): Named[] =>
  [...rows.keys()].map((id) => ({ id, name: names.of(id) }));

/** Categories that are kept, then those that are only used. */
const categoriesOf = (value: Plan): string[] => [
  ...new Set([
    ...[...value.categories.values()].map(({ name }) => name),
    ...[...value.costs.values()].map(({ category }) => category),
  ]),
];

const NO_VALUES = {};

/**
 * Lays a computed plan out in rows.
 * @param plan the same plan as a bundle
 */
export function layOutSheet(value: Plan, plan: PlanBundle, computed: Computed): Sheet {
  const { schedule, baseline, performance } = computed;
  const { placed, children } = inReadingOrder(plan, schedule);
  const windows = approvedWindows(plan, computed);
  const slips = baseline === null ? null : slipsAgainst(plan, schedule, baseline.content);
  const deadlines = deadlineStandings(plan, schedule);
  const budget = plannedBudget(plan, schedule);
  const links = linkTexts(value);
  const people = workTexts(value);
  const calls: Calls = {
    people: peopleNames(value.people.values()),
    calendars: new CallNames(value.calendars.values()),
  };
  const calendar = schedule.calendars.get(plan.project.calendar);
  const { dataDate } = plan.project;
  const mooring = dataDate === undefined ? openOf(parseDate(plan.project.start)!) : closeOf(parseDate(dataDate)!);
  const rows = placed.map(({ position: i, depth, wbs }): SheetRow => {
    const activity = plan.activities[i]!;
    const { id } = activity;
    // What is written on the row itself: what a timebox decides of it is among the reasons of its dates.
    const own = value.activities.get(id) ?? activity;
    const dates = datesOf(schedule, i);
    const parked = schedule.tree.parked.has(id);
    const approved = parked ? null : windows[i]!;
    const between =
      approved === null || dates === null
        ? null
        : (calendar.indexAt(localMinute(dates.finish)) - calendar.indexAt(localMinute(approved.finish))) /
          calendar.dayMinutes;
    const standing = deadlines.get(id);
    return {
      id,
      name: activity.name,
      kind: activity.kind ?? "work",
      parent: activity.parent ?? null,
      depth,
      wbs,
      children: children[i]!,
      parked,
      mooredAt: parked ? (windows[i]?.start ?? mooring) : null,
      dayMinutes: schedule.calendars.get(activity.calendar ?? plan.project.calendar).dayMinutes,
      durationMinutes: own.durationMinutes ?? null,
      ...progressOf(activity),
      earned: performance?.activities[i]?.percentComplete ?? null,
      deadline: activity.deadline ?? null,
      deadlineState: standing?.state ?? null,
      marginDays: standing?.marginDays ?? null,
      dates,
      approved,
      drift: activity.kind === "summary" ? between : (slips?.get(id)?.workingDays ?? null),
      after: links.get(id) ?? "",
      people: people.get(id) ?? "",
      ...namesOf(calls, activity),
      drivenBy: drivenBy(own),
      wish: own.wish ?? null,
      plannedMinutes: budget.minutes[i]!,
      budgetMinor: budget.minor[i]!,
      values: value.ownValues.get(id) ?? NO_VALUES,
    };
  });
  return {
    rows,
    links: [...value.links].map(([key, { from, to, type = "FS" }]) => ({ key, from, to, type })),
    start: plan.project.start,
    dataDate: plan.project.dataDate ?? null,
    finish: schedule.finish,
    baseline: typeof baseline?.label === "number" ? baseline.label : null,
    baselines: [...value.baselines.values()].map(({ number }) => number),
    unscheduled: schedule.unscheduled.length,
    fields: [...value.fields.values()],
    alternates: [...value.alternates.values()],
    people: named(value.people, calls.people),
    calendars: named(value.calendars, calls.calendars),
    categories: categoriesOf(value),
    minorDigits: plan.project.minorDigits ?? 2,
  };
}
