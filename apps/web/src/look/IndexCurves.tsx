import { useCallback } from "react";
import type { Inks } from "../shared/charts/Chart.tsx";
import { ChartInView } from "../shared/charts/ChartInView.tsx";
import { ratioWords, timeAxis } from "../shared/words/words.ts";

/** The indices of a period, and those of what was done in it alone, where they are told. */
interface Period {
  readonly dataDate: string;
  readonly spi: number | null;
  readonly cpi: number | null;
  readonly own?: { readonly spi: number | null; readonly cpi: number | null };
}

/** SPI and CPI over the periods: of all until then, and of each period alone. */
export function IndexCurves({ periods }: { periods: readonly Period[] }) {
  const option = useCallback(
    ({ of, text }: Inks) => {
      const line = (
        name: string,
        pick: (period: Period) => number | null,
        colour: string,
        type: string,
        width: number,
      ) => ({
        name,
        type: "line",
        symbol: "circle",
        symbolSize: 4,
        connectNulls: true,
        data: periods.flatMap((period) =>
          pick(period) === null ? [] : [[period.dataDate, Math.round(pick(period)! * 1000) / 1000]],
        ),
        lineStyle: { color: of(colour), type, width },
        itemStyle: { color: of(colour) },
      });
      return {
        grid: { left: 8, right: 16, top: 28, bottom: 4, containLabel: true },
        legend: { type: "scroll", top: 0, left: 0, right: 40, textStyle: text, itemGap: 26 },
        tooltip: {
          trigger: "axis",
          backgroundColor: of("--color-base-100"),
          borderColor: of("--color-base-content"),
          textStyle: text,
          valueFormatter: (value: unknown) => ratioWords(typeof value === "number" ? value : null),
        },
        xAxis: timeAxis(text),
        yAxis: {
          type: "value",
          scale: true,
          axisLabel: { ...text, formatter: ratioWords },
          splitLine: { lineStyle: { color: of("--color-base-300") } },
        },
        series: [
          {
            ...line("SPI", ({ spi }) => spi, "--color-info", "solid", 2),
            markLine: {
              silent: true,
              symbol: ["none", "none"],
              label: { show: false },
              lineStyle: { color: of("--color-base-content"), type: "dashed", width: 1 },
              data: [{ yAxis: 1 }],
            },
          },
          line("CPI", ({ cpi }) => cpi, "--color-error", "solid", 2),
          ...(periods.some(({ own }) => own !== undefined)
            ? [
                line("SPI of the period alone", ({ own }) => own?.spi ?? null, "--color-info", "dotted", 1),
                line("CPI of the period alone", ({ own }) => own?.cpi ?? null, "--color-error", "dotted", 1),
              ]
            : []),
        ],
      };
    },
    [periods],
  );
  const last = periods.at(-1);
  return (
    <ChartInView
      name="Indices over the periods"
      words={`SPI and CPI over ${periods.length} periods${last === undefined ? "" : `, now ${ratioWords(last.spi)} and ${ratioWords(last.cpi)}`}; the table beside says the same.`}
      height="h-56"
      option={option}
    />
  );
}
