import { type Schedule } from "../network/schedule.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { closeOf, finishDayOf, formatDate, parseDate, startDayOf } from "../time/instant.ts";
import { asForecast, type Expected } from "./asForecast.ts";
import { Draft, draftOf, grouped, workKey } from "./ledgerDraft.ts";
import {
  DRIFT_GROUPS,
  progressDiffers,
  progressStep,
  revisionsBetween,
  type DriftGroup,
  type Step,
} from "./ledgerSteps.ts";
import {
  finishIn,
  Walk,
  OF_ONE,
  type Making,
  type Told,
  NOTHING_TOLD,
  causeOf,
  indexIn,
  walked,
  bisected,
  type DriftCause,
  type Progressed,
} from "./ledgerWalk.ts";

export { DRIFT_GROUPS, type DriftGroup };

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
 * Why a date moved between two states of a plan (calculations.md section 5, in the manner of AACE 29R-03's half-step
 * methods): the earlier state is brought to the later data date as it forecast itself, then what came instead is taken
 * over activity by activity, then what was revised, group by group. Each step is credited with what it moved; the parts
 * add up to the whole.
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
          new Walk(new Draft(aside.project, aside.tables), target, making.indexOf, at),
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
