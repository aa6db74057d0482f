import type { ProjectLook } from "@chronometra/contract";
import { LineChart } from "echarts/charts";
import { GridComponent, LegendComponent, MarkLineComponent, TooltipComponent } from "echarts/components";
import { init, use as register, type EChartsCoreOption } from "echarts/core";
import { SVGRenderer } from "echarts/renderers";
import { useEffect, useRef } from "react";
import { useTheme } from "../shared/theme.ts";
import { dateWords, money } from "../shared/words.ts";

register([LineChart, GridComponent, LegendComponent, MarkLineComponent, TooltipComponent, SVGRenderer]);

const colour = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

type Curve = ProjectLook["curve"];

const LINES = [
  { key: "pv", name: "PV, planned value", colour: "--color-base-content", dash: "dashed", symbol: "none" },
  { key: "ev", name: "EV, earned value", colour: "--color-success", dash: "solid", symbol: "circle" },
  { key: "ac", name: "AC, actual cost", colour: "--color-error", dash: "dotted", symbol: "rect" },
] as const;

function optionOf(curve: Curve, digits: number, dataDate: string | null): EChartsCoreOption {
  const ink = colour("--color-base-content");
  const hairline = colour("--color-base-300");
  const text = { color: ink, fontFamily: "Source Sans 3 Variable", fontSize: 12 };
  return {
    animation: false,
    textStyle: text,
    grid: { left: 8, right: 20, top: 44, bottom: 4, containLabel: true },
    legend: { top: 0, left: 0, textStyle: text, itemWidth: 26, data: LINES.map(({ name }) => name) },
    tooltip: { trigger: "axis", backgroundColor: colour("--color-base-100"), borderColor: ink, textStyle: text, valueFormatter: (value: unknown) => (typeof value === "number" ? money(value, digits) : "–") },
    xAxis: { type: "time", axisLine: { lineStyle: { color: ink } }, axisLabel: { ...text, hideOverlap: true }, splitLine: { show: false } },
    yAxis: { type: "value", axisLabel: { ...text, formatter: (value: number) => money(value, digits) }, splitLine: { lineStyle: { color: hairline } } },
    series: LINES.map(({ key, name, colour: variable, dash, symbol }, i) => ({
      name,
      type: "line",
      data: curve.flatMap((point) => (point[key] === null ? [] : [[point.date, point[key]]])),
      symbol,
      symbolSize: 6,
      connectNulls: true,
      lineStyle: { color: colour(variable), width: key === "pv" ? 1.5 : 2.5, type: dash },
      itemStyle: { color: colour(variable) },
      ...(i === 0 && dataDate !== null
        ? { markLine: { silent: true, symbol: ["none", "none"], lineStyle: { color: colour("--color-accent"), type: "solid", width: 1.5 }, label: { formatter: dateWords(dataDate), color: colour("--color-accent"), position: "end", distance: 4 }, data: [{ xAxis: dataDate }] } }
        : {}),
    })),
  };
}

interface Props {
  readonly curve: Curve;
  readonly minorDigits: number;
  readonly dataDate: string | null;
}

/** Planned value over the whole baseline, earned value and actual cost up to the data date. */
export default function Curves({ curve, minorDigits, dataDate }: Props) {
  const holder = useRef<HTMLDivElement>(null);
  const theme = useTheme();
  useEffect(() => {
    const chart = init(holder.current!, null, { renderer: "svg" });
    chart.setOption(optionOf(curve, minorDigits, dataDate));
    const watching = new ResizeObserver(() => chart.resize());
    watching.observe(holder.current!);
    return () => {
      watching.disconnect();
      chart.dispose();
    };
  }, [curve, minorDigits, dataDate, theme]);
  const last = curve.findLast(({ ev }) => ev !== null);
  const words = `Planned value, earned value and actual cost over time. ${last === undefined ? "" : `On ${dateWords(last.date)}: PV ${money(last.pv, minorDigits)}, EV ${money(last.ev, minorDigits)}, AC ${money(last.ac, minorDigits)}.`}`;
  return <div ref={holder} role="img" aria-label={words} className="h-60 w-full" />;
}
