import type { MilestoneTrend } from "@chronometra/contract";

type Milestone = Pick<MilestoneTrend["milestones"][number], "drift" | "forecasts">;

/**
 * Working days by which a milestone has slipped since a period, or from the approved date where that is `null`. Both are
 * drifts from an approved date: where another plan was approved in between, what that allowed is not counted as slip.
 */
export function slippedBetween({ drift, forecasts }: Milestone, period: number | null): number | null {
  if (drift === null || period === null) return drift;
  const then = forecasts[period]?.drift ?? null;
  return then === null ? null : drift - then;
}
