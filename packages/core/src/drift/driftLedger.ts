import { LiveDates } from "../network/liveDates.ts";
import { NodeOutsideHorizon } from "../network/forwardPass.ts";
import { OutsideHorizon } from "../time/workCalendar.ts";
import { earlyFinish, schedulePlan, type Schedule } from "../network/schedule.ts";
import type { Activity, Assignment, PlanBundle } from "../plan/schema.ts";
import { planTree } from "../plan/planTree.ts";
import { PlanProblems } from "../plan/problem.ts";
import { compileCalendars, type CalendarSet } from "../plan/compileCalendars.ts";
import {
  closeOf,
  finishDayOf,
  formatDate,
  type LocalMinute,
  localMinute,
  parseDate,
  startDayOf,
} from "../time/instant.ts";
import { asForecast, type Expected } from "./asForecast.ts";
import { bundleOf, Draft, draftOf, grouped, workKey } from "./ledgerDraft.ts";
import {
  DRIFT_GROUPS,
  progressDiffers,
  progressStep,
  revisionsBetween,
  type DriftGroup,
  type Step,
} from "./ledgerSteps.ts";

export { DRIFT_GROUPS, type DriftGroup };

/** What was forecast of an activity for the later data date, or what came; dates as shown, what is left in its working days. */
export interface Progressed {
  readonly what: "finished" | "underWay" | "notBegun";
  readonly start: string;
  readonly finish: string;
  readonly leftDays: number;
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

export interface DriftLedger {
  /** Dates as shown; `null` where there is none in that state. */
  readonly from: string | null;
  readonly to: string | null;
  /** Working days of the later state's project calendar: the sum of all causes. */
  readonly days: number;
  /** What moved the date or would have by itself, in the order in which it was applied. */
  readonly causes: readonly DriftCause[];
}

/** People and calendars that only the later plan has are put into the earlier one: unused there, they move nothing. */
function withNewResources(before: PlanBundle, after: PlanBundle): PlanBundle {
  const missing = <T extends { id: string }>(had: readonly T[], has: readonly T[]): T[] => [
    ...had,
    ...has.filter(({ id }) => had.every((each) => each.id !== id)),
  ];
  return {
    ...before,
    calendars: missing(before.calendars, after.calendars),
    people: missing(before.people ?? [], after.people ?? []),
  };
}

function finishIn(
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

/** Calendars as they were compiled last: most changes leave them as they are. */
type Compiled = { of: PlanBundle["calendars"] | null; set: CalendarSet };

function compiled(calendars: PlanBundle["calendars"], last: Compiled): CalendarSet {
  if (calendars !== last.of) Object.assign(last, { of: calendars, set: compileCalendars(calendars).set });
  return last.set;
}

/** Where a date lies in a plan between two states; `null` where it has none or the plan cannot be computed. */
function placeIn(plan: PlanBundle, target: string | null, last: Compiled): LocalMinute | null {
  try {
    const kind = target === null ? "work" : plan.activities.find(({ id }) => id === target)?.kind;
    // What spans or sums up others has no place of its own in the network.
    return kind === "summary" || kind === "levelOfEffort"
      ? finishIn(plan, target).at
      : earlyFinish(plan, target, compiled(plan.calendars, last));
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
class Walk {
  private live: LiveDates | null = null;

  /** @param at where the date lies in the plan as it is given */
  constructor(
    readonly draft: Draft,
    private readonly target: string | null,
    private readonly calendars: Compiled,
    private readonly indexOf: IndexOf,
    private at: number,
  ) {}

  /** Takes a step over; gives where the date lies then. Where it is away for a moment, or cannot be computed, it counts as where it was. */
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
      this.live = new LiveDates(plan, compiled(plan.calendars, this.calendars));
    } catch (error) {
      if (!(error instanceof PlanProblems || error instanceof NodeOutsideHorizon)) throw error;
      this.live = null;
    }
  }
}

/** Groups whose steps are matters of one activity each, told one by one; of the others runs that together move nothing are not taken apart. */
const OF_ONE: ReadonlySet<DriftGroup> = new Set(["progress", "work", "wishes"]);
/** Of groups with more steps than this, only what moved the date is tried by itself. */
const TRIED_ALONE = 40;

/** What a ledger is made with. */
interface Making {
  readonly target: string | null;
  readonly calendars: Compiled;
  readonly indexOf: IndexOf;
  readonly dayMinutes: number;
  /** Spans and sums have no place of their own in the network: for them everything is worked out anew. */
  readonly isSpan: boolean;
}

type Told = Pick<DriftCause, "expected" | "came">;
const NOTHING_TOLD: Told = { expected: null, came: null };

const causeOf = (
  { group, kind, id, name, reason = null }: Step,
  days: number,
  alone: number | null,
  told: Told = NOTHING_TOLD,
): DriftCause => ({ group, kind, id, name, days, alone, reason, ...told });

/** Where the date lies in a plan, as an index; the one before where it has none. */
function indexIn(draft: Draft, { target, calendars, indexOf }: Making, otherwise: number): number {
  const at = placeIn(bundleOf(draft), target, calendars);
  return at === null ? otherwise : indexOf(at);
}

/** Steps one after another, each credited with what it moved, and beside it what it would have moved by itself. */
function walked(
  steps: readonly Step[],
  draft: Draft,
  aside: Walk,
  at: number,
  making: Making,
  toldOf: (step: Step) => Told,
  onStep: () => void,
): { causes: DriftCause[]; at: number } {
  const { dayMinutes } = making;
  const walk = new Walk(draft, making.target, making.calendars, making.indexOf, at);
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

/** Steps of which runs that together move nothing are not taken apart, so that only what counts is looked at one by one. */
function bisected(
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
    const place = placeIn(bundleOf(draftAfter(count)), making.target, making.calendars);
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

/** What was reported of activities that both states have, in the order in which they were forecast to begin. */
function progressSteps(draft: Draft, after: PlanBundle, schedule: Schedule): Step[] {
  const later = grouped(
    new Map((after.assignments ?? []).map((row) => [workKey(row), row])),
    ({ activity }) => activity,
  );
  const start = (id: string): number => schedule.rows[schedule.tree.indexOf.get(id) ?? -1]?.start ?? Infinity;
  return after.activities
    .filter((row) => {
      const had = draft.get("activities", row.id);
      const pairs = (later.get(row.id) ?? []).flatMap((is) => {
        const was = draft.get("assignments", workKey(is));
        return was === undefined ? [] : [[was, is] as const];
      });
      return had !== undefined && progressDiffers(had, row, pairs);
    })
    .map((row) => ({ row, start: start(row.id) }))
    .sort((a, b) => a.start - b.start)
    .map(({ row }) => progressStep(row, later.get(row.id) ?? []));
}

const expectedWords = ({ what, start, finish, leftDays }: Expected): Progressed => ({
  what: what === "finish" ? "finished" : what === "goOn" ? "underWay" : "notBegun",
  start: formatDate(startDayOf(start)),
  finish: formatDate(finishDayOf(finish)),
  leftDays,
});

/** What came of an activity by the data date of a plan. */
function cameOf(plan: PlanBundle, schedule: Schedule, id: string): Progressed | null {
  const position = schedule.tree.indexOf.get(id) ?? -1;
  const row = schedule.rows[position];
  const node = schedule.network.nodeOf[position] ?? -1;
  if (row == null || node < 0) return null;
  const calendar = schedule.network.calendars[schedule.network.calendarOf[node]!]!;
  const from = Math.max(
    calendar.indexAt(closeOf(parseDate(plan.project.dataDate!)!)),
    schedule.early.restartIndex[node]!,
  );
  const what = row.state === "complete" ? "finished" : row.state === "inProgress" ? "underWay" : "notBegun";
  return {
    what,
    start: formatDate(row.startDay),
    finish: formatDate(row.finishDay),
    leftDays: what === "finished" ? 0 : (calendar.indexAt(row.finish) - from) / calendar.dayMinutes,
  };
}

/**
 * Why a date moved between two states of a plan (calculations.md section 5, in the manner of AACE 29R-03's half-step methods):
 * the earlier state is brought to the later data date as it forecast itself, then what came instead is taken over activity by
 * activity, then what was revised, group by group. Each step is credited with what it moved; the parts add up to the whole.
 * @param target an activity, or `null` for the project's finish
 * @param progress told the share that is done, 0 to 1
 * @throws {PlanProblems} where either state cannot be computed
 */
export function driftLedger(
  before: PlanBundle,
  after: PlanBundle,
  target: string | null,
  progress: (share: number) => void = () => undefined,
): DriftLedger {
  const earlier = withNewResources(before, after);
  const [first, last] = [finishIn(earlier, target), finishIn(after, target)];
  if (first.at === null || last.at === null) return { from: first.shown, to: last.shown, days: 0, causes: [] };
  const calendar = last.schedule.calendars.get(after.project.calendar);
  const kind = target === null ? "work" : after.activities.find(({ id }) => id === target)?.kind;
  const making: Making = {
    target,
    calendars: { of: null, set: first.schedule.calendars },
    indexOf: (at) => calendar.indexAt(at),
    dayMinutes: calendar.dayMinutes,
    isSpan: kind === "summary" || kind === "levelOfEffort",
  };
  const [begin, end] = [making.indexOf(first.at), making.indexOf(last.at)];
  const [was, is] = [before.project.dataDate, after.project.dataDate];
  const forecast = is !== undefined && (was ?? "") <= is ? asForecast(earlier, first.schedule, is) : null;
  const draft = draftOf(forecast?.plan ?? earlier);
  const causes: DriftCause[] = [];
  let at = indexIn(draft, making, begin);
  if (at !== begin)
    causes.push(
      causeOf(
        { group: "progress", kind: "project", id: "", name: "rounding", take: () => undefined },
        (at - begin) / making.dayMinutes,
        null,
      ),
    );

  const came = forecast === null ? [] : progressSteps(draft, after, first.schedule);
  let done = 0;
  let all = came.length + 1;
  const onStep = (): void => progress(Math.min(1, done++ / all));
  const take = (steps: readonly Step[], aside: Draft, toldOf: (step: Step) => Told = () => NOTHING_TOLD): void => {
    const ofOne = !making.isSpan && steps[0] !== undefined && OF_ONE.has(steps[0].group);
    const told = ofOne
      ? walked(
          steps,
          draft,
          new Walk(new Draft(aside.project, aside.tables), target, making.calendars, making.indexOf, at),
          at,
          making,
          toldOf,
          onStep,
        )
      : bisected(steps, draft, aside, at, making, onStep);
    causes.push(...told.causes);
    at = told.at;
  };
  const asExpected = new Draft(draft.project, draft.tables);
  take(came, asExpected, ({ id }) => {
    const expected = forecast!.expected.get(id);
    return {
      expected: expected === undefined ? null : expectedWords(expected),
      came: cameOf(after, last.schedule, id),
    };
  });
  const revisions = revisionsBetween(draft, draftOf(after));
  all += revisions.length;
  const reported = new Draft(draft.project, {
    ...draft.tables,
    activities: new Map(draft.tables.activities),
    assignments: new Map(draft.tables.assignments),
    links: new Map(draft.tables.links),
    calendars: new Map(draft.tables.calendars),
    people: new Map(draft.tables.people),
  });
  for (const group of DRIFT_GROUPS)
    take(
      revisions.filter((step) => step.group === group),
      reported,
    );
  if (at !== end)
    causes.push(
      causeOf(
        { group: "settings", kind: "project", id: "", name: "what cannot be told apart", take: () => undefined },
        (end - at) / making.dayMinutes,
        null,
      ),
    );
  progress(1);
  return { from: first.shown, to: last.shown, days: (end - begin) / making.dayMinutes, causes };
}
