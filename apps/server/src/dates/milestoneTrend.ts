import type { MilestoneTrend, Summary } from "@chronometra/contract";
import type { IssuedPeriodEntity } from "../cycle/cycleEntities.ts";

/** The trend of milestones without what they gather. */
export type ForecastTrend = Omit<MilestoneTrend, "milestones"> & {
  readonly milestones: Omit<MilestoneTrend["milestones"][number], "gathers">[];
};

/** Each milestone's forecast as issued, period by period, and as it is now; those that have left the plan stay with what they said. */
export function milestoneTrend(summary: Summary, issued: readonly IssuedPeriodEntity[]): ForecastTrend {
  const then = issued.map(
    (period) =>
      new Map((JSON.parse(period.summary) as Summary).milestones.map((milestone) => [milestone.id, milestone])),
  );
  const now = new Map(summary.milestones.map((milestone) => [milestone.id, milestone]));
  const ids = [...new Set([...now.keys(), ...then.flatMap((period) => [...period.keys()])])];
  const rows = ids.map((id): ForecastTrend["milestones"][number] => {
    const current = now.get(id);
    const latest = current ?? then.findLast((period) => period.has(id))!.get(id)!;
    return {
      id,
      name: latest.name,
      baseline: latest.baseline,
      deadline: latest.deadline,
      now: current?.forecast ?? null,
      reached: latest.reached,
      drift: current?.drift ?? null,
      forecasts: then.map((period) => {
        const milestone = period.get(id);
        return milestone === undefined
          ? null
          : { date: milestone.forecast, drift: milestone.drift, reached: milestone.reached };
      }),
    };
  });
  const dated = ({ now: date, forecasts }: ForecastTrend["milestones"][number]): string =>
    date ?? forecasts.findLast((each) => each !== null)?.date ?? "";
  return {
    periods: issued.map(({ number, dataDate }) => ({ number, dataDate })),
    dataDate: summary.dataDate,
    milestones: rows.sort((a, b) => (dated(a) < dated(b) ? -1 : 1)),
  };
}
