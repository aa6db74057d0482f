import type { ProjectLine } from "@chronometra/contract";
import { figuresOf, type Sums } from "@chronometra/core";
import { figuresTogether } from "./together.ts";

const line = (currency: string, minorDigits: number, minor: number): ProjectLine =>
  ({
    summary: {
      currency,
      minorDigits,
      figures: figuresOf({ bac: minor, pv: minor, ev: minor / 2, ac: minor, eacBottomUp: minor } as Sums),
    },
  }) as ProjectLine;
const RATES = {
  exchange: {
    currency: "EUR",
    minorDigits: 2,
    rates: [
      { currency: "JPY", from: "2026-01-01", rate: 0.006 },
      { currency: "KWD", from: "2026-01-01", rate: 2.75 },
    ],
  },
  on: "2026-03-31",
};
const [euro, yen, dinar] = [line("EUR", 2, 100_00), line("JPY", 0, 10_000), line("KWD", 3, 2_000)];

describe("figures of several projects", () => {
  it("are formed from converted sums, ratios too", () => {
    const { figures, summedIn } = figuresTogether([euro, yen, dinar], RATES)!;
    // 100 euro, 10 000 yen are 60, 2 dinar are 5.50.
    expect([figures.bac, figures.ev, figures.spi, summedIn.currency]).toEqual([165_50, 82_75, 0.5, "EUR"]);
  });

  it("of a group are in what the whole table is in", () => {
    expect(figuresTogether([yen], RATES, [euro, yen])!.figures.bac).toBe(60_00);
    expect(figuresTogether([yen], RATES)!).toMatchObject({
      figures: { bac: 10_000 },
      summedIn: { currency: "JPY", minorDigits: 0 },
    });
  });

  it("are none without a rate", () => {
    expect(figuresTogether([euro, yen], { ...RATES, exchange: null })).toBeNull();
  });
});
