import { readRate, withRate } from "./ExchangeRates.tsx";

describe("a rate as it is typed", () => {
  it.each([
    ["JPY 0.0061 from 1 Jan 2027", { currency: "JPY", rate: 0.0061, from: "2027-01-01" }],
    ["usd 0,92", { currency: "USD", rate: 0.92, from: "2026-01-01" }],
    ["KWD = 2.75 since 2026-06-01", { currency: "KWD", rate: 2.75, from: "2026-06-01" }],
  ])("%s", (text, wanted) => expect(readRate(text, { currency: "EUR" }, "2026")).toEqual(wanted));

  it.each(["JPY", "JPY 0", "JPY -1", "0.0061", "JPY 0.0061 from never", "YEN 1 2"])(
    "%s is refused with what to write",
    (text) => expect(readRate(text, { currency: "EUR" }, "2026")).toMatch(/^Write JPY/),
  );

  it("of the currency of sums is refused", () =>
    expect(readRate("EUR 1", { currency: "EUR" }, "2026")).toMatch(/needs no rate/));

  it("takes the place of one of the same day", () => {
    const old = { currency: "JPY", from: "2026-01-01", rate: 1 };
    expect(withRate([old, { ...old, from: "2026-02-01" }], { ...old, rate: 2 })).toEqual([
      { ...old, from: "2026-02-01" },
      { ...old, rate: 2 },
    ]);
  });
});
