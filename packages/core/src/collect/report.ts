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
  readonly note: string;
}

/** The key under which a report's time stands in the plan once it is posted. */
export const postedKey = (reportId: string): string => `report-${reportId}`;
