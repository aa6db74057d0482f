import { Decimal } from "decimal.js";
import fc from "fast-check";
import { canonicalText } from "../baseline/freeze.ts";
import { formatDuration, formatHours, parseDuration } from "../time/duration.ts";
import {
  divRound,
  minorOf,
  mulDivCeil,
  mulDivRound,
  ratio,
  restOf,
  shareOfPercent,
  takeShare,
  wholes,
} from "./exact.ts";

/** round(a x b / c) half away from zero, said in whole numbers of any size. */
function slowly(a: number, b: number, c: number): number {
  const product = BigInt(a) * BigInt(b);
  const negative = product < 0n !== c < 0;
  const top = product < 0n ? -product : product;
  const bottom = BigInt(Math.abs(c));
  const down = top / bottom;
  const up = (top - down * bottom) * 2n >= bottom ? down + 1n : down;
  return up === 0n ? 0 : Number(negative ? -up : up);
}

const amount = fc.oneof(fc.integer({ min: -1000, max: 1000 }), fc.maxSafeInteger());

describe("exact figures", () => {
  it("products are formed whole before the one division, rounded half away from zero", () => {
    expect([
      mulDivRound(1, 1, 2),
      mulDivRound(-1, 1, 2),
      mulDivRound(1, 1, 3),
      mulDivRound(5, 1, -2),
      mulDivRound(0, 7, 3),
    ]).toEqual([1, -1, 0, -3, 0]);
    fc.assert(
      fc.property(
        amount,
        fc.integer({ min: -10_000_000, max: 10_000_000 }),
        fc.integer({ min: 1, max: 1_000_000 }),
        (a, b, c) => {
          expect(mulDivRound(a, b, c)).toBe(slowly(a, b, c));
          expect(divRound(BigInt(a) * BigInt(b), BigInt(c))).toBe(slowly(a, b, c));
        },
      ),
      { numRuns: 2000 },
    );
  });

  it("ceil(a x b / c) is the least whole number not below", () => {
    fc.assert(
      fc.property(fc.nat(1e9), fc.nat(1e6), fc.integer({ min: 1, max: 1e6 }), (a, b, c) => {
        const up = BigInt(mulDivCeil(a, b, c));
        expect(up * BigInt(c) >= BigInt(a) * BigInt(b) && (up - 1n) * BigInt(c) < BigInt(a) * BigInt(b)).toBe(true);
      }),
    );
  });

  it("decimals count as they are written: 33.3% of 1000 is 333, and 0.1 and 0.2 are a third", () => {
    expect([wholes([33.3, 100]), wholes([1e-7, 1]), wholes([3, 4])]).toEqual([
      [333, 1000],
      [1, 10_000_000],
      [3, 4],
    ]);
    expect([
      takeShare(1000, shareOfPercent(33.3)),
      takeShare(1000, restOf(shareOfPercent(33.3))),
      takeShare(3, shareOfPercent(50)),
    ]).toEqual([333, 667, 2]);
  });

  it("a part and the rest of it add up, give or take the one that rounding may add", () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), fc.integer({ min: 0, max: 1000 }), (whole, tenths) => {
        const share = shareOfPercent(tenths / 10);
        expect(Math.abs(takeShare(whole, share) + takeShare(whole, restOf(share)) - whole)).toBeLessThanOrEqual(1);
      }),
    );
  });

  it("a ratio with a zero denominator is not defined, and 0 has no sign", () => {
    expect([ratio(1, 0), ratio(0, 0), ratio(0, -5), ratio(1, 4)]).toEqual([null, null, 0, 0.25]);
    expect(Object.is(ratio(0, -5), 0)).toBe(true);
  });
});

describe("durations as people type them", () => {
  it.each<[string, number | null]>([
    ["3d", 1440],
    ["2.5d", 1200],
    ["2,5 d", 1200],
    [".5d", 240],
    ["2w", 4800],
    ["1 week", 2400],
    ["4h", 240],
    ["90m", 90],
    ["1:30", 90],
    ["0:05", 5],
    [" 3 D ", 1440],
    ["3", 1440],
    ["0d", 0],
    ["", null],
    ["d", null],
    ["-3d", null],
    ["3x", null],
    ["3d 4h", 1680],
    ["1:75", null],
    ["three", null],
    ["1e3d", null],
  ])("%j", (text, minutes) => {
    expect(parseDuration(text, 480, "days")).toBe(minutes);
  });

  it("a bare number is days in a plan and hours on the desk; a day is the calendar's own", () => {
    expect([
      parseDuration("2", 420, "days"),
      parseDuration("2", 420, "hours"),
      parseDuration("1d", 420, "hours"),
    ]).toEqual([840, 120, 420]);
  });

  it("what is written reads as the same, to the minute where it comes out even", () => {
    expect([
      formatDuration(1200, 480),
      formatDuration(60, 480),
      formatDuration(120, 480),
      formatDuration(100, 480),
      formatDuration(0, 480),
      formatDuration(48_100, 480),
    ]).toEqual(["2.5 d", "1 h", "0.25 d", "1.67 h", "0 h", "100.21 d"]);
    expect([formatHours(90), formatHours(50)]).toEqual(["1.5 h", "0.83 h"]);
    fc.assert(
      fc.property(fc.nat(400), (quarters) =>
        expect(parseDuration(formatDuration(quarters * 120, 480), 480, "days")).toBe(quarters * 120),
      ),
    );
  });
});

describe("the text a digest is made from", () => {
  it("is the same whatever the order of the keys, and another for any other content", () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.jsonValue()), (value) => {
        const turned = Object.fromEntries(Object.entries(value).reverse());
        expect(canonicalText(turned)).toBe(canonicalText(value));
        expect(JSON.parse(canonicalText(value))).toEqual(JSON.parse(JSON.stringify(value)));
      }),
    );
    expect(canonicalText({ a: [1, 2] })).not.toBe(canonicalText({ a: [2, 1] }));
  });
});

describe("an amount in minor units", () => {
  it.each([
    [1.005, 2, 101],
    [-1.005, 2, -101],
    [-0.5, 0, -1],
    [0.004, 2, 0],
    [12.3456, 3, 12_346],
    [1e-7, 2, 0],
    [250_000, 0, 250_000],
  ])("%p with %p digits is %p: the decimal as written, half away from zero", (amount, digits, minor) =>
    expect(minorOf(amount, digits)).toBe(minor),
  );

  it("agrees with decimal arithmetic for every amount that a ledger writes", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1e12, max: 1e12 }),
        fc.integer({ min: 0, max: 6 }),
        fc.constantFrom(0, 2, 3),
        (whole, decimals, digits) => {
          const amount = Number(`${whole}e-${decimals}`);
          const oracle = new Decimal(`${whole}e-${decimals}`)
            .times(new Decimal(10).pow(digits))
            .toDecimalPlaces(0, Decimal.ROUND_HALF_UP);
          expect(minorOf(amount, digits) - oracle.toNumber()).toBe(0);
        },
      ),
    );
  });
});
