import { NO_MONEY, plus } from "../budget/money.ts";
import { NOTHING, type Share } from "../budget/exact.ts";
import type { Schedule } from "../network/schedule.ts";
import { earningOrder } from "../plan/check/apportion.ts";
import { succession } from "../plan/derived/succession.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { closeOf, parseDate } from "../time/instant.ts";
import { earnedSchedule, type EarnedSchedule, type PeriodKind } from "./earnedSchedule.ts";
import { addSums, figuresOf, NO_SUMS, type Figures, type Sums } from "./figures.ts";
import { leafSums, leavesBefore, plannedAt, spentOn, type Leaf, type Measured, type Measuring } from "./leafSums.ts";
import { plannedRows, plannedValueAt, type BaselineContent } from "./plannedValue.ts";

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

/** What each was worked out of. */
const measuredFor = new WeakMap<Performance, Measured>();

/** A plan that was measured. */
export interface MeasuredBefore {
  readonly plan: PlanBundle;
  readonly performance: Performance | null;
}

/**
 * Earned value of a plan against a baseline, at the close of its data date (calculations.md section 4).
 * @param plan a checked plan with a data date
 * @param schedule what `schedulePlan` gave for it
 * @param baseline the baseline compared against
 * @param before a plan that it came of: what it was measured with is taken again where nothing of it changed, and
 * figures that say the same are the same objects
 */
export function measurePerformance(
  plan: PlanBundle,
  schedule: Schedule,
  baseline: BaselineContent,
  period: PeriodKind,
  before?: MeasuredBefore,
): Performance {
  const asOf = plan.project.dataDate!;
  const rows = plannedRows(plan, baseline, schedule.tree.parked);
  const was = before?.performance ?? undefined;
  const { sums, project, measured } = sumsByActivity({ plan, schedule, rows, asOf }, was && measuredFor.get(was));
  const left = leftOf(measured, was);
  const total = [...left.values()].reduce(addSums, project);
  const former = figuresBefore(plan, before);
  const calendar = schedule.calendars.get(plan.project.calendar);
  const performance = {
    asOf,
    project: figuresOf(total),
    activities: sums.map((own, i) => (own === null ? null : figuresLike(own, former(i)))),
    left,
    unbaselined: unbaselinedOf(measured),
    earnedSchedule: earnedSchedule(rows, calendar, period, parseDate(asOf)!, total.ev),
  };
  measuredFor.set(performance, measured);
  return performance;
}

/** Gives the figures of an activity before, by its position now. */
function figuresBefore(plan: PlanBundle, before: MeasuredBefore | undefined): (i: number) => Figures | null {
  if (before === undefined || before.performance === null) return () => null;
  const { activities } = before.performance;
  const { from } = succession(before.plan.activities, plan.activities);
  return (i) => activities[from[i]!] ?? null;
}

/** What has left the plan, by id. */
function leftOf({ plan, schedule, rows, asOf }: Measured, was: Performance | undefined): ReadonlyMap<string, Figures> {
  const before = was && measuredFor.get(was);
  if (before?.rows === rows && before.asOf === asOf) {
    const { gone, changed } = succession(before.plan.activities, plan.activities);
    if (gone.length === 0 && !changed.some((i) => was!.left.has(plan.activities[i]!.id))) return was!.left;
  }
  const close = closeOf(parseDate(asOf)!);
  const left = new Map<string, Figures>();
  for (const planned of rows)
    if (!schedule.tree.indexOf.has(planned.row.id))
      left.set(planned.row.id, figuresOf({ ...NO_SUMS, bac: planned.budget, pv: plannedValueAt(planned, close) }));
  return left;
}

/** Positions of scheduled work, milestones and levelOfEffort without a baseline row. */
function unbaselinedOf({ plan, schedule, planned }: Measured): number[] {
  const found: number[] = [];
  for (let i = 0; i < planned.length; i++)
    if (planned[i] === undefined && schedule.rows[i] != null && plan.activities[i]!.kind !== "summary") found.push(i);
  return found;
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
  const { leaves } = sumsByActivity({ plan, schedule, rows, asOf }, undefined).measured;
  return plan.activities.map((_, i) => {
    const leaf = leaves[i];
    return leaf === undefined ? null : { people: leaf.people, rest: leaf.sums.eacBottomUp - leaf.people };
  });
}

/** The sums of every unparked activity, summaries rolled up, and of the project without what left the plan. */
function sumsByActivity(
  measuring: Measuring,
  before: Measured | undefined,
): { sums: (Sums | null)[]; project: Sums; measured: Measured } {
  const { plan, schedule } = measuring;
  const { activities } = plan;
  const { indexOf, parentOf, parked } = schedule.tree;
  const ordered = earningOrder(activities, schedule.tree);
  if ("loop" in ordered) throw new Error("a loop of apportioned activities passed the checks");
  const planned = plannedAt(measuring, before);
  const spent = spentOn(measuring, before);
  const leafBefore = leavesBefore(measuring, planned, before);
  const leafOf = leafSums(measuring, planned, spent);
  const sums = new Array<Sums | null>(activities.length).fill(null);
  const leaves = new Array<Leaf | undefined>(activities.length).fill(undefined);
  const shareOf = (i: number): Share => {
    const own = sums[i];
    if (own == null) return NOTHING;
    return leaves[i]?.earned ?? (own.bac === 0 ? NOTHING : { part: own.ev, whole: own.bac });
  };
  const above = new Map<number, Summed>();
  const project = new Summed();
  for (let k = 0; k < ordered.order.length; k++) {
    const i = ordered.order[k]!;
    const activity = activities[i]!;
    if (parked.has(activity.id)) continue;
    if (activity.kind === "summary") sums[i] = above.get(i)?.sums ?? NO_SUMS;
    else {
      const leaf = leafBefore(i) ?? leafOf(i, () => shareOf(indexOf.get(activity.credit!.to!)!));
      leaves[i] = leaf;
      sums[i] = leaf.sums;
    }
    const parent = parentOf[i]!;
    if (parent < 0) project.add(sums[i]!);
    else {
      const over = above.get(parent) ?? new Summed();
      above.set(parent, over);
      over.add(sums[i]!);
    }
  }
  return { sums, project: project.sums, measured: { ...measuring, planned, leaves, spent } };
}

/** Sums being added up, without an object for each of very many. */
class Summed {
  private bac = NO_MONEY;
  private pv = NO_MONEY;
  private ev = NO_MONEY;
  private ac = NO_MONEY;
  private eacBottomUp = NO_MONEY;

  add(own: Sums): void {
    this.bac = plus(this.bac, own.bac);
    this.pv = plus(this.pv, own.pv);
    this.ev = plus(this.ev, own.ev);
    this.ac = plus(this.ac, own.ac);
    this.eacBottomUp = plus(this.eacBottomUp, own.eacBottomUp);
  }

  get sums(): Sums {
    const { bac, pv, ev, ac, eacBottomUp } = this;
    return { bac, pv, ev, ac, eacBottomUp };
  }
}
