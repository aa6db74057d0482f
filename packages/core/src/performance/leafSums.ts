import { NOTHING, takeShare, type Share } from "../budget/exact.ts";
import { minorUnits, NO_MONEY, type MinorUnits } from "../budget/money.ts";
import { rateBook, type RateBook } from "../budget/rates.ts";
import { assignmentsByActivity, stateOf } from "../network/laid/nodeColumns.ts";
import { COMPLETE, NOT_STARTED } from "../network/laid/network.ts";
import type { Schedule } from "../network/schedule.ts";
import { remembered } from "../plan/derived/remembered.ts";
import { succession } from "../plan/derived/succession.ts";
import type { Assignment, CostLine, PlanBundle } from "../plan/schema.ts";
import { closeOf, formatDate, parseDate } from "../time/instant.ts";
import { actualCosts, linesToCome, timeAhead, workToCome } from "./cost.ts";
import { earnedShare } from "./credit.ts";
import type { Sums } from "./figures.ts";
import { plannedById, plannedValueAt, type PlannedRow } from "./plannedValue.ts";

/** What one activity that is no summary comes to. */
export interface Leaf {
  readonly sums: Sums;
  /** The share that it has earned. */
  readonly earned: Share;
  /** What its people have left to do costs, in minor units. */
  readonly people: number;
}

/** A plan as it is measured. */
export interface Measuring {
  readonly plan: PlanBundle;
  readonly schedule: Schedule;
  /** The baseline rows that count. */
  readonly rows: readonly PlannedRow[];
  /** The data date, `YYYY-MM-DD`. */
  readonly asOf: string;
}

/** A plan as it was measured, for one that comes of it. */
export interface Measured extends Measuring {
  /** By position in the plan's activities. */
  readonly planned: readonly (PlannedRow | undefined)[];
  readonly leaves: readonly (Leaf | undefined)[];
  readonly spent: ReadonlyMap<string, MinorUnits>;
}

/** What is spent by activity: taken from before where nothing of it changed. */
export function spentOn({ plan, asOf }: Measuring, before: Measured | undefined): ReadonlyMap<string, MinorUnits> {
  const isSame =
    before !== undefined &&
    before.asOf === asOf &&
    (["people", "timeEntries", "actualCosts"] as const).every((table) => before.plan[table] === plan[table]);
  return isSame ? before.spent : actualCosts(plan, asOf);
}

/** The baseline row of each activity, by position. */
export function plannedAt(
  { plan, rows }: Measuring,
  before: Measured | undefined,
): readonly (PlannedRow | undefined)[] {
  const byId = plannedById(rows);
  if (before === undefined || before.rows !== rows) return plan.activities.map(({ id }) => byId.get(id));
  const { from, inPlace } = succession(before.plan.activities, plan.activities);
  if (inPlace) return before.planned;
  return plan.activities.map(({ id }, i) => (from[i]! < 0 ? byId.get(id) : before.planned[from[i]!]));
}

/**
 * Gives what an activity came to before, by its position now, where nothing that it rests on is other than then.
 * @param planned the baseline rows by position
 */
export function leavesBefore(
  { plan, schedule, asOf }: Measuring,
  planned: readonly (PlannedRow | undefined)[],
  before: Measured | undefined,
): (i: number) => Leaf | undefined {
  if (before === undefined || before.asOf !== asOf || before.plan.people !== plan.people) return () => undefined;
  const { from } = succession(before.plan.activities, plan.activities);
  const told = toldOf(before.plan, plan);
  return (i) => {
    const was = from[i]!;
    const activity = plan.activities[i]!;
    const isSame =
      before.plan.activities[was] === activity &&
      before.schedule.rows[was] === schedule.rows[i] &&
      before.planned[was] === planned[i] &&
      activity.credit?.rule !== "apportioned" &&
      !told.has(activity.id);
    return isSame ? before.leaves[was] : undefined;
  };
}

/** Tables whose rows say something of the money of an activity. */
const ABOUT = ["assignments", "costs", "timeEntries", "actualCosts"] as const;

/** Activities of which such rows came, went or say something else. */
function toldOf(before: PlanBundle, after: PlanBundle): ReadonlySet<string> {
  const told = new Set<string>();
  for (const table of ABOUT) {
    const [was, now] = [before[table] ?? NOTHING_SAID, after[table] ?? NOTHING_SAID];
    if (was === now) continue;
    const { changed, gone } = succession(was, now);
    for (const at of changed) told.add(now[at]!.activity);
    for (const at of gone) told.add(was[at]!.activity);
  }
  return told;
}

const NOTHING_SAID: readonly never[] = [];

const linesByActivity = remembered((costs: readonly CostLine[]) => {
  const lines = new Map<string, CostLine[]>();
  for (const cost of costs) {
    const own = lines.get(cost.activity);
    if (own === undefined) lines.set(cost.activity, [cost]);
    else own.push(cost);
  }
  return lines;
});

/** Gives what an activity that is no summary comes to, by its position and what that has earned which it follows. */
export function leafSums(
  { plan, schedule, asOf }: Measuring,
  planned: readonly (PlannedRow | undefined)[],
  spent: ReadonlyMap<string, MinorUnits>,
): (i: number, followedShare: () => Share) => Leaf {
  const around: Around = {
    asOf,
    ahead: aheadOn(plan, asOf),
    rates: rateBook(plan.people ?? []),
    assignments: assignmentsByActivity(plan),
    lines: linesByActivity(plan.costs ?? NOTHING_SAID),
  };
  const close = closeOf(parseDate(asOf)!);
  return (i, followedShare) => {
    const activity = plan.activities[i]!;
    const row = planned[i];
    const bac = row?.budget ?? NO_MONEY;
    const pv = row === undefined ? NO_MONEY : plannedValueAt(row, close);
    const plannedShare = bac === 0 ? NOTHING : { part: pv, whole: bac };
    const earned = earnedShare(activity, { dataDate: asOf, plannedShare, followedShare });
    const ac = spent.get(activity.id) ?? NO_MONEY;
    const { people, rest } = toCome(plan, schedule, i, earned, around);
    return {
      sums: { bac, pv, ev: minorUnits(takeShare(bac, earned)), ac, eacBottomUp: minorUnits(ac + people + rest) },
      earned,
      people,
    };
  };
}

/** What is read for what an activity will still cost. */
interface Around {
  readonly asOf: string;
  readonly ahead: ReadonlyMap<string, number>;
  readonly rates: RateBook;
  readonly assignments: ReadonlyMap<string, readonly Assignment[]>;
  readonly lines: ReadonlyMap<string, readonly CostLine[]>;
}

/** Time spent but not counted yet, in minor units by activity. */
function aheadOn(plan: PlanBundle, asOf: string): ReadonlyMap<string, number> {
  const ahead = new Map<string, number>();
  for (const { activity, costMinor } of timeAhead(plan, asOf))
    ahead.set(activity, (ahead.get(activity) ?? 0) + costMinor);
  return ahead;
}

/** What an activity will still cost: what its people have left to do, and all else. */
function toCome(
  { activities }: PlanBundle,
  schedule: Schedule,
  i: number,
  earned: Share,
  { asOf, ahead, rates, assignments, lines }: Around,
): { people: number; rest: number } {
  const activity = activities[i]!;
  const startDay = schedule.rows[i]?.startDay;
  const start = startDay === undefined ? asOf : formatDate(startDay);
  const state = stateOf(activity);
  const people = workToCome(activity, assignments.get(activity.id) ?? [], start > asOf ? start : asOf, rates);
  const due = linesToCome(
    lines.get(activity.id) ?? [],
    state === COMPLETE ? "complete" : state === NOT_STARTED ? "notStarted" : "inProgress",
    earned,
  );
  return { people, rest: (ahead.get(activity.id) ?? 0) + due };
}
