import { dayWords } from "../../words/numberWords.ts";
import { assignmentsByActivity } from "../../network/buildNetwork.ts";
import { WORK } from "../../network/network.ts";
import type { Schedule, ScheduledActivity } from "../../network/schedule.ts";
import type { BaselineContent } from "../../performance/plannedValue.ts";
import type { Activity, Assignment, BaselineRow, Link, PlanBundle } from "../../plan/schema.ts";
import { closeOf, formatInstant, parseDate, type EpochDay, type LocalMinute } from "../../time/instant.ts";
import type { WorkCalendar } from "../../time/workCalendar.ts";

/** An activity that has a place in the passes. */
export interface Placed {
  /** Position in the plan's activities. */
  readonly at: number;
  readonly activity: Activity;
  readonly row: ScheduledActivity;
  readonly calendar: WorkCalendar;
  /** What the baseline holds of it. */
  readonly approved: BaselineRow | null;
  readonly isWork: boolean;
  readonly isOpen: boolean;
}

/** A link between two of them. */
export interface PlacedLink {
  readonly link: Link;
  readonly from: Placed;
  readonly to: Placed;
}

/** What every check looks at, gathered once: the sets that section 6 of calculations.md names. */
export interface Ground {
  readonly plan: PlanBundle;
  readonly schedule: Schedule;
  readonly baseline: BaselineContent | null;
  /** The data date and its close. */
  readonly dataDay: EpochDay | null;
  readonly close: LocalMinute | null;
  /** Scheduled work and milestones, in the plan's order. */
  readonly scheduled: readonly Placed[];
  /** A: those of them that are not complete. */
  readonly open: readonly Placed[];
  /** Links between scheduled work and milestones, whether the later one is complete or not. */
  readonly allLinks: readonly PlacedLink[];
  /** L: those whose successor is not complete. */
  readonly links: readonly PlacedLink[];
  readonly assignments: ReadonlyMap<string, readonly Assignment[]>;
  /** What was to be finished by the data date, as its approved finish is shown; without what was dropped. */
  readonly due: readonly Placed[];
}

/**
 * Gathers it.
 * @param schedule what `schedulePlan` gave for the plan
 * @param baseline the baseline compared against, if any
 */
export function groundOf(plan: PlanBundle, schedule: Schedule, baseline: BaselineContent | null): Ground {
  const { network } = schedule;
  const approved = new Array<BaselineRow | null>(plan.activities.length).fill(null);
  for (const row of baseline?.activities ?? []) {
    const at = schedule.tree.indexOf.get(row.id);
    if (at !== undefined) approved[at] = row;
  }
  const byNode = new Array<Placed>(network.count);
  const scheduled: Placed[] = [];
  plan.activities.forEach((activity, at) => {
    const node = network.nodeOf[at]!;
    if (node < 0) return;
    const row = schedule.rows[at]!;
    const calendar = network.calendars[network.calendarOf[node]!]!;
    scheduled.push(
      (byNode[node] = {
        at,
        activity,
        row,
        calendar,
        approved: approved[at]!,
        isWork: network.kind[node] === WORK,
        isOpen: row.state !== "complete",
      }),
    );
  });
  const allLinks: PlacedLink[] = [];
  for (let node = 0; node < network.count; node++) {
    for (let l = network.inStart[node]!; l < network.inStart[node + 1]!; l++)
      allLinks.push({
        link: network.linkRows[network.inRow[l]!]!,
        from: byNode[network.inLinks.other[l]!]!,
        to: byNode[node]!,
      });
  }
  const dataDay = plan.project.dataDate === undefined ? null : parseDate(plan.project.dataDate)!;
  // Instants as text come in their own order.
  const close = dataDay === null ? "" : formatInstant(closeOf(dataDay));
  const isDue = ({ approved, row, activity }: Placed): boolean =>
    approved !== null &&
    activity.dropped !== true &&
    (row.shownAsStart ? approved.finish < close : approved.finish <= close);
  return {
    plan,
    schedule,
    baseline,
    dataDay,
    close: dataDay === null ? null : closeOf(dataDay),
    scheduled,
    open: scheduled.filter(({ isOpen }) => isOpen),
    allLinks,
    links: allLinks.filter(({ to }) => to.isOpen),
    assignments: assignmentsByActivity(plan),
    due: scheduled.filter(isDue),
  };
}

/** The length that an activity was planned with, in minutes of its calendar: from start to finish where its people decide it. */
export function plannedMinutes({ assignments }: Ground, { activity, row, calendar }: Placed): number {
  const byEffort = activity.driver === "effort" && assignments.has(activity.id);
  if (!byEffort && activity.durationMinutes !== undefined) return activity.durationMinutes;
  return calendar.indexAt(row.finish) - calendar.indexAt(row.start);
}

/** Days of an activity's calendar, as a word to read: `52.5 d`. */
export const inDays = (minutes: number, { calendar }: Placed): string => dayWords(minutes / calendar.dayMinutes);
