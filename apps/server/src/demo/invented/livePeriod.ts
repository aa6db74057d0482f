import {
  type Activity,
  type Change,
  type EpochDay,
  epochDay,
  formatDate,
  parseDate,
  type Plan,
  type ReportContent,
  type ScheduledActivity,
  schedulePlan,
  toBundle,
  type WorkCalendar,
} from "@chronometra/core";
import type { Story } from "./projects.ts";
import type { Random } from "./random.ts";

/** What people report and what is invoiced in one period of a project. */
export interface PeriodOfWork {
  readonly reports: readonly ReportContent[];
  readonly costs: readonly Change[];
}

/** How a story bends the work: time needed against plan, hours spent against plan. */
function pace(story: Story, period: number): { slow: number; burn: number } {
  switch (story) {
    case "wellRun":
      return { slow: 0.97, burn: 0.98 };
    case "recovering":
      return period <= 5 ? { slow: 1.55, burn: 1.2 } : { slow: 0.62, burn: 1.02 };
    case "rotten":
      return { slow: 1.0, burn: 1.4 };
    case "brokenPromise":
      return { slow: 1.32, burn: 1.15 };
    case "rebaselined":
      return period <= 5 ? { slow: 1.6, burn: 1.12 } : { slow: 1.0, burn: 1.0 };
    case "justBegun":
    case "ordinary":
    case "unapproved":
      return { slow: 1.08, burn: 1.03 };
  }
}

const DAY_MINUTES = 480;
const ROTTEN_STICKS_AT = 94;

interface Context {
  readonly plan: Plan;
  readonly story: Story;
  readonly period: number;
  /** First and last day of work in this period. */
  readonly from: EpochDay;
  readonly to: EpochDay;
  readonly random: Random;
  /** Minutes that each person has booked on each day, in all projects. */
  readonly booked: Map<string, number>;
}

/** What happens in a period: every activity that may be worked on gets its days, its hours and its percent. */
export function livePeriod(context: Context): PeriodOfWork {
  const { plan } = context;
  const bundle = toBundle(plan);
  const schedule = schedulePlan(bundle);
  const reports: ReportContent[] = [];
  const costs: Change[] = [];
  bundle.activities.forEach((activity, i) => {
    const row = schedule.rows[i];
    if (row == null || row.state === "complete" || activity.kind === "summary") return;
    if (activity.kind === "milestone") {
      reachMilestone(context, activity, row, reports, schedule.rows, bundle);
      return;
    }
    const calendar = schedule.calendars.get(activity.calendar ?? "authority");
    const first = epochDay(Math.max(context.from, row.state === "inProgress" ? context.from : row.startDay));
    if (first > context.to) return;
    if (activity.kind === "levelOfEffort")
      bookTime(context, activity, workedDays(calendar, first, context.to), 0.16, reports, null);
    else work(context, activity, calendar, first, reports, costs);
  });
  return { reports: reports.sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0)), costs };
}

const workedDays = (calendar: WorkCalendar, from: EpochDay, to: EpochDay): EpochDay[] => {
  const days: EpochDay[] = [];
  for (let day = from; day <= to; day = epochDay(day + 1)) if (calendar.minutesOn(day) > 0) days.push(day);
  return days;
};

function work(
  context: Context,
  activity: Activity,
  calendar: WorkCalendar,
  first: EpochDay,
  reports: ReportContent[],
  costs: Change[],
): void {
  const { slow, burn } = pace(context.story, context.period);
  const { random } = context;
  const days = workedDays(calendar, first, context.to);
  if (days.length === 0) return;
  const planned = Math.max(1, (activity.durationMinutes ?? DAY_MINUTES) / DAY_MINUTES);
  const needed = planned * slow * random.between(0.85, 1.15);
  const before = activity.percent ?? 0;
  let after = Math.min(100, Math.round(before + (100 * days.length) / needed));
  let used = after < 100 ? days : days.slice(0, Math.max(1, Math.ceil(((100 - before) / 100) * needed)));
  // The rotten project reports what its plan foresaw and then sticks just short of the end.
  const sticks = context.story === "rotten" && planned >= 10 && before < ROTTEN_STICKS_AT && random.next() < 0.85;
  if (sticks && after === 100) {
    after = ROTTEN_STICKS_AT;
    used = days;
  }
  const last = used[used.length - 1]!;
  bookTime(context, activity, used, burn, reports, { day: last, percent: after });
  invoice(context, activity, before === 0, after === 100, used[0]!, last, costs);
}

const MOST_MINUTES_A_DAY = 600;

/** Hours on the days worked, and the percent on the last of them. */
function bookTime(
  context: Context,
  activity: Activity,
  days: readonly EpochDay[],
  burn: number,
  reports: ReportContent[],
  progress: { day: EpochDay; percent: number } | null,
): void {
  const assignments = [...context.plan.assignments.values()].filter(
    (assignment) => assignment.activity === activity.id,
  );
  const planned = Math.max(1, (activity.durationMinutes ?? DAY_MINUTES) / DAY_MINUTES);
  let told = progress === null;
  for (const assignment of assignments) {
    const daily = activity.kind === "levelOfEffort" ? DAY_MINUTES * burn : (assignment.plannedMinutes / planned) * burn;
    days.forEach((day, i) => {
      const key = `${assignment.person} ${day}`;
      const room = MOST_MINUTES_A_DAY - (context.booked.get(key) ?? 0);
      const minutes = Math.min(room, Math.round((daily * context.random.between(0.8, 1.2)) / 15) * 15);
      if (minutes < 30 || (activity.kind === "levelOfEffort" && i % 2 === 1)) return;
      context.booked.set(key, (context.booked.get(key) ?? 0) + minutes);
      const isLast = !told && day === progress!.day;
      if (isLast) told = true;
      reports.push(report(context, activity, assignment.person, day, minutes, isLast ? progress!.percent : null));
    });
  }
  if (!told && assignments.length > 0)
    reports.push(report(context, activity, assignments[0]!.person, progress!.day, null, progress!.percent));
}

const report = (
  context: Context,
  activity: Activity,
  personId: string,
  day: EpochDay,
  minutes: number | null,
  percent: number | null,
): ReportContent => ({
  leaveUntil: null,
  id: `${context.period}-${activity.id}-${personId}-${day}-${minutes === null ? "p" : "t"}`,
  activityId: activity.id,
  personId,
  date: formatDate(day),
  minutes,
  percent,
  remainingMinutes: null,
  note: "",
});

function invoice(
  context: Context,
  activity: Activity,
  begins: boolean,
  ends: boolean,
  first: EpochDay,
  last: EpochDay,
  costs: Change[],
): void {
  for (const line of context.plan.costs.values()) {
    if (line.activity !== activity.id) continue;
    const due = (line.timing ?? "even") === "start" ? begins : ends;
    if (!due) continue;
    const factor = context.random.between(0.94, 1.06) * (context.story === "rotten" ? 1.18 : 1);
    const amountMinor = Math.round((line.plannedMinor * factor) / 100) * 100;
    const day = (line.timing ?? "even") === "start" ? first : last;
    costs.push({
      type: "postCost",
      key: `invoice-${line.id}`,
      cost: {
        activity: activity.id,
        date: formatDate(day),
        amountMinor,
        category: line.category,
        reference: `INV-${line.id}`,
      },
    });
  }
}

/** A milestone is reached when all that leads to it was finished before this period. */
function reachMilestone(
  context: Context,
  activity: Activity,
  row: ScheduledActivity,
  reports: ReportContent[],
  rows: readonly (ScheduledActivity | null)[],
  bundle: ReturnType<typeof toBundle>,
): void {
  const position = new Map(bundle.activities.map(({ id }, i) => [id, i]));
  const before = (bundle.links ?? [])
    .filter(({ to }) => to === activity.id)
    .map(({ from }) => rows[position.get(from)!]);
  if (before.length === 0 || before.some((other) => other == null || other.state !== "complete")) return;
  const last = epochDay(Math.max(...before.map((other) => other!.finishDay), context.from));
  if (last <= context.to && row.state === "notStarted") reports.push(report(context, activity, "", last, null, 100));
}

/** The day after a date, as a day. */
export const dayAfterDate = (date: string): EpochDay => epochDay(parseDate(date)! + 1);
