import { useCallback } from "react";
import type { Inks } from "../shared/charts/Chart.tsx";
import { ChartInView } from "../shared/charts/ChartInView.tsx";
import { numberWords } from "../shared/words/words.ts";

interface Props {
  readonly name: string;
  readonly words: string;
  /** What each bar is about, and how many runs fall on it. */
  readonly bars: readonly { readonly label: string; readonly runs: number }[];
  /** Bars where the plan, P50 and P80 stand. */
  readonly marks: readonly { readonly label: string; readonly at: number }[];
}

/** How runs spread: a bar a day or amount, and the line of how many are done by it. */
export function SpreadChart({ name, words, bars, marks }: Props) {
  const option = useCallback(
    ({ of, text }: Inks) => {
      const ink = of("--color-base-content");
      const total = bars.reduce((sum, { runs }) => sum + runs, 0);
      let sum = 0;
      const below = bars.map(({ runs }) => Math.round(((sum += runs) / total) * 1000) / 10);
      return {
        grid: { left: 40, right: 44, top: 34, bottom: 24 },
        tooltip: {
          trigger: "axis",
          backgroundColor: of("--color-base-100"),
          borderColor: ink,
          textStyle: text,
          valueFormatter: (value: unknown) => numberWords(Number(value)),
        },
        xAxis: {
          type: "category",
          data: bars.map(({ label }) => label),
          axisLabel: { ...text, hideOverlap: true },
          axisLine: { lineStyle: { color: of("--color-base-300") } },
          axisTick: { show: false },
        },
        yAxis: [
          {
            type: "value",
            axisLabel: { ...text, formatter: (runs: number) => numberWords(runs) },
            splitLine: { lineStyle: { color: of("--color-base-300"), opacity: 0.6 } },
          },
          {
            type: "value",
            min: 0,
            max: 100,
            axisLabel: { ...text, formatter: "{value}%" },
            splitLine: { show: false },
          },
        ],
        series: [
          {
            name: "runs",
            type: "bar",
            data: bars.map(({ runs }) => runs),
            barCategoryGap: "10%",
            itemStyle: { color: ink, opacity: 0.35 },
            markLine: {
              symbol: ["none", "none"],
              lineStyle: { color: ink, width: 1.2 },
              label: { ...text, formatter: ({ name: label }: { name: string }) => label },
              data: marks
                .filter(({ at }) => at >= 0)
                .map(({ label, at }, i) => ({
                  name: label,
                  xAxis: at,
                  lineStyle: { type: i === 0 ? "solid" : "dashed" },
                  label: { distance: 3 + (i % 2) * 12 },
                })),
            },
          },
          {
            name: "done by then, %",
            type: "line",
            yAxisIndex: 1,
            data: below,
            symbol: "none",
            lineStyle: { color: of("--color-accent"), width: 1.6 },
          },
        ],
      };
    },
    [bars, marks],
  );
  return <ChartInView name={name} words={words} height="h-56" option={option} />;
}
