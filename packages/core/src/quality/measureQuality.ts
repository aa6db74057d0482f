import type { Schedule } from "../network/schedule.ts";
import type { BaselineContent } from "../performance/plannedValue.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { findAll, type Found } from "./findAll.ts";
import { SILENT_DAYS, type PastPeriod } from "./ground/finding.ts";
import { groundOf } from "./ground/ground.ts";
import { measureChecks, type CheckResult, type QualityLimits } from "./measureChecks.ts";
import { judge, type Verdict } from "./verdict.ts";

/** All that is said about how far a plan can be trusted. */
export interface Quality {
  readonly checks: readonly CheckResult[];
  readonly findings: readonly Found[];
  readonly verdict: Verdict;
}

export interface QualityOptions {
  readonly limits?: QualityLimits;
  /** Issued periods, the newest first. */
  readonly periods?: readonly PastPeriod[];
  readonly silentDays?: number;
}

/**
 * Checks, findings and verdict of a plan (calculations.md section 6).
 * @param schedule what `schedulePlan` gave for it
 * @param baseline the baseline compared against, if any
 */
export function measureQuality(
  plan: PlanBundle,
  schedule: Schedule,
  baseline: BaselineContent | null,
  { limits = {}, periods = [], silentDays = SILENT_DAYS }: QualityOptions = {},
): Quality {
  const ground = groundOf(plan, schedule, baseline);
  const checks = measureChecks(ground, limits);
  const findings = findAll(ground, { periods, silentDays });
  return { checks, findings, verdict: judge(checks, findings) };
}
