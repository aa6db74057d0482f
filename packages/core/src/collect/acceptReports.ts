import { rateBook } from "../budget/rates.ts";
import { remainingWork, stateOf } from "../network/laid/nodeColumns.ts";
import { COMPLETE } from "../network/laid/network.ts";
import { schedulePlan, type Schedule } from "../network/schedule.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import type { Change } from "../plan/change.ts";
import { addLeave } from "../plan/acts/leave.ts";
import { toBundle, type Plan } from "../plan/plan.ts";
import type { Activity, Assignment } from "../plan/schema.ts";
import { dayAfter } from "../time/instant.ts";
import { beginningOf, laterBeginning, type AssumedStart } from "./beginning.ts";
import { Heard } from "./heard.ts";
import { landing, rateDifference } from "./landing.ts";
import { postedKey, stageEarns, type ReportContent } from "./report.ts";

/** Whether one person's 100% ends an activity for all who are on it, or only their own work. */
export type Ending = "all" | "own";

/** A 100% of somebody beside whom others still have hours. */
export interface EndingAsked {
  readonly report: string;
  readonly activity: string;
  readonly name: string;
  readonly person: string;
  readonly others: readonly { readonly person: string; readonly leftMinutes: number }[];
  /** What was answered; until then only their own work ends. */
  readonly answer: Ending | null;
}

export interface Acceptance {
  /** The last day of a locked period: time of that day or before lands on the day after it, and says so. */
  readonly closedTo?: string | null;
  /** Reports that were accepted before on the same activities. */
  readonly earlier?: readonly ReportContent[];
  /** What a 100% ends, by report. */
  readonly endings?: ReadonlyMap<string, Ending>;
}

export interface Accepted {
  readonly changes: Change[];
  readonly asked: EndingAsked[];
  readonly assumed: AssumedStart[];
}

/**
 * The changes that accepting reports makes, the same in whatever order they come. The first time booked is the actual
 * start; others who were to begin earlier and have not reported keep their start. 100% is the actual finish where
 * nobody else has hours left or all is said to be finished; work beyond the finish extends it. What is left of a
 * person's work falls by the hours booked, unless they say themselves what is left, and goes on after the day they
 * spoke of. A stage is what the activity stands in from then on; one that earns anything has begun it. Leave moves what
 * is left of its person's work, nobody else's.
 * @param reports in the order of the days they report on
 */
export function acceptReports(
  plan: Plan,
  reports: readonly ReportContent[],
  { closedTo = null, earlier = [], endings = new Map() }: Acceptance = {},
): Accepted {
  let forecast: Schedule | undefined;
  const desk: Desk = {
    plan,
    heard: new Heard(plan, earlier),
    endings,
    asked: [],
    assumed: new Map(),
    forecast: () => (forecast ??= schedulePlan(toBundle(plan))),
  };
  const changes: Change[] = [];
  for (const report of reports) {
    const own =
      report.leaveUntil === null
        ? changesOf(desk, report, closedTo)
        : addLeave(desk.plan, report.personId, { from: report.date, to: report.leaveUntil, note: report.note });
    desk.plan = applyChanges(desk.plan, own).plan;
    changes.push(...own);
  }
  return { changes, asked: desk.asked, assumed: [...desk.assumed.values()] };
}

/** What is at hand while reports are accepted one after another. */
interface Desk {
  plan: Plan;
  readonly heard: Heard;
  readonly endings: ReadonlyMap<string, Ending>;
  readonly asked: EndingAsked[];
  readonly assumed: Map<string, AssumedStart>;
  readonly forecast: () => Schedule;
}

function changesOf(desk: Desk, report: ReportContent, closedTo: string | null): Change[] {
  const activity = desk.plan.activities.get(report.activityId);
  const changes = report.minutes === null ? [] : posting(desk.plan, report, report.minutes, closedTo);
  if (activity === undefined) return changes;
  changes.push(...stageOf(desk, activity, report));
  const ends = report.percent === 100 && !desk.heard.isPercentOld(activity, report) && endsAll(desk, activity, report);
  const endsOwn = report.percent === 100 && !ends && stateOf(activity) !== COMPLETE;
  const left = workLeft(desk, activity, report, endsOwn);
  const set = {
    ...(endsOwn || report.percent === null ? {} : percentOf(desk, activity, report)),
    ...datesOf(desk, activity, report, ends),
  };
  if (Object.keys(set).length > 0) changes.push({ type: "reportProgress", activity: activity.id, ...set });
  return left === null ? changes : [...changes, left];
}

/** The time that is posted; where it lands after the day worked, with what the rate of that day makes of it. */
function posting(
  plan: Plan,
  { id, activityId: activity, personId: person, date, note }: ReportContent,
  minutes: number,
  closedTo: string | null,
): Change[] {
  const lands = landing(date, note, closedTo);
  const worked = { activity, person, date, minutes };
  const entry = {
    ...worked,
    date: lands.date,
    state: "posted" as const,
    ...(lands.said === "" ? {} : { note: lands.said }),
  };
  const changes: Change[] = [{ type: "postTime", key: postedKey(id), entry }];
  const who = plan.people.get(person);
  if (lands.date === date || who === undefined) return changes;
  const difference = rateDifference(worked, lands.date, rateBook([who]), who.name, `rate-${postedKey(id)}`);
  return difference === null ? changes : [...changes, difference];
}

/** Whether a 100% ends the activity; where others have hours left it is asked. */
function endsAll({ plan, endings, asked }: Desk, activity: Activity, { id, personId }: ReportContent): boolean {
  if (stateOf(activity) === COMPLETE) return true;
  const nameOf = (person: string): string => plan.people.get(person)?.name ?? person;
  const others = [...plan.assignments.values()].flatMap((row) => {
    const leftMinutes = row.activity === activity.id && row.person !== personId ? remainingWork(row, activity) : 0;
    return leftMinutes > 0 ? [{ person: nameOf(row.person), leftMinutes }] : [];
  });
  if (others.length === 0) return true;
  const answer = endings.get(id) ?? null;
  asked.push({ report: id, activity: activity.id, name: activity.name, person: nameOf(personId), others, answer });
  return answer === "all";
}

/** The stage that an activity has come to, where it is another than it stands in and none was said of a later day. */
function stageOf({ plan, heard }: Desk, { id, credit }: Activity, report: ReportContent): Change[] {
  const isNews = stageEarns(plan, report) !== null && report.stage !== credit?.stage && !heard.isStageOld(report);
  return isNews ? [{ type: "setCredit", activity: id, credit: { ...credit!, stage: report.stage! } }] : [];
}

type Progress = Omit<Extract<Change, { type: "reportProgress" }>, "type" | "activity">;

function percentOf({ heard }: Desk, activity: Activity, report: ReportContent): Progress {
  if (heard.isPercentOld(activity, report)) return {};
  return {
    percent: report.percent,
    ...(activity.remainingMinutes === undefined ? {} : { remainingMinutes: null }),
    ...(report.percent === 100 && activity.dropped !== undefined ? { dropped: null } : {}),
    ...(report.percent! < 100 && activity.actualFinish !== undefined ? { actualFinish: null } : {}),
  };
}

/** When the activity began and ended, now that a report is known. */
function datesOf(desk: Desk, activity: Activity, report: ReportContent, ends: boolean): Progress {
  desk.heard.note(report);
  const actualStart = startSaid(desk, activity, report);
  const actualFinish = finishSaid(desk, activity, report, ends);
  return {
    ...(actualStart === null ? {} : { actualStart }),
    ...(actualFinish === null ? {} : { actualFinish }),
  };
}

/** The day on which the activity is now taken to have begun; `null` where that stays as it is. */
function startSaid(desk: Desk, activity: Activity, report: ReportContent): string | null {
  const { heard, assumed, plan } = desk;
  const worked = (report.minutes ?? 0) > 0 || (report.percent ?? 0) > 0 || (stageEarns(plan, report) ?? 0) > 0;
  if (!worked) return null;
  if (activity.actualStart === undefined) {
    const began = beginningOf(plan, activity, report.personId, report.date, heard, desk.forecast());
    if (began.assumed !== null) assumed.set(activity.id, began.assumed);
    return began.start;
  }
  const isEarlier = report.date < activity.actualStart.slice(0, 10);
  const began = isEarlier ? report.date : laterBeginning(plan, activity, heard);
  if (began !== null) assumed.delete(activity.id);
  return began;
}

/** The day on which the activity is now taken to have ended; `null` where that stays as it is. */
function finishSaid({ heard }: Desk, activity: Activity, report: ReportContent, ends: boolean): string | null {
  const { actualFinish, dropped } = activity;
  if (ends && (actualFinish === undefined || dropped === true)) return heard.lastDay(activity.id);
  if (actualFinish === undefined || (report.minutes ?? 0) <= 0) return null;
  // Of work that is finished, time booked for a later day extends it, unless it is said to go on.
  const goesOn = (report.percent ?? 100) < 100;
  return !goesOn && report.date > actualFinish.slice(0, 10) ? report.date : null;
}

/** What is left of the work of whoever reports: nothing where their own work ends. */
function workLeft({ plan, heard }: Desk, activity: Activity, report: ReportContent, endsOwn: boolean): Change | null {
  const found = [...plan.assignments].find(([, row]) => row.activity === activity.id && row.person === report.personId);
  if (found === undefined || heard.isLeftOld(report)) return null;
  const [key, assignment] = found;
  const said =
    report.remainingMinutes === null ? null : Math.max(0, report.remainingMinutes - heard.minutesAfter(report));
  const remainingMinutes = endsOwn ? 0 : (said ?? fallen(activity, assignment, report.minutes));
  if (remainingMinutes === null) return null;
  const goesOn = restartOf(plan, activity, report);
  return {
    type: "setRemainingWork",
    assignment: key,
    remainingMinutes,
    ...(goesOn === null || (assignment.restart ?? "") >= goesOn ? {} : { restart: goesOn }),
  };
}

/** What hours leave of an assignment; `null` where none were booked, or nothing is left of the activity. */
const fallen = (
  activity: Activity,
  { remainingMinutes, plannedMinutes }: Assignment,
  minutes: number | null,
): number | null =>
  minutes === null || stateOf(activity) === COMPLETE
    ? null
    : Math.max(0, (remainingMinutes ?? plannedMinutes) - minutes);

/**
 * The day after which what is left of a person's own work goes on, where their work decides dates and that day is past
 * the data date.
 */
function restartOf(plan: Plan, activity: Activity, report: ReportContent): string | null {
  const decides = activity.driver === "effort" || activity.windowPolicy === "drift";
  const past = report.date > (plan.project.dataDate ?? "");
  return decides && past && (report.minutes ?? 0) > 0 ? dayAfter(report.date) : null;
}
