import type { MilestoneTrend } from "@chronometra/contract";
import { slippedBetween } from "./slippage.ts";
import { dateScale } from "./timeLine.ts";
import { trendPoints } from "./TrendChart.tsx";

const said = (date: string, drift: number | null) => ({ date, drift, reached: false });

describe("slip", () => {
  const milestone = { drift: 9, forecasts: [said("2026-04-01", 0), null, said("2026-04-08", 5)] };
  it("is the drift against the approved date, and what came on top since a period", () => {
    expect([
      slippedBetween(milestone, null),
      slippedBetween(milestone, 0),
      slippedBetween(milestone, 2),
      slippedBetween(milestone, 1),
    ]).toEqual([9, 9, 4, null]);
    expect(slippedBetween({ ...milestone, drift: null }, 0)).toBeNull();
  });
});

describe("the milestone trend", () => {
  const trend: MilestoneTrend = {
    periods: [
      { number: 1, dataDate: "2026-01-31" },
      { number: 2, dataDate: "2026-02-28" },
    ],
    dataDate: "2026-03-31",
    milestones: [],
  };
  const milestone = {
    id: "m",
    name: "M",
    baseline: null,
    deadline: null,
    reached: false,
    gathers: 0,
    drift: 1,
    now: "2026-05-09",
    forecasts: [said("2026-05-01", 0), said("2026-05-05", 1)],
  };
  it("has a point for each period in which it was there, and now", () => {
    expect(trendPoints(trend, milestone)).toEqual([
      ["2026-01-31", "2026-05-01"],
      ["2026-02-28", "2026-05-05"],
      ["2026-03-31", "2026-05-09"],
    ]);
    expect(
      trendPoints({ ...trend, dataDate: "2026-02-28" }, { ...milestone, forecasts: [null, milestone.forecasts[1]!] }),
    ).toEqual([["2026-02-28", "2026-05-05"]]);
  });
});

describe("a line of time", () => {
  it("names no more months than have room, over years as over weeks", () => {
    for (const to of ["2026-12-31", "2027-06-30", "2029-03-31", "2041-01-01", "2099-12-31"]) {
      const { months } = dateScale(["2026-11-17", to], 900);
      expect(months.length).toBeGreaterThan(0);
      months.slice(1).forEach(({ x }, i) => expect(x - months[i]!.x).toBeGreaterThanOrEqual(55));
    }
    expect(
      dateScale(["2026-11-17", "2029-03-31"], 900).months.map(({ name, year }) => `${name} ${year ?? ""}`.trim()),
    ).toEqual([
      "Nov 2026",
      "Jan 2027",
      "Mar",
      "May",
      "Jul",
      "Sep",
      "Nov",
      "Jan 2028",
      "Mar",
      "May",
      "Jul",
      "Sep",
      "Nov",
      "Jan 2029",
      "Mar",
    ]);
  });

  it("goes over whole months and places days evenly", () => {
    const scale = dateScale(["2026-11-17", "2027-01-05"], 920);
    expect([scale.from, scale.to, scale.months.map(({ name, year }) => `${name} ${year ?? ""}`.trim())]).toEqual([
      "2026-11-01",
      "2027-02-01",
      ["Nov 2026", "Dec", "Jan 2027"],
    ]);
    expect([scale.xOf("2026-11-01"), scale.xOf("2026-12-01"), scale.xOf("2027-02-01")]).toEqual([0, 300, 920]);
  });
});
