import { minorUnits, NO_MONEY } from "../budget/money.ts";
import { NOTHING, takeShare, type Share } from "../budget/exact.ts";
import { rateBook } from "../budget/rates.ts";
import { assignmentsByActivity, stateOf } from "../network/buildNetwork.ts";
import { COMPLETE, NOT_STARTED } from "../network/network.ts";
import type { Schedule } from "../network/schedule.ts";
import type { CostLine, PlanBundle } from "../plan/schema.ts";
import { closeOf, formatDate, parseDate } from "../time/instant.ts";
import { earningOrder } from "../plan/check/apportion.ts";
import { actualCosts, linesToCome, timeAhead, workToCome } from "./cost.ts";
import { earnedShare } from "./credit.ts";
import { earnedSchedule, type EarnedSchedule, type PeriodKind } from "./earnedSchedule.ts";
import { addSums, figuresOf, NO_SUMS, type Figures, type Sums } from "./figures.ts";
import { plannedById, plannedRows, plannedValueAt, type BaselineContent, type PlannedRow } from "./plannedValue.ts";

export interface Performance {
  /** The data date, `YYYY-MM-DD`. */
  readonly asOf: string;
  readonly project: Figures;
  /** By position in the plan's activities; `null` where parked. Summaries are rolled up. */
  readonly activities: readonly (Figures | null)[];
  /** Baselined activities that have left the plan, by id. */
  readonly left: ReadonlyMap<string, Figures>;
  /** Positions of scheduled work, milestones and levelOfEffort without a baseline row. */
  readonly unbaselined: readonly number[];
  readonly earnedSchedule: EarnedSchedule;
}

/**
 * Earned value of a plan against a baseline, at the close of its data date (calculations.md section 4).
 * @param plan a checked plan with a data date
 * @param schedule what `schedulePlan` gave for it
 * @param baseline the baseline compared against
 * @param former figures of an activity before, by its position: they are taken again where its sums are the same
 */
export function measurePerformance(
  plan: PlanBundle,
  schedule: Schedule,
  baseline: BaselineContent,
  period: PeriodKind,
  former: (position: number) => Figures | null = () => null,
): Performance {
  const asOf = plan.project.dataDate!;
  const rows = plannedRows(plan, baseline, schedule.tree.parked);
  const byId = plannedById(rows);
  const { sums, project: planned } = sumsByActivity(plan, schedule, byId, asOf);
  const { indexOf } = schedule.tree;
  const left = new Map<string, Figures>();
  let project = planned;
  for (const row of rows) {
    if (indexOf.has(row.row.id)) continue;
    const own = { ...NO_SUMS, bac: row.budget, pv: plannedValueAt(row, closeOf(parseDate(asOf)!)) };
    left.set(row.row.id, figuresOf(own));
    project = addSums(project, own);
  }
  const unbaselined: number[] = [];
  plan.activities.forEach((activity, i) => {
    if (schedule.rows[i] != null && activity.kind !== "summary" && !byId.has(activity.id)) unbaselined.push(i);
  });
  const calendar = schedule.calendars.get(plan.project.calendar);
  return {
    asOf,
    project: figuresOf(project),
    activities: sums.map((own, i) => (own === null ? null : figuresLike(own, former(i)))),
    left,
    unbaselined,
    earnedSchedule: earnedSchedule(rows, calendar, period, parseDate(asOf)!, project.ev),
  };
}

/** Figures of sums; those from before where the sums are the same. */
const figuresLike = (sums: Sums, former: Figures | null): Figures =>
  former !== null &&
  former.bac === sums.bac &&
  former.pv === sums.pv &&
  former.ev === sums.ev &&
  former.ac === sums.ac &&
  former.eacBottomUp === sums.eacBottomUp
    ? former
    : figuresOf(sums);

/** An activity's cost at completion by the bottom-up estimate, split: what its people have left to do, and all else. */
export interface BottomUp {
  readonly people: number;
  readonly rest: number;
}

/**
 * The cost at completion of each activity that is no summary, by position in the plan; `null` where it is parked or a
 * summary. Together it is the project's `eacBottomUp`.
 * @param baseline the baseline compared against, if any: what level of effort earns rests on it
 * @param asOf the data date, `YYYY-MM-DD`
 */
export function bottomUpByActivity(
  plan: PlanBundle,
  schedule: Schedule,
  baseline: BaselineContent | null,
  asOf: string,
): (BottomUp | null)[] {
  const rows = baseline === null ? [] : plannedRows(plan, baseline, schedule.tree.parked);
  const { sums, people } = sumsByActivity(plan, schedule, plannedById(rows), asOf);
  return plan.activities.map(({ kind }, i) => {
    const own = sums[i];
    return kind === "summary" || own == null ? null : { people: people[i]!, rest: own.eacBottomUp - people[i]! };
  });
}

/**
 * The sums of every unparked activity, summaries rolled up, and of the project without what left the plan; and what
 * people have left to do.
 */
function sumsByActivity(
  plan: PlanBundle,
  schedule: Schedule,
  planned: ReadonlyMap<string, PlannedRow>,
  asOf: string,
): { sums: (Sums | null)[]; project: Sums; people: number[] } {
  const { activities } = plan;
  const { indexOf, parentOf, parked } = schedule.tree;
  const ordered = earningOrder(activities, schedule.tree);
  if ("loop" in ordered) throw new Error("a loop of apportioned activities passed the checks");
  const leaf = leafSums(plan, schedule, planned, asOf);
  const sums: (Sums | null)[] = activities.map(() => null);
  const shares: Share[] = [];
  const people: number[] = [];
  let project = NO_SUMS;
  for (let k = 0; k < ordered.order.length; k++) {
    const i = ordered.order[k]!;
    const activity = activities[i]!;
    if (parked.has(activity.id)) continue;
    if (activity.kind === "summary") sums[i] ??= NO_SUMS;
    else {
      const own = leaf(i, () => shares[indexOf.get(activity.credit!.to!)!] ?? NOTHING);
      sums[i] = own.sums;
      shares[i] = own.earned;
      people[i] = own.people;
    }
    const own = sums[i]!;
    if (activity.kind === "summary") shares[i] = own.bac === 0 ? NOTHING : { part: own.ev, whole: own.bac };
    const parent = parentOf[i]!;
    if (parent >= 0) sums[parent] = addSums(sums[parent] ?? NO_SUMS, own);
    else project = addSums(project, own);
  }
  return { sums, project, people };
}

/** Gives the sums of one activity that is no summary, and the share it has earned. */
function leafSums(plan: PlanBundle, schedule: Schedule, planned: ReadonlyMap<string, PlannedRow>, asOf: string) {
  const close = closeOf(parseDate(asOf)!);
  const spent = actualCosts(plan, asOf);
  const ahead = new Map<string, number>();
  for (const { activity, costMinor } of timeAhead(plan, asOf))
    ahead.set(activity, (ahead.get(activity) ?? 0) + costMinor);
  const rates = rateBook(plan.people ?? []);
  const assignments = assignmentsByActivity(plan);
  const costs = new Map<string, CostLine[]>();
  for (const cost of plan.costs ?? []) costs.set(cost.activity, [...(costs.get(cost.activity) ?? []), cost]);
  return (i: number, followedShare: () => Share): { sums: Sums; earned: Share; people: number } => {
    const activity = plan.activities[i]!;
    const row = planned.get(activity.id);
    const bac = row?.budget ?? NO_MONEY;
    const pv = row === undefined ? NO_MONEY : plannedValueAt(row, close);
    const plannedShare = bac === 0 ? NOTHING : { part: pv, whole: bac };
    const earned = earnedShare(activity, { dataDate: asOf, plannedShare, followedShare });
    const ac = spent.get(activity.id) ?? NO_MONEY;
    const startDay = schedule.rows[i]?.startDay;
    const start = startDay === undefined ? asOf : formatDate(startDay);
    const state = stateOf(activity);
    const people = workToCome(activity, assignments.get(activity.id) ?? [], start > asOf ? start : asOf, rates);
    const lines = linesToCome(
      costs.get(activity.id) ?? [],
      state === COMPLETE ? "complete" : state === NOT_STARTED ? "notStarted" : "inProgress",
      earned,
    );
    return {
      sums: {
        bac,
        pv,
        ev: minorUnits(takeShare(bac, earned)),
        ac,
        eacBottomUp: minorUnits(ac + (ahead.get(activity.id) ?? 0) + people + lines),
      },
      earned,
      people,
    };
  };
}
