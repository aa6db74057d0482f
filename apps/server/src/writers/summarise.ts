import type { Summary } from "@chronometra/contract";
import {
  closeOf,
  deadlineStandings,
  epochDay,
  measureChecks,
  valuesOf,
  formatDate,
  finishDayOf,
  parseDate,
  parseInstant,
  positionsOf,
  remembered,
  type BaselineRow,
  type Computed,
  type PlanBundle,
} from "@chronometra/core";
import { groundIn, type ComputedPlan } from "../plan/held/computedPlan.ts";
import { approvedStarts } from "./activities/approvedStarts.ts";

/** What of a plan's activities is counted. */
function countOf({ bundle: { activities }, computed: { schedule } }: ComputedPlan) {
  const counts = { scheduled: 0, done: 0, first: Infinity };
  for (let i = 0; i < activities.length; i++) {
    const { kind, dropped } = activities[i]!;
    const row = schedule.rows[i];
    if (row == null) continue;
    if (row.startDay < counts.first) counts.first = row.startDay;
    if (kind === "summary") continue;
    counts.scheduled++;
    if (dropped !== true && row.state === "complete") counts.done++;
  }
  return counts;
}

/** From when to when a baseline reaches, as its rows say it; empty where it has none. */
const approvedSpan = remembered((rows: readonly BaselineRow[]) => ({
  start: rows.reduce((least, row) => (least === "" || row.start < least ? row.start : least), ""),
  finish: rows.reduce((latest, row) => (row.finish > latest ? row.finish : latest), ""),
}));

/**
 * What the portfolio page shows of a project, from what was computed.
 * @param before the plan that it came of, as it was computed
 */
export function summarise(whole: ComputedPlan, before?: ComputedPlan): Summary {
  const { bundle, computed } = whole;
  const { schedule, baseline, performance } = computed;
  const { project, activities } = bundle;
  const { scheduled, done, first } = countOf(whole);
  const positions = positionsOf(activities);
  const { start: approvedStart, finish: approvedFinish } =
    baseline === null ? { start: "", finish: "" } : approvedSpan(baseline.content.activities);
  return {
    currency: project.currency,
    minorDigits: project.minorDigits ?? 2,
    dataDate: project.dataDate ?? null,
    baseline: typeof baseline?.label === "number" ? baseline.label : null,
    finish: schedule.finish === null ? null : formatDate(finishDayOf(schedule.finish)),
    baselineFinish: approvedFinish === "" ? null : formatDate(finishDayOf(parseInstant(approvedFinish)!)),
    start: first === Infinity ? null : formatDate(epochDay(first)),
    baselineStart: approvedStart === "" ? null : approvedStart.slice(0, 10),
    drift: driftOfFinish(bundle, computed, approvedFinish),
    daysLeft: daysLeft(bundle, computed),
    done,
    activities: scheduled,
    unscheduled: schedule.unscheduled.length,
    unbaselined: performance?.unbaselined.length ?? 0,
    dropped: droppedOf(bundle, computed),
    figures: performance?.project ?? null,
    earnedSchedule: performance?.earnedSchedule ?? null,
    milestones: milestonesOf(whole),
    quality: [...valuesOf(measureChecks(groundIn(whole, before)))],
    deadlines: [...deadlineStandings(bundle, schedule)].map(([id, standing]) => ({
      id,
      name: activities[positions.get(id)!]!.name,
      ...standing,
    })),
  };
}

/** The milestones that have a date, in the plan's order. */
function milestonesOf({ bundle, computed: { schedule }, slips }: ComputedPlan): Summary["milestones"] {
  const found: Summary["milestones"] = [];
  for (let i = 0; i < bundle.activities.length; i++) {
    const activity = bundle.activities[i]!;
    const row = schedule.rows[i];
    if (activity.kind !== "milestone" || row == null) continue;
    const slip = slips[i] ?? null;
    found.push({
      id: activity.id,
      name: activity.name,
      baseline: slip === null ? null : formatDate(slip.baselineFinishDay),
      forecast: formatDate(row.finishDay),
      drift: slip?.workingDays ?? null,
      reached: row.state === "complete" && activity.dropped !== true,
      ...(activity.dropped === true ? { dropped: true as const } : {}),
      deadline: activity.deadline ?? null,
    });
  }
  return found;
}

/** Work that was ended short of its scope, and what of its budget it has not earned. */
function droppedOf({ activities }: PlanBundle, { performance }: Computed): NonNullable<Summary["dropped"]> {
  const found = { count: 0, unearnedMinor: 0 };
  activities.forEach(({ dropped, parked }, i) => {
    if (dropped !== true || parked === true) return;
    const figures = performance?.activities[i];
    found.count++;
    found.unearnedMinor += figures == null ? 0 : figures.bac - figures.ev;
  });
  return found;
}

function driftOfFinish(bundle: PlanBundle, { schedule }: Computed, approvedFinish: string): number | null {
  if (schedule.finish === null || approvedFinish === "") return null;
  const calendar = schedule.calendars.get(bundle.project.calendar);
  return (calendar.indexAt(schedule.finish) - calendar.indexAt(parseInstant(approvedFinish)!)) / calendar.dayMinutes;
}

function daysLeft({ project }: PlanBundle, { schedule }: Computed): number | null {
  if (schedule.finish === null || project.dataDate === undefined) return null;
  const calendar = schedule.calendars.get(project.calendar);
  return Math.max(
    0,
    (calendar.indexAt(schedule.finish) - calendar.indexAt(closeOf(parseDate(project.dataDate)!))) / calendar.dayMinutes,
  );
}

/** Someone with unfinished work, and the first day of it. */
export interface Reporter {
  readonly id: string;
  readonly name: string;
  /** `YYYY-MM-DD`. */
  readonly from: string;
}

/**
 * People with unfinished work, in the order of the plan's people: from when it begins, or from when it was to begin
 * where the data date has put that off.
 */
export function peopleAtWork({ bundle, placeholders, computed: { schedule, baseline } }: ComputedPlan): Reporter[] {
  const since = new Map<string, string>();
  const approved = approvedStarts(baseline?.content.activities);
  for (const { activity, person } of bundle.assignments ?? []) {
    const row = schedule.rows[schedule.tree.indexOf.get(activity)!];
    if (row == null || row.state === "complete" || placeholders.has(person)) continue;
    const begins = formatDate(row.startDay);
    const meant = approved.get(activity) ?? begins;
    const from = meant < begins ? meant : begins;
    const known = since.get(person);
    if (known === undefined || from < known) since.set(person, from);
  }
  return (bundle.people ?? []).flatMap(({ id, name }) => (since.has(id) ? [{ id, name, from: since.get(id)! }] : []));
}
