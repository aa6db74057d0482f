import type { Schedule } from "../network/schedule.ts";
import type { BaselineContent } from "../performance/plannedValue.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { inOrder, type Check, type Measured, type Offence } from "./ground/check.ts";
import { bei } from "./checks/bei.ts";
import { cpli } from "./checks/cpli.ts";
import { criticalPathTest } from "./checks/criticalPathTest.ts";
import { hardWishes } from "./checks/hardWishes.ts";
import { highFloat } from "./checks/highFloat.ts";
import { impossibleDates } from "./checks/impossibleDates.ts";
import { lags } from "./checks/lags.ts";
import { leads } from "./checks/leads.ts";
import { linkTypes } from "./checks/linkTypes.ts";
import { longActivities } from "./checks/longActivities.ts";
import { missed } from "./checks/missed.ts";
import { missingLogic } from "./checks/missingLogic.ts";
import { negativeFloat } from "./checks/negativeFloat.ts";
import { noResources } from "./checks/noResources.ts";
import { groundOf, type Ground } from "./ground/ground.ts";

/** The fourteen, in the order of their numbers. */
export const CHECKS: readonly Check[] = [
  missingLogic,
  leads,
  lags,
  linkTypes,
  hardWishes,
  highFloat,
  negativeFloat,
  longActivities,
  impossibleDates,
  noResources,
  missed,
  criticalPathTest,
  cpli,
  bei,
];

/** Limits set in the place of the published ones, by the number of the check. */
export type QualityLimits = Readonly<Record<string, number | undefined>>;

/** What a check found, held against its limit. */
export class CheckResult {
  readonly count: number | null;
  readonly outOf: number | null;
  readonly value: number | null;
  private told: readonly Offence[] | undefined;

  /** @param passes `null` where there was nothing to count, which is not a pass */
  constructor(
    readonly check: Check,
    private readonly measured: Measured,
    readonly limit: number,
    readonly passes: boolean | null,
  ) {
    ({ count: this.count, outOf: this.outOf, value: this.value } = measured);
  }

  get offences(): readonly Offence[] {
    return (this.told ??= inOrder(this.measured.tell()));
  }
}

/** Whether a value keeps its limit; `null` where there is none. */
function keeps({ rule }: Check, limit: number, { value, holds }: Measured): boolean | null {
  if (rule === "holds") return holds ?? null;
  if (value === null) return null;
  return rule === "atMost" ? value <= limit : value >= limit;
}

/** The fourteen checks of a plan (calculations.md section 6; DCMA 14-point assessment, GAO-16-89G). */
export function measureChecks(ground: Ground, limits: QualityLimits = {}): CheckResult[] {
  return CHECKS.map((check) => {
    const measured = check.measure(ground);
    // How far the finish may stay behind in the test is part of its definition.
    const limit = check.rule === "holds" ? check.limit : (limits[check.number] ?? check.limit);
    return new CheckResult(check, measured, limit, keeps(check, limit, measured));
  });
}

/** One check as `analyse` prints it. */
export interface PrintedCheck {
  readonly number: number;
  readonly count: number | null;
  readonly outOf: number | null;
  readonly value: number | null;
  readonly passes: boolean | null;
  readonly activities: string[];
}

/** The checks by the published limits, as plan-bundle.md has them printed. */
export function printChecks(plan: PlanBundle, schedule: Schedule, baseline: BaselineContent | null): PrintedCheck[] {
  return measureChecks(groundOf(plan, schedule, baseline)).map(
    ({ check: { number }, count, outOf, value, passes, offences }) => ({
      number,
      count,
      outOf,
      value,
      passes,
      activities: idsOf(
        offences.map(({ at }) => at),
        plan,
      ),
    }),
  );
}

/** Ids in the plan's order, each once. */
const idsOf = (positions: readonly number[], plan: PlanBundle): string[] =>
  [...new Set(positions)].sort((a, b) => a - b).map((at) => plan.activities[at]!.id);
