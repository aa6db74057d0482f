import { dayWords } from "../../words/numberWords.ts";
import { assignmentsByActivity } from "../../network/laid/nodeColumns.ts";
import { COMPLETE, WORK, type Network } from "../../network/laid/network.ts";
import type { Schedule } from "../../network/schedule.ts";
import type { ScheduledActivity } from "../../network/scheduledActivity.ts";
import { remembered } from "../../plan/derived/remembered.ts";
import { succession } from "../../plan/derived/succession.ts";
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
  /** Whether it was to be finished by the data date, as its approved finish is shown. */
  readonly isDue: boolean;
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
  /** By position in the plan's activities; `null` where one has no place in the passes. */
  readonly placedAt: readonly (Placed | null)[];
  /** Scheduled work and milestones, in the plan's order. */
  readonly scheduled: readonly Placed[];
  /** A: those of them that are not complete. */
  readonly open: readonly Placed[];
  /**
   * Links between scheduled work and milestones, whether the later one is complete or not; each where the network has
   * it among its links in.
   */
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
 * @param before what was gathered of a plan that it came of: what says the same is taken from there
 */
export function groundOf(
  plan: PlanBundle,
  schedule: Schedule,
  baseline: BaselineContent | null,
  before?: Ground,
): Ground {
  const { network } = schedule;
  const placedAt = placeAll(plan, schedule, baseline, before);
  const dataDay = dayOf(plan);
  let allLinks: readonly PlacedLink[] | undefined;
  let links: readonly PlacedLink[] | undefined;
  return {
    plan,
    schedule,
    baseline,
    dataDay,
    close: dataDay === null ? null : closeOf(dataDay),
    placedAt,
    ...sorted(placedAt),
    get allLinks() {
      return (allLinks ??= placeLinks(network, placedAt));
    },
    get links() {
      return (links ??= this.allLinks.filter(({ to }) => to.isOpen));
    },
    assignments: assignmentsByActivity(plan),
  };
}

const dayOf = ({ project }: PlanBundle): EpochDay | null =>
  project.dataDate === undefined ? null : parseDate(project.dataDate)!;

function sorted(placedAt: readonly (Placed | null)[]): Pick<Ground, "scheduled" | "open" | "due"> {
  const [scheduled, open, due]: [Placed[], Placed[], Placed[]] = [[], [], []];
  for (const placed of placedAt) {
    if (placed === null) continue;
    scheduled.push(placed);
    if (placed.isOpen) open.push(placed);
    if (placed.isDue) due.push(placed);
  }
  return { scheduled, open, due };
}

/** Tells what was to be finished by the close of a data date. */
function duenessAt(dataDay: EpochDay | null) {
  // Instants as text come in their own order.
  const close = dataDay === null ? "" : formatInstant(closeOf(dataDay));
  return (approved: BaselineRow | null, row: ScheduledActivity, activity: Activity): boolean =>
    approved !== null &&
    activity.dropped !== true &&
    (row.shownAsStart ? approved.finish < close : approved.finish <= close);
}

function placeAll(
  plan: PlanBundle,
  { network, rows }: Schedule,
  baseline: BaselineContent | null,
  before: Ground | undefined,
): (Placed | null)[] {
  const approved = approvedById(baseline?.activities ?? NO_ROWS);
  const isDue = duenessAt(dayOf(plan));
  const isSameDay = before?.plan.project.dataDate === plan.project.dataDate;
  const isSameBaseline = before !== undefined && before.baseline?.activities === baseline?.activities;
  const from = before === undefined ? null : succession(before.plan.activities, plan.activities).from;
  return plan.activities.map((activity, at) => {
    const node = network.nodeOf[at]!;
    if (node < 0) return null;
    const row = rows[at]!;
    const calendar = network.calendars[network.calendarOf[node]!]!;
    const was = from === null ? null : (before!.placedAt[from[at]!] ?? null);
    if (
      isSameBaseline &&
      isSameDay &&
      was !== null &&
      was.at === at &&
      was.row === row &&
      was.activity === activity &&
      was.calendar === calendar
    )
      return was;
    const approvedRow = isSameBaseline && was !== null ? was.approved : (approved.get(activity.id) ?? null);
    return {
      at,
      activity,
      row,
      calendar,
      approved: approvedRow,
      isWork: network.kind[node] === WORK,
      isOpen: row.state !== "complete",
      isDue: isDue(approvedRow, row, activity),
    };
  });
}

const NO_ROWS: readonly BaselineRow[] = [];
const approvedById = remembered(
  (rows: readonly BaselineRow[]): ReadonlyMap<string, BaselineRow> => new Map(rows.map((row) => [row.id, row])),
);

function placeLinks(network: Network, placedAt: readonly (Placed | null)[]): PlacedLink[] {
  const links: PlacedLink[] = [];
  for (let node = 0; node < network.count; node++)
    for (let l = network.inStart[node]!; l < network.inStart[node + 1]!; l++)
      links.push(placedLink(network, placedAt, l, node));
  return links;
}

const placedLink = (
  { activityOf, inLinks, inRow, linkRows }: Network,
  placedAt: readonly (Placed | null)[],
  link: number,
  to: number,
): PlacedLink => ({
  link: linkRows[inRow[link]!]!,
  from: placedAt[activityOf[inLinks.other[link]!]!]!,
  to: placedAt[activityOf[to]!]!,
});

/**
 * Open activities of which something is true of their node, in the plan's order, and how many are open. Columns are
 * read, not objects: all of a plan is counted whenever one changes.
 */
export function openThat(
  { plan, schedule: { network }, placedAt }: Ground,
  is: (node: number) => boolean,
): { readonly found: readonly Placed[]; readonly outOf: number } {
  const found: Placed[] = [];
  let outOf = 0;
  for (let at = 0; at < plan.activities.length; at++) {
    const node = network.nodeOf[at]!;
    if (node < 0 || network.state[node] === COMPLETE) continue;
    outOf++;
    if (is(node)) found.push(placedAt[at]!);
  }
  return { found, outOf };
}

/** A link by its place among the network's links in, and the node that it leads to. */
export interface LinkAt {
  readonly link: number;
  readonly to: number;
}

/** Links to what is open of which something is true by their place, and how many lead to what is open. */
export function linksThat({ schedule: { network } }: Ground, is: (link: number) => boolean) {
  const found: LinkAt[] = [];
  let outOf = 0;
  for (let to = 0; to < network.count; to++) {
    if (network.state[to] === COMPLETE) continue;
    const last = network.inStart[to + 1]!;
    outOf += last - network.inStart[to]!;
    for (let link = network.inStart[to]!; link < last; link++) if (is(link)) found.push({ link, to });
  }
  return { found, outOf };
}

/** The two ends of a link. */
export const placedLinkAt = ({ schedule: { network }, placedAt }: Ground, { link, to }: LinkAt): PlacedLink =>
  placedLink(network, placedAt, link, to);

/** The length that an activity was planned with, in minutes of its calendar: from start to finish where its people decide it. */
export function plannedMinutes({ assignments }: Ground, { activity, row, calendar }: Placed): number {
  const byEffort = activity.driver === "effort" && assignments.has(activity.id);
  if (!byEffort && activity.durationMinutes !== undefined) return activity.durationMinutes;
  return calendar.indexAt(row.finish) - calendar.indexAt(row.start);
}

/** Days of an activity's calendar, as a word to read: `52.5 d`. */
export const inDays = (minutes: number, { calendar }: Placed): string => dayWords(minutes / calendar.dayMinutes);
