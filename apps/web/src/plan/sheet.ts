import { deadlineStandings, parseInstant, slipsAgainst, startDayOf, finishDayOf, formatDate, type Activity, type ActivityState, type Computed, type DeadlineState, type PlanBundle, type Schedule } from "@chronometra/core";

/** One line of the plan page: an activity with all that is shown of it. Instants in local minutes since 1990. */
export interface SheetRow {
  readonly id: string;
  readonly name: string;
  readonly kind: NonNullable<Activity["kind"]>;
  /** Position of the parent among the rows, -1 at the top. */
  readonly parent: number;
  readonly depth: number;
  readonly children: number;
  readonly parked: boolean;
  /** Minutes of a day in the activity's calendar. */
  readonly dayMinutes: number;
  readonly durationMinutes: number | null;
  readonly percent: number | null;
  /** What has been earned of the budget, 0 to 1, where that can be said. */
  readonly earned: number | null;
  readonly remainingMinutes: number | null;
  readonly actualStart: string | null;
  readonly actualFinish: string | null;
  readonly deadline: string | null;
  readonly deadlineState: DeadlineState | null;
  readonly marginDays: number | null;
  readonly dates: SheetDates | null;
  readonly approved: { readonly start: number; readonly finish: number; readonly startDate: string; readonly finishDate: string } | null;
  /** Working days later than approved. */
  readonly drift: number | null;
  /** What it comes after, as it is typed. */
  readonly after: string;
}

export interface SheetDates {
  readonly start: number;
  readonly finish: number;
  readonly startDate: string;
  readonly finishDate: string;
  readonly lateFinish: number | null;
  readonly floatMinutes: number | null;
  readonly critical: boolean;
  readonly longestPath: boolean;
  readonly state: ActivityState;
}

/** A plan laid out for the page, rows in reading order. */
export interface Sheet {
  readonly rows: readonly SheetRow[];
  readonly dataDate: string | null;
  readonly finish: number | null;
  readonly baseline: number | null;
  readonly unscheduled: number;
}

interface Placed {
  readonly position: number;
  readonly parent: number;
  readonly depth: number;
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
  const open: Placed[] = top.toReversed().map((position) => ({ position, parent: -1, depth: 0 }));
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    const row = placed.push(at) - 1;
    for (const position of (below[at.position] ?? []).toReversed()) open.push({ position, parent: row, depth: at.depth + 1 });
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
      windows[i] = { start, finish, startDate: formatDate(startDayOf(start)), finishDate: formatDate(atStart ? startDayOf(finish) : finishDayOf(finish)) };
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
  return { start, finish, startDate: formatDate(startDay), finishDate: formatDate(finishDay), lateFinish, floatMinutes: totalFloat, critical, longestPath, state };
}

/**
 * Lays a computed plan out in rows.
 * @param links what each activity comes after, in words, by id
 */
export function layOutSheet(plan: PlanBundle, computed: Computed, links: ReadonlyMap<string, string>): Sheet {
  const { schedule, baseline, performance } = computed;
  const { placed, children } = inReadingOrder(plan, schedule);
  const windows = approvedWindows(plan, computed);
  const slips = baseline === null ? null : slipsAgainst(plan, schedule, baseline.content);
  const deadlines = deadlineStandings(plan, schedule);
  const calendar = schedule.calendars.get(plan.project.calendar);
  const rows = placed.map(({ position: i, parent, depth }): SheetRow => {
    const activity = plan.activities[i]!;
    const dates = datesOf(schedule, i);
    const approved = schedule.tree.parked.has(activity.id) ? null : windows[i]!;
    const between = approved === null || dates === null ? null : (calendar.indexAt(dates.finish) - calendar.indexAt(approved.finish)) / calendar.dayMinutes;
    const standing = deadlines.get(activity.id);
    return {
      id: activity.id,
      name: activity.name,
      kind: activity.kind ?? "work",
      parent,
      depth,
      children: children[i]!,
      parked: schedule.tree.parked.has(activity.id),
      dayMinutes: schedule.calendars.get(activity.calendar ?? plan.project.calendar).dayMinutes,
      durationMinutes: activity.durationMinutes ?? null,
      percent: activity.percent ?? null,
      earned: performance?.activities[i]?.percentComplete ?? null,
      remainingMinutes: activity.remainingMinutes ?? null,
      actualStart: activity.actualStart ?? null,
      actualFinish: activity.actualFinish ?? null,
      deadline: activity.deadline ?? null,
      deadlineState: standing?.state ?? null,
      marginDays: standing?.marginDays ?? null,
      dates,
      approved,
      drift: activity.kind === "summary" ? between : (slips?.get(activity.id)?.workingDays ?? null),
      after: links.get(activity.id) ?? "",
    };
  });
  return { rows, dataDate: plan.project.dataDate ?? null, finish: schedule.finish, baseline: typeof baseline?.label === "number" ? baseline.label : null, unscheduled: schedule.unscheduled.length };
}
