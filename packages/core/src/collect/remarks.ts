import { remainingWork } from "../network/laid/nodeColumns.ts";
import { schedulePlan } from "../network/schedule.ts";
import { goesTo } from "../plan/acts/meetings.ts";
import { toBundle, type Plan } from "../plan/plan.ts";
import { planTree } from "../plan/planTree.ts";
import type { Activity } from "../plan/schema.ts";
import { Heard } from "./heard.ts";
import { stageEarns, type ReportContent } from "./report.ts";

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
  | { readonly kind: "stageFell"; readonly from: string; readonly to: string }
  /** The activity has no such stage any more; where it stands stays as it is. */
  | { readonly kind: "stageGone"; readonly stage: string }
  /** Something else has been said of a later day, and stands. */
  | { readonly kind: "older"; readonly what: "percent" | "remaining" | "stage" };

/**
 * Remarks on reports, by the report's id: time on finished, parked or unbaselined work, before what comes first is
 * done, progress that went back, hours left that rose, time of a locked period; and where hours go that are taken back,
 * come late or stand open again.
 * @param earlier reports that were accepted before on the same activities
 */
export function remarksOn(
  plan: Plan,
  reports: readonly ReportContent[],
  closedTo: string | null,
  earlier: readonly ReportContent[] = [],
): Map<string, Remark[]> {
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
    const waits =
      type === "FS" ? stateAt.get(from) !== "complete" : type === "SS" && stateAt.get(from) === "notStarted";
    if (waits && stateAt.get(from) != null)
      before.set(to, [...(before.get(to) ?? []), plan.activities.get(from)!.name]);
  }
  const of = (report: ReportContent): Remark[] => {
    if (report.leaveUntil !== null) return [];
    const activity = plan.activities.get(report.activityId);
    if (activity === undefined) return [{ kind: "gone" }];
    const waits = activity.actualFinish === undefined ? (before.get(activity.id) ?? []) : [];
    return [
      ...(parked.has(activity.id) ? [{ kind: "parked", name: activity.name } as const] : []),
      ...(activity.actualFinish !== undefined && (report.minutes ?? 0) > 0
        ? [{ kind: "finished", on: activity.actualFinish.slice(0, 10) } as const]
        : []),
      ...(newest !== null && !inBaseline.has(activity.id)
        ? [{ kind: "unbaselined", baseline: newest.number } as const]
        : []),
      ...waits.map((after) => ({ kind: "outOfSequence", after }) as const),
      ...percentRemarks(plan, activity, report, heard),
      ...stageRemarks(plan, activity, report, heard),
      ...hoursRemarks(plan, activity, report, heard, closedTo),
    ];
  };
  return new Map(reports.map((report) => [report.id, of(report)]));
}

function percentRemarks(plan: Plan, activity: Activity, report: ReportContent, heard: Heard): Remark[] {
  const { percent } = report;
  if (percent === null) return [];
  if (heard.isPercentOld(activity, report)) return [{ kind: "older", what: "percent" }];
  return [
    ...(percent < (activity.percent ?? 0)
      ? [{ kind: "percentFell", from: activity.percent!, to: percent } as const]
      : []),
    ...(percent < 100 && activity.actualFinish !== undefined
      ? [{ kind: "reopens", leftMinutes: leftOnceOpen(plan, activity, percent) } as const]
      : []),
  ];
}

function stageRemarks(plan: Plan, { credit }: Activity, report: ReportContent, heard: Heard): Remark[] {
  const { stage } = report;
  if (stage === undefined || stage === null) return [];
  const earns = stageEarns(plan, report);
  if (earns === null) return [{ kind: "stageGone", stage }];
  if (heard.isStageOld(report)) return [{ kind: "older", what: "stage" }];
  const now = credit?.stages?.find(({ name }) => name === credit.stage);
  return now !== undefined && earns < now.credit ? [{ kind: "stageFell", from: now.name, to: stage }] : [];
}

function hoursRemarks(
  plan: Plan,
  activity: Activity,
  report: ReportContent,
  heard: Heard,
  closedTo: string | null,
): Remark[] {
  const { minutes, remainingMinutes, personId, date } = report;
  const own = [...plan.assignments.values()].find((row) => row.activity === activity.id && row.person === personId);
  const left = own === undefined ? null : (own.remainingMinutes ?? own.plannedMinutes);
  const isOld = heard.isLeftOld(report);
  const remarks: Remark[] = [];
  if (own === undefined && !goesTo(plan, activity.id, personId)) remarks.push({ kind: "notAssigned" });
  if (left !== null && remainingMinutes !== null && remainingMinutes > left)
    remarks.push({ kind: "leftRose", fromMinutes: left, toMinutes: remainingMinutes });
  if (closedTo !== null && minutes !== null && date <= closedTo) remarks.push({ kind: "late", closedTo });
  if (minutes !== null && minutes < 0) {
    const staysOut = own === undefined || activity.actualFinish !== undefined || remainingMinutes !== null || isOld;
    remarks.push({ kind: "adjusts", backMinutes: staysOut ? 0 : -minutes });
  }
  if ((remainingMinutes !== null || (minutes ?? 0) > 0) && isOld) remarks.push({ kind: "older", what: "remaining" });
  return remarks;
}

/** What remains for the people of finished work once it goes on at a percent. */
function leftOnceOpen(plan: Plan, activity: Activity, percent: number): number {
  const { actualFinish: _ended, ...open } = { ...activity, percent };
  return [...plan.assignments.values()].reduce(
    (sum, row) => (row.activity === activity.id ? sum + remainingWork(row, open) : sum),
    0,
  );
}
