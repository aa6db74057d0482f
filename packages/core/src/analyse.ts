import { freezePlan } from "./baseline/freeze.ts";
import { deadlineStandings, type DeadlineStanding } from "./drift/deadlines.ts";
import { slipsAgainst } from "./drift/slip.ts";
import { schedulePlan, type Schedule } from "./network/schedule.ts";
import type { ActivityState } from "./network/scheduledActivity.ts";
import type { Figures } from "./performance/figures.ts";
import type { EarnedSchedule, PeriodKind } from "./performance/earnedSchedule.ts";
import { measurePerformance, type Performance } from "./performance/performance.ts";
import type { BaselineContent } from "./performance/plannedValue.ts";
import type { PlanBundle } from "./plan/schema.ts";
import { printChecks, type PrintedCheck } from "./quality/measureChecks.ts";
import { formatDate, formatInstant } from "./time/instant.ts";

/** One activity's dates as printed: instants `YYYY-MM-DDTHH:MM`, dates `YYYY-MM-DD`. */
export interface PrintedActivity {
  readonly start: string;
  readonly finish: string;
  readonly startDate: string;
  readonly finishDate: string;
  readonly lateStart: string | null;
  readonly lateFinish: string | null;
  readonly totalFloatMinutes: number | null;
  readonly freeFloatMinutes: number | null;
  readonly critical: boolean;
  readonly state: ActivityState;
}

export interface PrintedSlip {
  readonly baselineFinish: string;
  readonly finish: string;
  readonly workingDays: number;
  readonly calendarDays: number;
}

/** Everything that can be computed from a plan, in the shape of plan-bundle.md's `analyse`. */
export interface Analysis {
  readonly schedule: {
    readonly finish: string | null;
    readonly critical: string[];
    readonly longestPath: string[];
    readonly unscheduled: string[];
    readonly activities: Record<string, PrintedActivity>;
  };
  readonly performance: null | {
    readonly asOf: string;
    readonly baseline: number | "frozen";
    readonly project: Figures;
    readonly activities: Record<string, Figures>;
    readonly unbaselined: string[];
    readonly earnedSchedule: EarnedSchedule;
  };
  readonly slippage: null | Record<string, PrintedSlip>;
  readonly deadlines: Record<string, DeadlineStanding>;
  readonly quality: { readonly checks: PrintedCheck[] };
}

export interface AnalyseOptions {
  /** The number of the baseline compared against, or the plan itself as one; by default the highest number. */
  readonly baseline?: number | "frozen";
  readonly period?: PeriodKind;
}

/** An object that holds any string as its own key, `__proto__` too. */
const record = <T>(): Record<string, T> => Object.create(null) as Record<string, T>;

/** The baseline that is compared against; `null` where the plan has none. */
export function chosenBaseline(
  plan: PlanBundle,
  choice: AnalyseOptions["baseline"],
): { label: number | "frozen"; content: BaselineContent } | null {
  if (choice === "frozen") return { label: "frozen", content: freezePlan(plan) };
  const all = plan.baselines ?? [];
  const wanted = choice ?? all.reduce((most, baseline) => Math.max(most, baseline.number), 0);
  const content = all.find((baseline) => baseline.number === wanted);
  return content === undefined ? null : { label: wanted, content };
}

/** A plan's dates and figures as values, before anything is printed. */
export interface Computed {
  readonly plan: PlanBundle;
  readonly schedule: Schedule;
  readonly baseline: ReturnType<typeof chosenBaseline>;
  readonly performance: Performance | null;
}

/**
 * Computes dates and figures of a checked plan.
 * @param before what was computed of a plan that it came of: only what moves is computed anew, and rows that say the
 * same are the same objects
 * @throws {PlanProblems} where it cannot be computed: a loop, or dates outside the horizon
 */
export function computePlan(plan: PlanBundle, options: AnalyseOptions = {}, before?: Computed): Computed {
  const schedule = schedulePlan(plan, before);
  const baseline = chosenBaseline(plan, options.baseline);
  if (baseline === null || plan.project.dataDate === undefined) return { plan, schedule, baseline, performance: null };
  const { period = "workday" } = options;
  const performance = measurePerformance(plan, schedule, baseline.content, period, before);
  return { plan, schedule, baseline, performance };
}

/**
 * The one door: a checked bundle in, every figure out.
 * @throws {PlanProblems} as `computePlan`
 */
export function analyse(plan: PlanBundle, options: AnalyseOptions = {}): Analysis {
  const { schedule, baseline, performance } = computePlan(plan, options);
  const idAt = (i: number): string => plan.activities[i]!.id;
  return {
    schedule: printSchedule(plan, schedule),
    performance:
      performance === null
        ? null
        : {
            asOf: performance.asOf,
            baseline: baseline!.label,
            project: performance.project,
            activities: printFigures(plan, performance),
            unbaselined: performance.unbaselined.map(idAt),
            earnedSchedule: performance.earnedSchedule,
          },
    slippage: baseline === null ? null : printSlips(plan, schedule, baseline.content),
    deadlines: toRecord(deadlineStandings(plan, schedule)),
    quality: { checks: printChecks(plan, schedule, baseline?.content ?? null) },
  };
}

function printSchedule(plan: PlanBundle, schedule: Schedule): Analysis["schedule"] {
  const activities = record<PrintedActivity>();
  const critical: string[] = [];
  const path: string[] = [];
  plan.activities.forEach(({ id }, i) => {
    const row = schedule.rows[i];
    if (row == null) return;
    if (row.critical) critical.push(id);
    if (row.longestPath) path.push(id);
    activities[id] = {
      start: formatInstant(row.start),
      finish: formatInstant(row.finish),
      startDate: formatDate(row.startDay),
      finishDate: formatDate(row.finishDay),
      lateStart: row.lateStart === null ? null : formatInstant(row.lateStart),
      lateFinish: row.lateFinish === null ? null : formatInstant(row.lateFinish),
      totalFloatMinutes: row.totalFloat,
      freeFloatMinutes: row.freeFloat,
      critical: row.critical,
      state: row.state,
    };
  });
  return {
    finish: schedule.finish === null ? null : formatInstant(schedule.finish),
    critical,
    longestPath: path,
    unscheduled: schedule.unscheduled.map((i) => plan.activities[i]!.id),
    activities,
  };
}

function printFigures(plan: PlanBundle, performance: Performance): Record<string, Figures> {
  const printed = record<Figures>();
  plan.activities.forEach(({ id }, i) => {
    const figures = performance.activities[i];
    if (figures != null) printed[id] = figures;
  });
  for (const [id, figures] of performance.left) printed[id] = figures;
  return printed;
}

function printSlips(plan: PlanBundle, schedule: Schedule, baseline: BaselineContent): Record<string, PrintedSlip> {
  const printed = record<PrintedSlip>();
  for (const [id, slip] of slipsAgainst(plan, schedule, baseline)) {
    printed[id] = {
      baselineFinish: formatDate(slip.baselineFinishDay),
      finish: formatDate(slip.finishDay),
      workingDays: slip.workingDays,
      calendarDays: slip.calendarDays,
    };
  }
  return printed;
}

function toRecord<T>(map: ReadonlyMap<string, T>): Record<string, T> {
  const printed = record<T>();
  for (const [key, value] of map) printed[key] = value;
  return printed;
}
