import { LiveDates } from "../network/liveDates.ts";
import { NodeOutsideHorizon } from "../network/forwardPass.ts";
import { OutsideHorizon } from "../time/workCalendar.ts";
import { earlyFinish, schedulePlan, type Schedule } from "../network/schedule.ts";
import type { Activity, Assignment, PlanBundle } from "../plan/schema.ts";
import { planTree } from "../plan/planTree.ts";
import { PlanProblems } from "../plan/problem.ts";
import { compileCalendars } from "../plan/compileCalendars.ts";
import { finishDayOf, formatDate, type LocalMinute, localMinute } from "../time/instant.ts";
import { bundleOf, Draft, workKey } from "./ledgerDraft.ts";
import { type DriftGroup, type Step } from "./ledgerSteps.ts";

/** Where the target finishes: an activity, or the project where it is `null`; `shown` is `YYYY-MM-DD`. */
export function finishIn(
  plan: PlanBundle,
  target: string | null,
): { schedule: Schedule; at: LocalMinute | null; shown: string | null } {
  const schedule = schedulePlan(plan);
  if (target === null)
    return {
      schedule,
      at: schedule.finish,
      shown: schedule.finish === null ? null : formatDate(finishDayOf(schedule.finish)),
    };
  const row = schedule.rows[planTree(plan.activities).indexOf.get(target) ?? -1] ?? null;
  return { schedule, at: row?.finish ?? null, shown: row === null ? null : formatDate(row.finishDay) };
}

/** Where a date lies in a plan between two states; `null` where it has none or the plan cannot be computed. */
function placeIn(plan: PlanBundle, target: string | null): LocalMinute | null {
  try {
    const kind = target === null ? "work" : plan.activities.find(({ id }) => id === target)?.kind;
    // What spans or sums up others has no place of its own in the network.
    return kind === "summary" || kind === "levelOfEffort"
      ? finishIn(plan, target).at
      : earlyFinish(plan, target, compileCalendars(plan.calendars).set);
  } catch (error) {
    if (!(error instanceof PlanProblems)) throw error;
    return null;
  }
}

type IndexOf = (at: LocalMinute) => number;

/** The work on an activity as a plan has it. */
const workOf = (draft: Draft, activity: string): Assignment[] =>
  [...draft.tables.assignments.values()].filter((row) => row.activity === activity);

/** A plan that takes changes of single activities one after another, and where a date lies in it. */
export class Walk {
  private live: LiveDates | null = null;

  /** @param at where the date lies in the plan as it is given */
  constructor(
    readonly draft: Draft,
    private readonly target: string | null,
    private readonly indexOf: IndexOf,
    private at: number,
  ) {}

  /**
   * Takes a step over; gives where the date lies then. Where it is away for a moment, or cannot be computed, it counts
   * as where it was.
   */
  take(step: Step): number {
    step.take(this.draft);
    if (this.live === null || !this.rewrite(this.draft.get("activities", step.id), this.draft)) this.build();
    const finish = this.live?.finishOf(this.target) ?? null;
    if (finish !== null) this.at = this.indexOf(localMinute(finish));
    return this.at;
  }

  /** What a step would move by itself, the plan staying as it is; `null` where that cannot be told. */
  alone(step: Step): number | null {
    if (this.live === null) this.build();
    const row = this.draft.get("activities", step.id);
    const was = this.live?.finishOf(this.target) ?? null;
    if (row === undefined || was === null) return null;
    const own = new Map(workOf(this.draft, row.id).map((work) => [workKey(work), work]));
    const trial = new Draft(this.draft.project, {
      ...this.draft.tables,
      activities: new Map([[row.id, row]]),
      assignments: own,
    });
    step.take(trial);
    const at = this.rewrite(trial.get("activities", step.id), trial) ? this.live!.finishOf(this.target) : null;
    if (this.live !== null) this.rewrite(row, this.draft);
    return at === null ? null : this.indexOf(localMinute(at)) - this.indexOf(localMinute(was));
  }

  private rewrite(row: Activity | undefined, draft: Draft): boolean {
    if (row === undefined || this.live === null) return false;
    try {
      return this.live.rewrite(row, workOf(draft, row.id));
    } catch (error) {
      if (!(error instanceof OutsideHorizon)) throw error;
      this.live = null;
      return false;
    }
  }

  private build(): void {
    const plan = bundleOf(this.draft);
    try {
      this.live = new LiveDates(plan, compileCalendars(plan.calendars).set);
    } catch (error) {
      if (!(error instanceof PlanProblems || error instanceof NodeOutsideHorizon)) throw error;
      this.live = null;
    }
  }
}

/**
 * Groups whose steps are matters of one activity each, told one by one; of the others runs that together move nothing
 * are not taken apart.
 */
export const OF_ONE: ReadonlySet<DriftGroup> = new Set(["progress", "work", "wishes"]);
/** Of groups with more steps than this, only what moved the date is tried by itself. */
const TRIED_ALONE = 40;

/** What a ledger is made with. */
export interface Making {
  readonly target: string | null;
  readonly indexOf: IndexOf;
  readonly dayMinutes: number;
  /** Spans and sums have no place of their own in the network: for them everything is worked out anew. */
  readonly isSpan: boolean;
}

/** What was expected of an activity's progress, and what came. */
export type Told = Pick<DriftCause, "expected" | "came">;
/** Of causes that are no progress. */
export const NOTHING_TOLD: Told = { expected: null, came: null };

/** One cause: the step, and by how many working days it moved the target. */
export const causeOf = (
  { group, kind, id, name, reason = null }: Step,
  days: number,
  alone: number | null,
  told: Told = NOTHING_TOLD,
): DriftCause => ({ group, kind, id, name, days, alone, reason, ...told });

/** Where the date lies in a plan, as an index; the one before where it has none. */
export function indexIn(draft: Draft, { target, indexOf }: Making, otherwise: number): number {
  const at = placeIn(bundleOf(draft), target);
  return at === null ? otherwise : indexOf(at);
}

/** Steps one after another, each credited with what it moved, and beside it what it would have moved by itself. */
export function walked(
  steps: readonly Step[],
  draft: Draft,
  aside: Walk,
  at: number,
  making: Making,
  toldOf: (step: Step) => Told,
  onStep: () => void,
): { causes: DriftCause[]; at: number } {
  const { dayMinutes } = making;
  const walk = new Walk(draft, making.target, making.indexOf, at);
  const causes: DriftCause[] = [];
  let now = at;
  for (const step of steps) {
    onStep();
    const then = walk.take(step);
    const alone = step.kind === "activity" ? aside.alone(step) : null;
    if (then !== now || (alone ?? 0) !== 0)
      causes.push(causeOf(step, (then - now) / dayMinutes, alone === null ? null : alone / dayMinutes, toldOf(step)));
    now = then;
  }
  return { causes, at: now };
}

/**
 * Steps of which runs that together move nothing are not taken apart, so that only what counts is looked at one by one.
 */
export function bisected(
  steps: readonly Step[],
  draft: Draft,
  aside: Draft,
  at: number,
  making: Making,
  onStep: () => void,
): { causes: DriftCause[]; at: number } {
  const causes: DriftCause[] = [];
  const base = indexIn(aside, making, at);
  const aloneOf = (step: Step): number | null => {
    // What came or went is linked as those that came before it left it: by itself it would not be the same.
    if (step.group === "scope") return null;
    const trial = new Draft(aside.project, aside.tables);
    step.take(trial);
    return (indexIn(trial, making, base) - base) / making.dayMinutes;
  };
  let standing = { count: 0, draft: new Draft(draft.project, draft.tables) };
  const draftAfter = (count: number): Draft => {
    const next = new Draft(standing.draft.project, standing.draft.tables);
    for (const step of steps.slice(standing.count, count)) step.take(next);
    return next;
  };
  const known = new Map<number, number>([[0, at]]);
  const placeAfter = (count: number): number => {
    const found = known.get(count);
    if (found !== undefined) return found;
    // Half of a change may be a loop: then the step that mends it is credited.
    const place = placeIn(bundleOf(draftAfter(count)), making.target);
    const index = place === null ? placeAfter(count - 1) : making.indexOf(place);
    known.set(count, index);
    return index;
  };
  const credit = (low: number, high: number): void => {
    if (low > standing.count) standing = { count: low, draft: draftAfter(low) };
    if (high - low === 1) {
      onStep();
      const days = (placeAfter(high) - placeAfter(low)) / making.dayMinutes;
      const alone = days !== 0 || steps.length <= TRIED_ALONE ? aloneOf(steps[low]!) : null;
      if (days !== 0 || (alone ?? 0) !== 0) causes.push(causeOf(steps[low]!, days, alone));
      return;
    }
    if (steps.length > TRIED_ALONE && placeAfter(low) === placeAfter(high)) return;
    const middle = (low + high) >> 1;
    credit(low, middle);
    credit(middle, high);
  };
  if (steps.length > 0) credit(0, steps.length);
  const end = placeAfter(steps.length);
  for (const step of steps) step.take(draft);
  return { causes, at: end };
}

/** A cause of a drift: what changed, by name, and the working days that it moved the date; later is positive. */
export interface DriftCause {
  readonly group: DriftGroup;
  readonly kind: Step["kind"];
  readonly id: string;
  readonly name: string;
  readonly days: number;
  /** What it would have moved by itself; `null` where that is not worked out. */
  readonly alone: number | null;
  /** Of progress: what was expected of the activity, and what came. */
  readonly expected: Progressed | null;
  readonly came: Progressed | null;
  /** Of a date wish: why, as it was said. */
  readonly reason: string | null;
}

/**
 * What was forecast of an activity for the later data date, or what came; dates as shown, what is left in its working
 * days.
 */
export interface Progressed {
  readonly what: "finished" | "underWay" | "notBegun";
  readonly start: string;
  readonly finish: string;
  readonly leftDays: number;
}
