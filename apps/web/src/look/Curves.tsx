import type { ProjectLook } from "@chronometra/contract";
import { useCallback } from "react";
import type { Inks } from "../shared/charts/Chart.tsx";
import { ChartInView } from "../shared/charts/ChartInView.tsx";
import { dateWords, money, timeAxis } from "../shared/words/words.ts";
import type { ForecastRange } from "./forecastRange.ts";

type Curve = ProjectLook["curve"];

const LINES = [
  { key: "pv", name: "PV, planned value", colour: "--color-base-content", dash: "dashed", symbol: "none" },
  { key: "ev", name: "EV, earned value", colour: "--color-success", dash: "solid", symbol: "circle" },
  { key: "ac", name: "AC, actual cost", colour: "--color-error", dash: "dotted", symbol: "rect" },
] as const;

interface Props {
  readonly curve: Curve;
  readonly minorDigits: number;
  readonly dataDate: string | null;
  readonly forecast: ForecastRange | null;
}

/**
 * Planned value over the whole baseline, earned value and actual cost up to the data date, and the range in which the
 * cost may end.
 */
export function Curves({ curve, minorDigits: digits, dataDate, forecast }: Props) {
  const last = curve.findLast(({ ev }) => ev !== null);
  const spent = curve.findLast(({ ac }) => ac !== null);
  const option = useCallback(
    ({ of, text }: Inks) => {
      const ink = of("--color-base-content");
      const range =
        forecast === null || spent === undefined
          ? []
          : ([
              ["least", forecast.least],
              ["most", forecast.most],
            ] as const);
      return {
        grid: { left: 8, right: range.length === 0 ? 20 : 84, top: 44, bottom: 4, containLabel: true },
        legend: { type: "scroll", top: 0, left: 0, right: 40, textStyle: text, itemWidth: 26, itemGap: 26 },
        tooltip: {
          trigger: "axis",
          backgroundColor: of("--color-base-100"),
          borderColor: ink,
          textStyle: text,
          valueFormatter: (value: unknown) => (typeof value === "number" ? money(value, digits) : "–"),
        },
        xAxis: { ...timeAxis(text), axisLine: { lineStyle: { color: ink } }, splitLine: { show: false } },
        yAxis: {
          type: "value",
          axisLabel: { ...text, formatter: (value: number) => money(value, digits) },
          splitLine: { lineStyle: { color: of("--color-base-300") } },
        },
        series: [
          ...LINES.map(({ key, name, colour, dash, symbol }, i) => ({
            name,
            type: "line",
            data: curve.flatMap((point) => (point[key] === null ? [] : [[point.date, point[key]]])),
            symbol,
            symbolSize: 6,
            connectNulls: true,
            lineStyle: { color: of(colour), width: key === "pv" ? 1.5 : 2.5, type: dash },
            itemStyle: { color: of(colour) },
            ...(i === 0 && dataDate !== null
              ? {
                  markLine: {
                    silent: true,
                    symbol: ["none", "none"],
                    lineStyle: { color: of("--color-accent"), type: "solid", width: 1.5 },
                    label: {
                      formatter: dateWords(dataDate),
                      color: of("--color-accent"),
                      position: "end",
                      distance: 4,
                      align: "right",
                    },
                    data: [{ xAxis: dataDate }],
                  },
                }
              : {}),
          })),
          ...range.map(([which, amount]) => ({
            name: `at completion, ${which}`,
            type: "line",
            data: [
              [spent!.date, spent!.ac],
              [forecast!.finish, amount],
            ],
            symbol: "none",
            lineStyle: { color: of("--color-error"), width: 1, type: "dotted", opacity: 0.8 },
            itemStyle: { color: of("--color-error") },
            endLabel: {
              show: true,
              formatter: money(amount, digits),
              color: ink,
              fontSize: 11,
              // However close the two lie, each is told on its own side.
              verticalAlign: which === "least" ? "top" : "bottom",
            },
          })),
        ],
      };
    },
    [curve, digits, dataDate, forecast, spent],
  );
  const words = `Planned value, earned value and actual cost over time. ${last === undefined ? "" : `On ${dateWords(last.date)}: PV ${money(last.pv, digits)}, EV ${money(last.ev, digits)}, AC ${money(last.ac, digits)}.`}${forecast === null ? "" : ` At completion on ${dateWords(forecast.finish)} it will have cost ${money(forecast.least, digits)} to ${money(forecast.most, digits)}.`} The figures stand above and below.`;
  return <ChartInView name="Curves" words={words} option={option} />;
}
