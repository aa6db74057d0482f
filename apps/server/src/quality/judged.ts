import type { QualityView } from "@chronometra/contract";
import {
  ADDED_DAYS,
  failedChecks,
  finishDayOf,
  formatDate,
  limitWords,
  measureQuality,
  parseDate,
  runPathTest,
  SILENT_DAYS,
  valueWords,
  type Check,
  type CheckResult,
  type Finding,
  type Mend,
  type Offence,
  type PastPeriod,
  type PlanBundle,
} from "@chronometra/core";
import { groundIn, type ComputedPlan } from "../plan/held/computedPlan.ts";
import type { HeldPlan } from "../plan/held/heldPlan.ts";

/** Which checks and findings can be mended for many at once. */
const CHECK_MENDS: Readonly<Record<number, Mend>> = { 1: "linkLooseEnds", 2: "leadsToOverlaps", 5: "softenWishes" };
const FINDING_MENDS: Readonly<Record<string, Mend>> = { redundantLinks: "dropRedundant" };

/** What is looked back on and measured by. */
interface Asked {
  readonly limits: Readonly<Record<string, number | undefined>>;
  /** The newest issued plans, the newest first, as text. */
  readonly past: readonly { readonly number: number; readonly dataDate: string; readonly content: string }[];
  /** What the checks came to in each issued period, oldest first. */
  readonly issued: readonly {
    readonly number: number;
    readonly dataDate: string;
    readonly values: (number | null)[];
  }[];
}

const pastPeriod = ({ number, dataDate, content }: Asked["past"][number]): PastPeriod => ({
  number,
  dataDay: parseDate(dataDate)!,
  activities: new Map((JSON.parse(content) as PlanBundle).activities.map((activity) => [activity.id, activity])),
});

type Offences = QualityView["checks"][number]["offences"];

const offencesOf = (bundle: PlanBundle, { mend }: Check | Finding, offences: readonly Offence[]): Offences =>
  offences.map((each) => ({
    id: bundle.activities[each.at]!.id,
    name: bundle.activities[each.at]!.name,
    words: each.words(),
    mend: each.mend ?? mend,
  }));

function presentCheck(
  bundle: PlanBundle,
  result: CheckResult,
  i: number,
  { issued, limits }: Asked,
): QualityView["checks"][number] {
  const { number, name, counts, why, limit } = result.check;
  return {
    number,
    name,
    counts,
    why,
    value: result.value,
    words: valueWords(result),
    limit: limitWords(result),
    published: result.limit === limit ? null : limitWords({ check: result.check, limit }),
    passes: result.passes,
    mendMany: CHECK_MENDS[number] ?? null,
    offences: offencesOf(bundle, result.check, result.offences),
    trend: issued.map(({ number: period, dataDate, values }) => ({
      period,
      dataDate,
      value: values[i] ?? null,
      passes: values[i] == null ? null : !failedChecks(values, limits).includes(number),
    })),
  };
}

function presentPathTest(whole: ComputedPlan): QualityView["pathTest"] {
  const { schedule } = whole.computed;
  const test = runPathTest(groundIn(whole));
  return test === null
    ? null
    : {
        id: test.tested.activity.id,
        name: test.tested.activity.name,
        addedDays: ADDED_DAYS,
        movedDays: test.movedMinutes / test.tested.calendar.dayMinutes,
        finish: formatDate(finishDayOf(schedule.finish!)),
        then: formatDate(finishDayOf(test.finish)),
      };
}

/** Checks, findings and verdict of a plan, with what the checks came to each period. */
export function judged({ whole }: HeldPlan, asked: Asked): Omit<QualityView, "mayEdit"> {
  const { bundle, computed } = whole;
  const quality = measureQuality(bundle, computed.schedule, computed.baseline?.content ?? null, {
    limits: asked.limits,
    periods: asked.past.map(pastPeriod),
    silentDays: asked.limits["silentDays"] ?? SILENT_DAYS,
  });
  const { fitness, reasons, best } = quality.verdict;
  return {
    asOf: bundle.project.dataDate ?? null,
    baseline: typeof computed.baseline?.label === "number" ? computed.baseline.label : null,
    verdict: { fitness, reasons: [...reasons], best },
    checks: quality.checks.map((result, i) => presentCheck(bundle, result, i, asked)),
    findings: quality.findings.map(({ finding, offences }) => ({
      key: finding.key,
      about: finding.about,
      name: finding.name,
      why: finding.why,
      mendMany: FINDING_MENDS[finding.key] ?? null,
      offences: offencesOf(bundle, finding, offences),
    })),
    pathTest: presentPathTest(whole),
  };
}
