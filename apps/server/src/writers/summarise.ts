import type { Summary } from "@chronometra/contract";
import {
  closeOf,
  deadlineStandings,
  epochDay,
  groundOf,
  measureChecks,
  valuesOf,
  formatDate,
  finishDayOf,
  parseDate,
  parseInstant,
  positionsOf,
  type Computed,
  type PlanBundle,
} from "@chronometra/core";
import type { ComputedPlan } from "../plan/held/computedPlan.ts";
import { approvedStarts } from "./activities/approvedStarts.ts";

/** What the portfolio page shows of a project, from what was computed. */
export function summarise({ bundle, computed, slips }: ComputedPlan): Summary {
  const { schedule, baseline, performance } = computed;
  const { project, activities } = bundle;
  const scheduled = activities.filter((activity, i) => schedule.rows[i] != null && activity.kind !== "summary");
  const done = activities.filter(
    (activity, i) => activity.kind !== "summary" && activity.dropped !== true && schedule.rows[i]?.state === "complete",
  );
  const positions = positionsOf(activities);
  const first = schedule.rows.reduce<number | null>(
    (least, row) => (row === null || (least !== null && least <= row.startDay) ? least : row.startDay),
    null,
  );
  const approvedStart =
    baseline?.content.activities.reduce((least, row) => (least === "" || row.start < least ? row.start : least), "") ??
    "";
  const approvedFinish =
    baseline?.content.activities.reduce((latest, row) => (row.finish > latest ? row.finish : latest), "") ?? "";
  return {
    currency: project.currency,
    minorDigits: project.minorDigits ?? 2,
    dataDate: project.dataDate ?? null,
    baseline: typeof baseline?.label === "number" ? baseline.label : null,
    finish: schedule.finish === null ? null : formatDate(finishDayOf(schedule.finish)),
    baselineFinish: approvedFinish === "" ? null : formatDate(finishDayOf(parseInstant(approvedFinish)!)),
    start: first === null ? null : formatDate(epochDay(first)),
    baselineStart: approvedStart === "" ? null : approvedStart.slice(0, 10),
    drift: driftOfFinish(bundle, computed, approvedFinish),
    daysLeft: daysLeft(bundle, computed),
    done: done.length,
    activities: scheduled.length,
    unscheduled: schedule.unscheduled.length,
    unbaselined: performance?.unbaselined.length ?? 0,
    dropped: droppedOf(bundle, computed),
    figures: performance?.project ?? null,
    earnedSchedule: performance?.earnedSchedule ?? null,
    milestones: activities.flatMap((activity, i) => {
      const row = schedule.rows[i];
      if (activity.kind !== "milestone" || row == null) return [];
      const slip = slips.get(activity.id);
      return [
        {
          id: activity.id,
          name: activity.name,
          baseline: slip === undefined ? null : formatDate(slip.baselineFinishDay),
          forecast: formatDate(row.finishDay),
          drift: slip?.workingDays ?? null,
          reached: row.state === "complete" && activity.dropped !== true,
          ...(activity.dropped === true ? { dropped: true as const } : {}),
          deadline: activity.deadline ?? null,
        },
      ];
    }),
    quality: [...valuesOf(measureChecks(groundOf(bundle, schedule, baseline?.content ?? null)))],
    deadlines: [...deadlineStandings(bundle, schedule)].map(([id, standing]) => ({
      id,
      name: activities[positions.get(id)!]!.name,
      ...standing,
    })),
  };
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
