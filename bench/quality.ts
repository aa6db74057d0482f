import { computePlan, freezePlan, measureQuality, schedulePlan, type PlanBundle } from "@chronometra/core";
import { leastOf, ratioLine, type Line } from "./measure.ts";
import { largePlan } from "./plans.ts";

/** Checks, findings and verdict of a plan against the time of its dates. */
export async function qualityLines(): Promise<Line[]> {
  const bare = largePlan({ activities: 10_000, linksEach: 2, calendars: 5, progress: 0.3 });
  const plan: PlanBundle = {
    ...bare,
    baselines: [{ number: 1, approvedOn: "2026-01-15", approvedBy: "x", reason: "y", ...freezePlan(bare) }],
  };
  const { schedule, baseline } = computePlan(plan);
  // In turns, so that a machine that is slow for a while is so for both.
  let [dates, quality] = [Infinity, Infinity];
  for (let i = 0; i < 80; i++) {
    dates = Math.min(dates, await leastOf(1, () => schedulePlan(plan)));
    quality = Math.min(quality, await leastOf(1, () => measureQuality(plan, schedule, baseline!.content)));
  }
  return [ratioLine("Quality of a plan, 10 000 activities, 20 000 links", quality, "its dates", dates, 1.5)];
}
