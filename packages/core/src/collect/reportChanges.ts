import { stateOf } from "../network/buildNetwork.ts";
import { COMPLETE } from "../network/network.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import type { Change } from "../plan/change.ts";
import { addLeave } from "../plan/leave.ts";
import type { Plan } from "../plan/plan.ts";
import type { Activity } from "../plan/schema.ts";
import { dayAfter } from "../time/instant.ts";
import { postedKey, type ReportContent } from "./report.ts";

/**
 * The changes that accepting reports makes. The first time booked is the actual start, 100% the actual finish, work beyond
 * the finish extends it; what is left of a person's work falls by the hours booked, unless they say themselves what is
 * left, and goes on after the day they spoke of. Leave moves what is left of its person's work, nobody else's.
 * @param reports in the order of the days they report on
 * @param closedTo the last day of a locked period: time of that day or before lands on the day after it, and says so
 */
export function reportChanges(plan: Plan, reports: readonly ReportContent[], closedTo: string | null = null): Change[] {
  const all: Change[] = [];
  let at = plan;
  for (const report of reports) {
    const changes = report.leaveUntil === null ? changesOf(at, report, closedTo) : addLeave(at, report.personId, { from: report.date, to: report.leaveUntil, note: report.note });
    at = applyChanges(at, changes).plan;
    all.push(...changes);
  }
  return all;
}

function changesOf(plan: Plan, report: ReportContent, closedTo: string | null): Change[] {
  const activity = plan.activities.get(report.activityId);
  const changes: Change[] = [];
  if (report.minutes !== null) {
    const late = closedTo !== null && report.date <= closedTo;
    const note = [late ? `for ${report.date}` : "", report.note].filter((words) => words !== "").join(": ");
    const { activityId, personId: person, minutes } = report;
    changes.push({ type: "postTime", key: postedKey(report.id), entry: { activity: activityId, person, date: late ? dayAfter(closedTo) : report.date, minutes, state: "posted", ...(note === "" ? {} : { note }) } });
  }
  if (activity === undefined) return changes;
  const progress = progressOf(activity, report);
  if (progress !== null) changes.push(progress);
  const left = workLeft(plan, activity, report);
  if (left !== null) changes.push(left);
  return changes;
}

function progressOf(activity: Activity, report: ReportContent): Change | null {
  const worked = (report.minutes ?? 0) > 0 || (report.percent ?? 0) > 0;
  const { actualStart: began, actualFinish: ended } = activity;
  const start = worked && (began === undefined || report.date < began.slice(0, 10)) ? report.date : undefined;
  const set: { actualStart?: string; percent?: number; actualFinish?: string | null; remainingMinutes?: null; dropped?: null } = {};
  if (start !== undefined) set.actualStart = start;
  if (report.percent !== null) {
    set.percent = report.percent;
    if (activity.remainingMinutes !== undefined) set.remainingMinutes = null;
    if (report.percent === 100) {
      set.actualFinish = ended ?? report.date;
      if (activity.dropped !== undefined) set.dropped = null;
    } else if (ended !== undefined) set.actualFinish = null;
  }
  if (ended !== undefined && (report.percent === null || report.percent === 100) && worked && report.date > ended.slice(0, 10)) set.actualFinish = report.date;
  return Object.keys(set).length === 0 ? null : { type: "reportProgress", activity: activity.id, ...set };
}

function workLeft(plan: Plan, activity: Activity, report: ReportContent): Change | null {
  const found = [...plan.assignments].find(([, row]) => row.activity === activity.id && row.person === report.personId);
  if (found === undefined) return null;
  const [key, assignment] = found;
  const fallen = report.minutes === null || stateOf(activity) === COMPLETE ? null : Math.max(0, (assignment.remainingMinutes ?? assignment.plannedMinutes) - report.minutes);
  const remainingMinutes = report.remainingMinutes ?? fallen;
  if (remainingMinutes === null) return null;
  const goesOn = restartOf(plan, activity, report);
  return { type: "setRemainingWork", assignment: key, remainingMinutes, ...(goesOn === null || (assignment.restart ?? "") >= goesOn ? {} : { restart: goesOn }) };
}

/** The day after which what is left of a person's own work goes on, where their work decides dates and that day is past the data date. */
function restartOf(plan: Plan, activity: Activity, report: ReportContent): string | null {
  const decides = activity.driver === "effort" || activity.windowPolicy === "drift";
  const past = report.date > (plan.project.dataDate ?? "");
  return decides && past && (report.minutes ?? 0) > 0 ? dayAfter(report.date) : null;
}
