import { applyChanges, stateOf, type Activity, type Change, type Plan } from "@chronometra/core";

/** What one report says, whoever decides it. */
export interface ReportContent {
  readonly id: string;
  readonly activityId: string;
  readonly personId: string;
  readonly date: string;
  readonly minutes: number | null;
  readonly percent: number | null;
  readonly remainingMinutes: number | null;
  readonly note: string;
}

/** The key under which a report's time stands in the plan once it is posted. */
export const postedKey = (reportId: string): string => `report-${reportId}`;

/**
 * The changes that accepting reports makes. The first time booked is the actual start, 100% the actual finish;
 * what is left of a person's work falls by the hours booked, unless they say themselves what is left.
 * @param reports in the order of the days they report on
 */
export function reportChanges(plan: Plan, reports: readonly ReportContent[]): Change[] {
  const all: Change[] = [];
  let at = plan;
  for (const report of reports) {
    const changes = changesOf(at, report);
    at = applyChanges(at, changes).plan;
    all.push(...changes);
  }
  return all;
}

function changesOf(plan: Plan, report: ReportContent): Change[] {
  const activity = plan.activities.get(report.activityId);
  const changes: Change[] = [];
  if (report.minutes !== null) {
    const { activityId, personId: person, date, minutes, note } = report;
    changes.push({ type: "postTime", key: postedKey(report.id), entry: { activity: activityId, person, date, minutes, state: "posted", ...(note === "" ? {} : { note }) } });
  }
  if (activity === undefined) return changes;
  const progress = progressOf(activity, report);
  if (progress !== null) changes.push(progress);
  const left = workLeft(plan, activity, report);
  if (left !== null) changes.push(left);
  return changes;
}

function progressOf(activity: Activity, report: ReportContent): Change | null {
  const worked = report.minutes !== null || (report.percent ?? 0) > 0;
  const began = activity.actualStart;
  const start = worked && (began === undefined || report.date < began.slice(0, 10)) ? report.date : undefined;
  const set: { actualStart?: string; percent?: number; actualFinish?: string | null; remainingMinutes?: null } = {};
  if (start !== undefined) set.actualStart = start;
  if (report.percent !== null) {
    set.percent = report.percent;
    if (activity.remainingMinutes !== undefined) set.remainingMinutes = null;
    if (report.percent === 100) set.actualFinish = activity.actualFinish ?? report.date;
    else if (activity.actualFinish !== undefined) set.actualFinish = null;
  }
  return Object.keys(set).length === 0 ? null : { type: "reportProgress", activity: activity.id, ...set };
}

function workLeft(plan: Plan, activity: Activity, report: ReportContent): Change | null {
  const found = [...plan.assignments].find(([, row]) => row.activity === activity.id && row.person === report.personId);
  if (found === undefined) return null;
  const [key, assignment] = found;
  if (report.remainingMinutes !== null) return { type: "setRemainingWork", assignment: key, remainingMinutes: report.remainingMinutes };
  if (report.minutes === null || stateOf(activity) === 2) return null;
  const before = assignment.remainingMinutes ?? assignment.plannedMinutes;
  return { type: "setRemainingWork", assignment: key, remainingMinutes: Math.max(0, before - report.minutes) };
}
