import { CHECKS, type CheckResult, type QualityLimits } from "./measureChecks.ts";

/** The values of the fourteen checks in the order of their numbers, as kept with a revision; a test that holds or not is 1 or 0. */
export type CheckValues = readonly (number | null)[];

export const valuesOf = (results: readonly CheckResult[]): CheckValues =>
  results.map(({ check, value, passes }) =>
    check.rule === "holds" ? (passes === null ? null : Number(passes)) : value,
  );

/** The numbers of the checks that kept values fail, by a portfolio's limits. */
export function failedChecks(values: CheckValues, limits: QualityLimits): number[] {
  return CHECKS.filter(({ number, rule, limit: published }, i) => {
    const value = values[i] ?? null;
    if (value === null) return false;
    if (rule === "holds") return value === 0;
    const limit = limits[number] ?? published;
    return rule === "atMost" ? value > limit : value < limit;
  }).map(({ number }) => number);
}
