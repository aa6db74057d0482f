import type { Plan } from "../plan/plan.ts";
import type { Activity } from "../plan/schema.ts";
import { postedKey, stageEarns, type ReportContent } from "./report.ts";

const pairOf = (activity: string, person: string): string => JSON.stringify([activity, person]);

function keepLeast(days: Map<string, string>, key: string, day: string): void {
  const known = days.get(key);
  if (known === undefined || day < known) days.set(key, day);
}

function keepGreatest(days: Map<string, string>, key: string, day: string): void {
  const known = days.get(key);
  if (known === undefined || day > known) days.set(key, day);
}

/**
 * Of which days people have spoken, in what was accepted so far: reports come in any order, and what comes late of an earlier
 * day does not override what was said of a later one.
 */
export class Heard {
  private readonly percents = new Map<string, string>();
  private readonly stages = new Map<string, string>();
  private readonly lefts = new Map<string, string>();
  private readonly firstDays = new Map<string, string>();
  private readonly firstOfPeople = new Map<string, string>();
  private readonly lastDays = new Map<string, string>();
  private readonly hours = new Map<string, { date: string; minutes: number }[]>();

  /** @param earlier reports that were accepted before; of time that came with them their own days count, not those it was posted on */
  constructor(
    private readonly plan: Plan,
    earlier: readonly ReportContent[],
  ) {
    const known = new Set(earlier.map(({ id }) => postedKey(id)));
    for (const [key, { activity, person, date, minutes, state }] of plan.timeEntries) {
      if (state === "posted" && !known.has(key)) this.noteWork(activity, person, date, minutes);
    }
    for (const report of earlier) this.note(report);
  }

  /** Takes in what was accepted. */
  note(report: ReportContent): void {
    const { activityId, personId, date, minutes, percent, remainingMinutes } = report;
    const earns = stageEarns(this.plan, report);
    if (earns !== null) keepGreatest(this.stages, activityId, date);
    if ((earns ?? 0) > 0) this.noteBegun(activityId, personId, date);
    if (minutes !== null) this.noteWork(activityId, personId, date, minutes);
    if ((percent ?? 0) > 0) this.noteBegun(activityId, personId, date);
    if (percent === 100) keepGreatest(this.lastDays, activityId, date);
    if (percent !== null && percent < 100) keepGreatest(this.percents, activityId, date);
    if (remainingMinutes !== null || percent === 100) keepGreatest(this.lefts, pairOf(activityId, personId), date);
  }

  private noteWork(activity: string, person: string, date: string, minutes: number): void {
    const pair = pairOf(activity, person);
    const known = this.hours.get(pair);
    if (known === undefined) this.hours.set(pair, [{ date, minutes }]);
    else known.push({ date, minutes });
    if (minutes <= 0) return;
    this.noteBegun(activity, person, date);
    keepGreatest(this.lastDays, activity, date);
  }

  private noteBegun(activity: string, person: string, date: string): void {
    keepLeast(this.firstDays, activity, date);
    keepLeast(this.firstOfPeople, pairOf(activity, person), date);
  }

  /** Whether a percent of the activity has been said of a later day, or it was finished on one. */
  isPercentOld = ({ id, actualFinish = "" }: Activity, { date }: ReportContent): boolean =>
    date < (this.percents.get(id) ?? "") || date < actualFinish.slice(0, 10);
  /** Whether a stage of the activity has been said of a later day. */
  isStageOld = ({ activityId, date }: ReportContent): boolean => date < (this.stages.get(activityId) ?? "");
  /** Whether what is left of a person's work has been said of a later day. */
  isLeftOld = ({ activityId, personId, date }: ReportContent): boolean =>
    date < (this.lefts.get(pairOf(activityId, personId)) ?? "");
  /** Minutes that a person booked of days after one, which what they said of that day did not know of. */
  minutesAfter = ({ activityId, personId, date }: ReportContent): number =>
    (this.hours.get(pairOf(activityId, personId)) ?? []).reduce(
      (sum, one) => (one.date > date ? sum + one.minutes : sum),
      0,
    );
  hasBegun = (activity: string, person: string): boolean => this.firstOfPeople.has(pairOf(activity, person));
  /** The first day that anyone worked. */
  firstDay = (activity: string): string | null => this.firstDays.get(activity) ?? null;
  /** The last day that anyone worked, or said to be through. */
  lastDay = (activity: string): string => this.lastDays.get(activity) ?? "";
}
