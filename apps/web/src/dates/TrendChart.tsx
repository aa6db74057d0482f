import type { MilestoneTrend } from "@chronometra/contract";
import { useCallback } from "react";
import type { Inks } from "../shared/charts/Chart.tsx";
import { ChartInView } from "../shared/charts/ChartInView.tsx";
import { dateWords, driftTone, driftWords, timeAxis } from "../shared/words/words.ts";

type Milestone = MilestoneTrend["milestones"][number];

/** A milestone's forecasts by the day on which each was given, the approved date first where it is known. */
export function trendPoints(
  { periods, dataDate }: MilestoneTrend,
  { forecasts, now }: Milestone,
): [saidOn: string, forecast: string][] {
  const points = periods.flatMap(({ dataDate: saidOn }, i): [string, string][] =>
    forecasts[i] == null ? [] : [[saidOn, forecasts[i].date]],
  );
  if (now !== null && dataDate !== null && points.at(-1)?.[0] !== dataDate) points.push([dataDate, now]);
  return points;
}

const INK: Record<ReturnType<typeof driftTone>, string> = {
  adverse: "--color-error",
  favourable: "--color-success",
  undecided: "--color-warning",
  plain: "--color-base-content",
};
const DASHES = ["solid", "dashed", "dotted"] as const;

/** Room that the name of a milestone takes at the end of its line. */
const NAME_HEIGHT = 15;
const LEAST_HEIGHT = 384;

/**
 * Milestone trend: when a date was said, against the date that was said. A line that climbs slips; one that reaches the
 * diagonal is met.
 */
export function TrendChart({ trend, shown }: { trend: MilestoneTrend; shown: readonly Milestone[] }) {
  const option = useCallback(
    ({ of, text }: Inks) => {
      const ink = of("--color-base-content");
      const lines = shown
        .map((milestone) => ({ milestone, points: trendPoints(trend, milestone) }))
        .filter(({ points }) => points.length > 0);
      const said = lines.flatMap(({ points }) => points.map(([saidOn]) => saidOn)).sort();
      const forecasts = lines.flatMap(({ points }) => points.map(([, forecast]) => forecast)).sort();
      const [first, last, most] = [
        said[0] ?? "2026-01-01",
        forecasts.at(-1) ?? "2026-12-31",
        said.at(-1) ?? "2026-12-31",
      ];
      return {
        grid: { left: 8, right: 190, top: 12, bottom: 4, containLabel: true },
        tooltip: {
          trigger: "item",
          backgroundColor: of("--color-base-100"),
          borderColor: ink,
          textStyle: text,
          formatter: ({ seriesName, data }: { seriesName: string; data: [string, string] }) =>
            `${seriesName}<br/>on ${dateWords(data[0])} it was to be ${dateWords(data[1])}`,
        },
        xAxis: { ...timeAxis(text), min: first, max: most, axisLine: { lineStyle: { color: ink } } },
        yAxis: {
          ...timeAxis(text),
          min: first < (forecasts[0] ?? first) ? first : forecasts[0],
          max: last,
          splitLine: { lineStyle: { color: of("--color-base-300") } },
        },
        series: [
          {
            name: "met",
            type: "line",
            silent: true,
            symbol: "none",
            data: [
              [first, first],
              [most, most],
            ],
            lineStyle: { color: ink, width: 1, type: "dashed", opacity: 0.5 },
          },
          ...lines.map(({ milestone, points }, i) => {
            const colour = of(INK[driftTone(milestone.drift)]);
            return {
              name: milestone.name,
              type: "line",
              data: points,
              symbol: milestone.reached ? "circle" : "triangle",
              symbolSize: 6,
              lineStyle: { color: colour, width: 1.5, type: DASHES[i % DASHES.length] },
              itemStyle: { color: colour },
              endLabel: {
                show: true,
                formatter: milestone.name.length > 28 ? `${milestone.name.slice(0, 27)}…` : milestone.name,
                color: ink,
                fontSize: 11,
                distance: 6,
              },
              labelLayout: { moveOverlap: "shiftY" },
              emphasis: { focus: "series" },
            };
          }),
        ],
      };
    },
    [trend, shown],
  );
  const late = shown.filter(({ drift }) => (drift ?? 0) >= 0.05).length;
  const worst = shown.reduce<Milestone | null>(
    (most, each) => ((each.drift ?? -Infinity) > (most?.drift ?? -Infinity) ? each : most),
    null,
  );
  const words = `Milestone trend of ${shown.length} milestones over ${trend.periods.length} periods; ${late} late${worst?.drift != null && worst.drift > 0 ? `, the furthest ${worst.name}, ${driftWords(worst.drift)}` : ""}. The table below says the same.`;
  return (
    <ChartInView
      name="Milestone trend"
      words={words}
      height={Math.max(LEAST_HEIGHT, shown.length * NAME_HEIGHT + 40)}
      option={option}
    />
  );
}
