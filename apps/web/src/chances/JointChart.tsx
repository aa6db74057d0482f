import type { ChancesView } from "@chronometra/contract";
import { useCallback } from "react";
import type { Inks } from "../shared/charts/Chart.tsx";
import { ChartInView } from "../shared/charts/ChartInView.tsx";
import { dateWords, money } from "../shared/words/words.ts";

const at = (date: string): number => Date.parse(`${date}T00:00:00Z`);
const dateAt = (time: number): string => new Date(time).toISOString().slice(0, 10);

/**
 * Finish against cost, a point a run: down and to the left is sooner and cheaper; the plan is where the two lines
 * cross.
 */
export function JointChart({ view: { sample, finish, cost, minorDigits: digits } }: { view: ChancesView }) {
  const option = useCallback(
    ({ of, text }: Inks) => {
      const ink = of("--color-base-content");
      return {
        grid: { left: 64, right: 14, top: 34, bottom: 24 },
        tooltip: {
          trigger: "item",
          backgroundColor: of("--color-base-100"),
          borderColor: ink,
          textStyle: text,
          formatter: ({ data: [time, amount] }: { data: [number, number] }) =>
            `${dateWords(dateAt(time))}<br/>${money(amount, digits)}`,
        },
        xAxis: {
          type: "value",
          scale: true,
          axisLabel: { ...text, hideOverlap: true, formatter: (time: number) => dateWords(dateAt(time)) },
          splitLine: { show: false },
          axisLine: { onZero: false, lineStyle: { color: of("--color-base-300") } },
        },
        yAxis: {
          type: "value",
          scale: true,
          axisLabel: { ...text, formatter: (amount: number) => money(amount, digits) },
          splitLine: { lineStyle: { color: of("--color-base-300"), opacity: 0.6 } },
        },
        series: [
          {
            name: "runs",
            type: "scatter",
            symbolSize: 4,
            data: sample.map(({ date, cost: amount }) => [at(date), amount]),
            itemStyle: { color: ink, opacity: 0.4 },
            markLine: {
              silent: true,
              symbol: ["none", "none"],
              lineStyle: { color: of("--color-accent"), type: "solid" },
              label: { show: false },
              data: [{ xAxis: at(finish.planned) }, { yAxis: cost.planned }],
            },
          },
        ],
      };
    },
    [sample, finish, cost, digits],
  );
  return (
    <ChartInView
      name="Finish and cost"
      words={`Finish and cost of ${sample.length} runs; the plan finishes ${dateWords(finish.planned)} at ${money(cost.planned, digits)}`}
      height="h-56"
      option={option}
    />
  );
}
