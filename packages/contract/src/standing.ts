import type { Standing } from "@chronometra/core";
import type { LineSummary, MilestoneLine, Summary } from "./look.ts";

/** What of a summary the portfolio page shows. */
export function lineSummaryOf({
  milestones,
  deadlines,
  earnedSchedule,
  start: _start,
  baselineStart: _approved,
  ...rest
}: Summary): LineSummary {
  const deadlineCounts: LineSummary["deadlineCounts"] = {};
  for (const { state } of deadlines) deadlineCounts[state] = (deadlineCounts[state] ?? 0) + 1;
  const open = milestones.filter(({ reached, dropped, drift }) => !reached && dropped !== true && drift !== null);
  return {
    ...rest,
    spit: earnedSchedule?.spit ?? null,
    worst: open.reduce<MilestoneLine | null>(
      (worst, each) => (worst === null || each.drift! > worst.drift! ? each : worst),
      null,
    ),
    deadlineCounts,
    endangered: deadlines.filter(({ state }) => state === "breached" || state === "willBreach" || state === "tight"),
  };
}

/** A project's figures as thresholds look at them. */
export function standingOf(
  { figures, spit, drift, deadlineCounts }: Pick<LineSummary, "figures" | "spit" | "drift" | "deadlineCounts">,
  issuedDrift: number | null,
): Standing {
  return {
    spi: figures?.spi ?? null,
    cpi: figures?.cpi ?? null,
    spit,
    drift,
    moved: drift === null || issuedDrift === null ? null : drift - issuedDrift,
    bac: figures?.bac ?? null,
    eac: figures?.eac ?? null,
    lost: (deadlineCounts.breached ?? 0) + (deadlineCounts.willBreach ?? 0),
  };
}
