import type { Me, QualityView, Summary } from "@chronometra/contract";
import {
  ADDED_DAYS,
  failedChecks,
  finishDayOf,
  formatDate,
  groundOf,
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
import type { DataSource } from "typeorm";
import { IssuedPlanEntity } from "../cycle/cycleEntities.ts";
import { issuedPeriods } from "../cycle/issued.ts";
import { computeWhole } from "../writers/summarise.ts";
import { loadPlan } from "../plan/planStore.ts";
import { mayEdit } from "../project/projectAccess.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { qualityLimitsOf } from "../cycle/qualityLimits.ts";

/** Issued periods that findings look back on. */
const LOOK_BACK = 3;

/** Which checks and findings can be mended for many at once. */
const CHECK_MENDS: Readonly<Record<number, Mend>> = { 1: "linkLooseEnds", 2: "leadsToOverlaps", 5: "softenWishes" };
const FINDING_MENDS: Readonly<Record<string, Mend>> = { redundantLinks: "dropRedundant" };

/** How activities stood when the newest periods were issued, the newest first. */
async function pastPeriods(
  database: DataSource,
  projectId: string,
  issued: readonly { number: number; edition: number; dataDate: string }[],
): Promise<PastPeriod[]> {
  const newest = issued.slice(-LOOK_BACK).reverse();
  const plans = await Promise.all(
    newest.map(({ number, edition }) =>
      database.getRepository(IssuedPlanEntity).findOneBy({ projectId, number, edition }),
    ),
  );
  return newest.flatMap(({ number, dataDate }, i): PastPeriod[] => {
    const plan = plans[i];
    return plan == null
      ? []
      : [
          {
            number,
            dataDay: parseDate(dataDate)!,
            activities: new Map(
              (JSON.parse(plan.content) as PlanBundle).activities.map((activity) => [activity.id, activity]),
            ),
          },
        ];
  });
}

/** Checks, findings and verdict of a project, with what the checks came to each period. */
export async function qualityOf(database: DataSource, me: Me, project: ProjectEntity): Promise<QualityView> {
  const [plan, issued, limits] = await Promise.all([
    loadPlan(database.manager, project),
    issuedPeriods(database, project.id),
    qualityLimitsOf(database),
  ]);
  const { bundle, computed } = computeWhole(plan);
  const content = computed.baseline?.content ?? null;
  const quality = measureQuality(bundle, computed.schedule, content, {
    limits,
    periods: await pastPeriods(database, project.id, issued),
    silentDays: limits["silentDays"] ?? SILENT_DAYS,
  });
  const kept = issued.flatMap(({ number, dataDate, summary }) => {
    const { quality: values } = JSON.parse(summary) as Summary;
    return values === undefined ? [] : [{ number, dataDate, values, failed: failedChecks(values, limits) }];
  });
  const named = ({ mend }: Check | Finding, offences: readonly Offence[]): QualityView["checks"][number]["offences"] =>
    offences.map((each) => ({
      id: bundle.activities[each.at]!.id,
      name: bundle.activities[each.at]!.name,
      words: each.words(),
      mend: each.mend ?? mend,
    }));
  const check = (result: CheckResult, i: number): QualityView["checks"][number] => {
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
      offences: named(result.check, result.offences),
      trend: kept.map(({ number: period, dataDate, values, failed }) => ({
        period,
        dataDate,
        value: values[i] ?? null,
        passes: values[i] == null ? null : !failed.includes(number),
      })),
    };
  };
  const test = runPathTest(groundOf(bundle, computed.schedule, content));
  const { fitness, reasons, best } = quality.verdict;
  return {
    asOf: bundle.project.dataDate ?? null,
    baseline: typeof computed.baseline?.label === "number" ? computed.baseline.label : null,
    mayEdit: mayEdit(me, project),
    verdict: { fitness, reasons: [...reasons], best },
    checks: quality.checks.map(check),
    findings: quality.findings.map(({ finding, offences }) => ({
      key: finding.key,
      about: finding.about,
      name: finding.name,
      why: finding.why,
      mendMany: FINDING_MENDS[finding.key] ?? null,
      offences: named(finding, offences),
    })),
    pathTest:
      test === null
        ? null
        : {
            id: test.tested.activity.id,
            name: test.tested.activity.name,
            addedDays: ADDED_DAYS,
            movedDays: test.movedMinutes / test.tested.calendar.dayMinutes,
            finish: formatDate(finishDayOf(computed.schedule.finish!)),
            then: formatDate(finishDayOf(test.finish)),
          },
  };
}
