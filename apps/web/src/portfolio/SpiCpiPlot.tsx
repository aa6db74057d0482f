import type { Paths, ProjectLine } from "@chronometra/contract";
import { useCallback, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import type { Inks } from "../shared/charts/Chart.tsx";
import { ChartInView } from "../shared/charts/ChartInView.tsx";
import { ratioWords } from "../shared/words/words.ts";
import { labelShifts, reachOf } from "./plotRoom.ts";

type Point = readonly [spi: number, cpi: number, words: string];

const PERIODS = 3;

/** Each project's way through SPI and CPI over the last periods to now, that of `whole` over all of them. */
export function waysOf(
  projects: readonly ProjectLine[],
  paths: Paths,
  whole: string | null = null,
): { id: string; code: string; name: string; points: Point[] }[] {
  return projects.flatMap(({ id, code, name, summary, issuedNumber }) => {
    const points = (paths[id] ?? []).flatMap(({ number, spi, cpi }): Point[] =>
      spi === null || cpi === null ? [] : [[spi, cpi, `period ${number}`]],
    );
    const { spi = null, cpi = null } = summary.figures ?? {};
    const now: Point[] =
      spi === null || cpi === null
        ? []
        : [[spi, cpi, issuedNumber === null ? "now" : `now, after period ${issuedNumber}`]];
    // The last three periods tell where it goes; longer ways tangle, and one at a time is shown in full.
    const all = [...(id === whole ? points : points.slice(-PERIODS)), ...now];
    return all.length === 0 ? [] : [{ id, code, name, points: all }];
  });
}

/** A line from a point to its label, where that was moved away from it; `fall` is how far, in the scale of CPI. */
const leaderOf = ([spi, cpi]: Point, fall: number, ink: string): object => ({
  type: "line",
  silent: true,
  symbol: "none",
  tooltip: { show: false },
  lineStyle: { color: ink, width: 0.6, opacity: 0.5 },
  data:
    fall === 0
      ? []
      : [
          [spi, cpi],
          [spi, cpi - fall],
        ],
});

/** The plot's room within its axes: its height is given, of its width only the least is known. */
const HEIGHT = 214;
const WIDTH = 330;

/** SPI against CPI with each project's path: down and to the left is behind and over. */
export function SpiCpiPlot({ projects, paths }: { projects: readonly ProjectLine[]; paths: Paths }) {
  const navigate = useNavigate();
  const [whole, setWhole] = useState<string | null>(null);
  const ways = useMemo(() => waysOf(projects, paths, whole), [projects, paths, whole]);
  const option = useCallback(
    ({ of, text }: Inks) => {
      const ink = of("--color-base-content");
      const [across, down] = ([0, 1] as const).map((which) =>
        reachOf(ways.flatMap(({ points }) => points.map((point) => point[which]))),
      ) as [ReturnType<typeof reachOf>, ReturnType<typeof reachOf>];
      const shifts = labelShifts(
        ways.map(({ points }) => ({
          x: ((points.at(-1)![0] - across.min) / (across.max - across.min)) * WIDTH,
          y: ((down.max - points.at(-1)![1]) / (down.max - down.min)) * HEIGHT,
        })),
      );
      const axis = {
        type: "value",
        axisLabel: { ...text, formatter: ratioWords, showMinLabel: false, showMaxLabel: false },
        splitLine: { show: false },
        nameTextStyle: text,
        nameGap: 4,
      };
      return {
        grid: { left: 34, right: 14, top: 20, bottom: 22 },
        tooltip: {
          trigger: "item",
          backgroundColor: of("--color-base-100"),
          borderColor: ink,
          textStyle: text,
          formatter: ({ seriesName, data }: { seriesName: string; data: { value: Point } }) =>
            `${seriesName}, ${data.value[2]}<br/>SPI ${ratioWords(data.value[0])}, CPI ${ratioWords(data.value[1])}`,
        },
        xAxis: {
          ...axis,
          ...across,
          name: "SPI",
          nameLocation: "end",
          axisLine: { onZero: false, lineStyle: { color: of("--color-base-300") } },
        },
        yAxis: { ...axis, ...down, name: "CPI", nameLocation: "end" },
        series: [
          ...ways.map(({ id, code, name, points }, i) => {
            const [spi, cpi] = points.at(-1)!;
            const colour = of(
              spi < 1 && cpi < 1 ? "--color-error" : spi >= 1 && cpi >= 1 ? "--color-success" : "--color-base-content",
            );
            const chosen = id === whole;
            return {
              name: `${code} ${name}`,
              type: "line",
              clip: true,
              data: points.map((value, n) => ({
                value,
                symbolSize: n === points.length - 1 ? 9 : chosen ? 4 : 0.1,
                label: {
                  show: n === points.length - 1,
                  formatter: code,
                  fontWeight: chosen ? 700 : 400,
                  position: "right",
                  offset: [0, shifts[i]!],
                  color: ink,
                  fontSize: 11,
                },
              })),
              symbol: spi < 1 && cpi < 1 ? "triangle" : "circle",
              itemStyle: { color: colour },
              lineStyle: { color: colour, width: chosen ? 2 : 1, opacity: chosen ? 1 : whole === null ? 0.55 : 0.15 },
              ...(i === 0
                ? {
                    markLine: {
                      silent: true,
                      symbol: ["none", "none"],
                      lineStyle: { color: ink, type: "dashed", width: 1 },
                      label: { show: false },
                      data: [{ xAxis: 1 }, { yAxis: 1 }],
                    },
                  }
                : {}),
            };
          }),
          ...ways.map(({ points }, i) => leaderOf(points.at(-1)!, (shifts[i]! / HEIGHT) * (down.max - down.min), ink)),
        ],
      };
    },
    [ways, whole],
  );
  const onPoint = useCallback(
    (seriesName: string) => {
      const way = ways.find(({ code, name }) => `${code} ${name}` === seriesName);
      if (way !== undefined) void navigate(`/projects/${way.id}`);
    },
    [ways, navigate],
  );
  if (ways.length === 0)
    return (
      <p className="muted text-sm">
        SPI and CPI appear here once a project has an approved plan, a data date and some cost.
      </p>
    );
  const words = `SPI against CPI now, with the path over the issued periods: ${ways.map(({ code, points }) => `${code} ${ratioWords(points.at(-1)![0])} and ${ratioWords(points.at(-1)![1])}`).join("; ")}. The table below has the same figures.`;
  return (
    <div>
      <ChartInView name="SPI and CPI" words={words} height="h-64" option={option} onPoint={onPoint} />
      <label className="muted flex items-center justify-end gap-2 text-sm print:hidden">
        The way of the last {PERIODS} periods; in full of
        <select
          className="select select-xs w-56"
          value={whole ?? ""}
          onChange={(event) => setWhole(event.target.value === "" ? null : event.target.value)}
        >
          <option value="">none</option>
          {ways.map(({ id, code, name }) => (
            <option key={id} value={id}>
              {code} {name}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}
