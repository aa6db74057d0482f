import fc from "fast-check";
import Decimal from "decimal.js";
import { commonMoney, rateOn, type Exchange, type Money } from "./exchange.ts";

const EUR: Money = { currency: "EUR", minorDigits: 2 };
const JPY: Money = { currency: "JPY", minorDigits: 0 };
const KWD: Money = { currency: "KWD", minorDigits: 3 };
const TABLE: Exchange = {
  currency: "EUR",
  minorDigits: 2,
  rates: [
    { currency: "KWD", from: "2026-01-01", rate: 2.75 },
    { currency: "JPY", from: "2026-01-01", rate: 0.006 },
    { currency: "JPY", from: "2026-06-01", rate: 0.0061 },
  ],
};

describe("amounts of several currencies", () => {
  it("are taken as they are where all are of one currency, with the most digits that any has", () => {
    const { money, convert, used } = commonMoney([KWD, { currency: "KWD", minorDigits: 0 }], null, "2026-03-01");
    expect([money, used, convert(1500, KWD), convert(7, { currency: "KWD", minorDigits: 0 })]).toEqual([
      KWD,
      [],
      1500,
      7000,
    ]);
  });

  it("of 0, 2 and 3 digits come together at the rates of the day", () => {
    const before = commonMoney([EUR, JPY, KWD], TABLE, "2026-05-31");
    const after = commonMoney([EUR, JPY, KWD], TABLE, "2026-06-01");
    expect(before.money).toEqual(EUR);
    // 5 280 624 yen at 0.006 are 31 683.744 euro; 1.125 dinar at 2.75 are 3.09375.
    expect([
      before.convert(5_280_624, JPY),
      after.convert(5_280_624, JPY),
      before.convert(1125, KWD),
      before.convert(-1, EUR),
    ]).toEqual([3_168_374, 3_221_181, 309, -1]);
    expect(after.used.map(({ currency, from }) => [currency, from])).toEqual([
      ["JPY", "2026-06-01"],
      ["KWD", "2026-01-01"],
    ]);
  });

  it("make no sum without a rate, and say which is missing", () => {
    expect(commonMoney([EUR, JPY, KWD], { ...TABLE, rates: [] }, "2026-05-31")).toMatchObject({
      money: null,
      missing: ["JPY", "KWD"],
    });
    expect(commonMoney([EUR, JPY], TABLE, "2025-12-31")).toMatchObject({ money: null, missing: ["JPY"] });
    expect(commonMoney([EUR, JPY], null, "2026-05-31")).toMatchObject({ money: null, missing: ["EUR", "JPY"] });
    expect(commonMoney([], TABLE, "2026-05-31")).toMatchObject({ money: null, missing: [] });
  });

  it("are converted even where none is of the group's currency", () => {
    expect(commonMoney([JPY, KWD], TABLE, "2026-05-31").money).toEqual(EUR);
  });

  it("law: a conversion is the exact product, rounded half away from zero, as a decimal library forms it", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1e12, max: 1e12 }),
        fc.integer({ min: 1, max: 1e8 }),
        fc.constantFrom(0, 2, 3),
        fc.constantFrom(0, 2, 3),
        (minor, millionths, fromDigits, toDigits) => {
          const rate = millionths / 1e6;
          const exchange: Exchange = {
            currency: "AAA",
            minorDigits: toDigits,
            rates: [{ currency: "BBB", from: "2026-01-01", rate }],
          };
          const { convert } = commonMoney(
            [
              { currency: "AAA", minorDigits: toDigits },
              { currency: "BBB", minorDigits: fromDigits },
            ],
            exchange,
            "2026-02-02",
          );
          const wanted = new Decimal(minor)
            .times(new Decimal(millionths).div(1e6))
            .div(new Decimal(10).pow(fromDigits))
            .times(new Decimal(10).pow(toDigits))
            .toDecimalPlaces(0, Decimal.ROUND_HALF_UP)
            .toNumber();
          expect(convert(minor, { currency: "BBB", minorDigits: fromDigits })).toBe(wanted === 0 ? 0 : wanted);
        },
      ),
    );
  });

  it("the latest rate from the day or before is in force, in whatever order the table stands", () => {
    expect(rateOn({ ...TABLE, rates: [...TABLE.rates].reverse() }, "JPY", "2026-07-01")?.rate).toBe(0.0061);
    expect(rateOn(TABLE, "JPY", "2026-05-31")?.rate).toBe(0.006);
  });
});
