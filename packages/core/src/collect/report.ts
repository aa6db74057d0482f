import type { Plan } from "../plan/plan.ts";

/** What one report from a desk says, whoever decides it. */
export interface ReportContent {
  readonly id: string;
  /** Empty where it speaks of no activity, as leave does. */
  readonly activityId: string;
  readonly personId: string;
  /** The day that it speaks of; of leave the first. */
  readonly date: string;
  /** Of leave the last day; of nothing else. */
  readonly leaveUntil: string | null;
  /** Less than nothing in an adjusting entry. */
  readonly minutes: number | null;
  readonly percent: number | null;
  readonly remainingMinutes: number | null;
  /** The name of the stage that it has come to, of those by which the activity earns. */
  readonly stage?: string | null;
  readonly note: string;
}

/** The percent that the stage of a report earns; `null` where it names none, or one that the activity does not have. */
export function stageEarns(
  plan: Plan,
  { activityId, stage }: Pick<ReportContent, "activityId" | "stage">,
): number | null {
  if (stage === undefined || stage === null) return null;
  const credit = plan.activities.get(activityId)?.credit;
  if (credit?.rule !== "stages") return null;
  return credit.stages?.find(({ name }) => name === stage)?.credit ?? null;
}

/** The key under which a report's time stands in the plan once it is posted. */
export const postedKey = (reportId: string): string => `report-${reportId}`;
