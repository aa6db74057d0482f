import { remainingWork } from "../network/buildNetwork.ts";
import { schedulePlan } from "../network/schedule.ts";
import { goesTo } from "../plan/meetings.ts";
import { toBundle, type Plan } from "../plan/plan.ts";
import { planTree } from "../plan/planTree.ts";
import type { Activity } from "../plan/schema.ts";
import { Heard } from "./heard.ts";
import type { ReportContent } from "./report.ts";

/** What whoever decides a report should know of it before they do. */
export type Remark =
  | { readonly kind: "parked"; readonly name: string }
  | { readonly kind: "gone" }
  | { readonly kind: "finished"; readonly on: string }
  | { readonly kind: "unbaselined"; readonly baseline: number }
  | { readonly kind: "outOfSequence"; readonly after: string }
  | { readonly kind: "percentFell"; readonly from: number; readonly to: number }
  | { readonly kind: "leftRose"; readonly fromMinutes: number; readonly toMinutes: number }
  | { readonly kind: "notAssigned" }
  | { readonly kind: "late"; readonly closedTo: string }
  /** Hours taken back, and how many of them are work that remains again. */
  | { readonly kind: "adjusts"; readonly backMinutes: number }
  /** Finished work goes on, with what remains for its people. */
  | { readonly kind: "reopens"; readonly leftMinutes: number }
  /** Something else has been said of a later day, and stands. */
  | { readonly kind: "older"; readonly what: "percent" | "remaining" };

/**
 * Remarks on reports, by the report's id: time on finished, parked or unbaselined work, before what comes first is done,
 * progress that went back, hours left that rose, time of a locked period; and where hours go that are taken back, come late or
 * stand open again.
 * @param earlier reports that were accepted before on the same activities
 */
export function remarksOn(plan: Plan, reports: readonly ReportContent[], closedTo: string | null, earlier: readonly ReportContent[] = []): Map<string, Remark[]> {
  const heard = new Heard(plan, earlier);
  const bundle = toBundle(plan);
  const { rows } = schedulePlan(bundle);
  const { parked } = planTree(bundle.activities);
  const stateAt = new Map(bundle.activities.map(({ id }, i) => [id, rows[i]?.state ?? null]));
  const numbers = [...plan.baselines.values()].map(({ number }) => number);
  const newest = numbers.length === 0 ? null : plan.baselines.get(String(Math.max(...numbers)))!;
  const inBaseline = new Set(newest?.activities.map(({ id }) => id));
  const before = new Map<string, string[]>();
  for (const { from, to, type = "FS" } of plan.links.values()) {
    const waits = type === "FS" ? stateAt.get(from) !== "complete" : type === "SS" && stateAt.get(from) === "notStarted";
    if (waits && stateAt.get(from) != null) before.set(to, [...(before.get(to) ?? []), plan.activities.get(from)!.name]);
  }
  const of = (report: ReportContent): Remark[] => {
    if (report.leaveUntil !== null) return [];
    const activity = plan.activities.get(report.activityId);
    if (activity === undefined) return [{ kind: "gone" }];
    const remarks: Remark[] = [];
    if (parked.has(activity.id)) remarks.push({ kind: "parked", name: activity.name });
    if (activity.actualFinish !== undefined && (report.minutes ?? 0) > 0) remarks.push({ kind: "finished", on: activity.actualFinish.slice(0, 10) });
    if (newest !== null && !inBaseline.has(activity.id)) remarks.push({ kind: "unbaselined", baseline: newest.number });
    for (const after of activity.actualFinish === undefined ? (before.get(activity.id) ?? []) : []) remarks.push({ kind: "outOfSequence", after });
    if (report.percent !== null && report.percent < (activity.percent ?? 0) && !heard.isPercentOld(activity, report)) remarks.push({ kind: "percentFell", from: activity.percent!, to: report.percent });
    const own = [...plan.assignments.values()].find((row) => row.activity === activity.id && row.person === report.personId);
    if (own === undefined) remarks.push(...(goesTo(plan, activity.id, report.personId) ? [] : [{ kind: "notAssigned" } as const]));
    else if (report.remainingMinutes !== null && report.remainingMinutes > (own.remainingMinutes ?? own.plannedMinutes)) remarks.push({ kind: "leftRose", fromMinutes: own.remainingMinutes ?? own.plannedMinutes, toMinutes: report.remainingMinutes });
    if (closedTo !== null && report.minutes !== null && report.date <= closedTo) remarks.push({ kind: "late", closedTo });
    if (report.minutes !== null && report.minutes < 0) remarks.push({ kind: "adjusts", backMinutes: own === undefined || activity.actualFinish !== undefined || report.remainingMinutes !== null || heard.isLeftOld(report) ? 0 : -report.minutes });
    if (report.percent !== null && heard.isPercentOld(activity, report)) remarks.push({ kind: "older", what: "percent" });
    else if (report.percent !== null && report.percent < 100 && activity.actualFinish !== undefined) remarks.push({ kind: "reopens", leftMinutes: leftOnceOpen(plan, activity, report.percent) });
    if ((report.remainingMinutes !== null || (report.minutes ?? 0) > 0) && heard.isLeftOld(report)) remarks.push({ kind: "older", what: "remaining" });
    return remarks;
  };
  return new Map(reports.map((report) => [report.id, of(report)]));
}

/** What remains for the people of finished work once it goes on at a percent. */
function leftOnceOpen(plan: Plan, activity: Activity, percent: number): number {
  const { actualFinish: _ended, ...open } = { ...activity, percent };
  return [...plan.assignments.values()].reduce((sum, row) => (row.activity === activity.id ? sum + remainingWork(row, open) : sum), 0);
}
