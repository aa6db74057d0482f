import { lockedPeriod, sinceLockWords, toldOf } from "./sinceLock.ts";

const EUR = { currency: "EUR", minorDigits: 2 };
const told = { spi: 0.95, cpi: 0.9, drift: 3, estimate: 120_000 };

describe("what has changed since a period was locked", () => {
  it("nothing, where what is shown is the same", () =>
    expect(sinceLockWords(told, { spi: 0.951, cpi: 0.899, drift: 3.04, estimate: 120_040 }, EUR)).toEqual([]));

  it("finish, estimate and indices, each in its direction", () => {
    expect(sinceLockWords(told, { spi: 0.91, cpi: null, drift: 5, estimate: 168_000 }, EUR)).toEqual([
      "finish 2 d later",
      "480 EUR more at completion",
      "SPI 0.95 → 0.91",
      "CPI 0.90 → –",
    ]);
    expect(sinceLockWords(told, { ...told, drift: 1.5, estimate: 90_000 }, EUR)).toEqual([
      "finish 1.5 d earlier",
      "300 EUR less at completion",
    ]);
  });

  it("amounts in the digits of their currency", () => {
    expect(sinceLockWords(told, { ...told, estimate: 121_000 }, { currency: "JPY", minorDigits: 0 })).toEqual([
      "1\u00a0000 JPY more at completion",
    ]);
    expect(sinceLockWords(told, { ...told, estimate: 121_000 }, { currency: "KWD", minorDigits: 3 })).toEqual([
      "1 KWD more at completion",
    ]);
  });

  it("is told of the newest period only, while it is locked and the data date stands on it", () => {
    const period = (number: number, dataDate: string, locked: boolean) => ({
      number,
      dataDate,
      locked,
      issuedOn: "",
      issuedBy: "",
      figures: null,
      drift: null,
    });
    const of = (dataDate: string, ...periods: ReturnType<typeof period>[]) =>
      lockedPeriod({ periods, summary: { dataDate } as never });
    const [eight, nine] = [period(8, "2026-11-06", true), period(9, "2026-11-13", true)];
    expect([
      of("2026-11-13", eight, nine)?.number,
      of("2026-11-20", eight, nine),
      of("2026-11-13", eight, { ...nine, locked: false }),
      of("2026-11-13"),
    ]).toEqual([9, null, null, null]);
    expect(toldOf({ figures: null, drift: null })).toEqual({ spi: null, cpi: null, drift: null, estimate: null });
  });
});
