import { schedulePlan } from "../network/schedule.ts";
import { goesTo } from "../plan/meetings.ts";
import { planTree } from "../plan/planTree.ts";
import { toBundle, type Plan } from "../plan/plan.ts";
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
  | { readonly kind: "adjusts" };

/**
 * Remarks on reports, by the report's id: time on finished, parked or unbaselined work, before what comes first is done,
 * progress that went back, hours left that rose, time of a locked period.
 */
export function remarksOn(plan: Plan, reports: readonly ReportContent[], closedTo: string | null): Map<string, Remark[]> {
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
    if (report.percent !== null && report.percent < (activity.percent ?? 0)) remarks.push({ kind: "percentFell", from: activity.percent!, to: report.percent });
    const own = [...plan.assignments.values()].find((row) => row.activity === activity.id && row.person === report.personId);
    if (own === undefined) remarks.push(...(goesTo(plan, activity.id, report.personId) ? [] : [{ kind: "notAssigned" } as const]));
    else if (report.remainingMinutes !== null && report.remainingMinutes > (own.remainingMinutes ?? own.plannedMinutes)) remarks.push({ kind: "leftRose", fromMinutes: own.remainingMinutes ?? own.plannedMinutes, toMinutes: report.remainingMinutes });
    if (closedTo !== null && report.minutes !== null && report.date <= closedTo) remarks.push({ kind: "late", closedTo });
    if ((report.minutes ?? 0) < 0) remarks.push({ kind: "adjusts" });
    return remarks;
  };
  return new Map(reports.map((report) => [report.id, of(report)]));
}
