import { type Figures, minorUnits } from "@chronometra/core";
import { figureExplained, figureMeaning, scheduleExplained, type FigureId } from "./figureWords.ts";

/** BAC 1 000 000, PV 400 000, EV 300 000, AC 375 000 of a currency of two digits. */
const FIGURES = {
  bac: 100_000_000,
  pv: 40_000_000,
  ev: 30_000_000,
  ac: 37_500_000,
  sv: -10_000_000,
  cv: -7_500_000,
  spi: 0.75,
  cpi: 0.8,
  percentComplete: 0.3,
  percentSpent: 0.375,
  eac: 125_000_000,
  etc: 87_500_000,
  vac: -25_000_000,
  eacRemaining: 107_500_000,
  eacCpiSpi: null,
  eacBottomUp: 110_000_000,
  tcpiBac: 1.12,
  tcpiEac: 0.8,
} as Figures;
const said = (id: FigureId, figures = FIGURES): string => figureExplained(id, figures, 2).replaceAll("\u00a0", " ");

describe("what a figure means", () => {
  it.each<[FigureId, string]>([
    ["bac", "Budget at completion: what was approved for all of it: 1 000 000"],
    ["sv", "Schedule variance; EV − PV: 300 000 − 400 000 = -100 000"],
    [
      "cpi",
      "Cost performance index: below 1 the work done cost more than its budget; EV / AC: 300 000 / 375 000 = 0.80",
    ],
    ["eac", "Estimate at completion: what it will cost at the rate so far; BAC / CPI: 1 000 000 / 0.8 = 1 250 000"],
    [
      "tcpiBac",
      "To-complete performance index: what the rest must earn for its cost to keep the budget; (BAC − EV) / (BAC − AC): (1 000 000 − 300 000) / (1 000 000 − 375 000) = 1.12",
    ],
    ["percentComplete", "Earned of the budget; EV / BAC: 300 000 / 1 000 000 = 30%"],
  ])("%s with the row's numbers", (id, words) => expect(said(id)).toBe(words));

  it("where nothing was spent an index is not defined, and that is said", () => {
    expect(said("cpi", { ...FIGURES, ac: minorUnits(0), cpi: null })).toMatch(/300 000 \/ 0 = not defined$/);
    expect(figureMeaning("cv")).toBe("Cost variance; EV − AC");
  });

  it("earned schedule says how it came about, with the line's numbers", () => {
    const line = {
      period: "week",
      es: 6.5,
      at: 8,
      pd: 20,
      svt: -1.5,
      spit: 0.8125,
      forecastFinish: "2027-03-05",
    } as const;
    expect(scheduleExplained("svt", line)).toBe("Schedule variance in time; ES − AT: 6.5 − 8 = -1.5");
    expect(scheduleExplained("spit", line)).toMatch(/; ES \/ AT: 6\.5 \/ 8 = 0\.81$/);
    expect(scheduleExplained("forecastFinish", line)).toMatch(/: 20 \/ 0\.81 = 5 Mar 2027$/);
    expect(scheduleExplained("spit", { ...line, es: null, svt: null, spit: null, forecastFinish: null })).toMatch(
      /: – \/ 8 = not defined$/,
    );
  });
});
