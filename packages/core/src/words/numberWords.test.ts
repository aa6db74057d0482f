import fc from "fast-check";
import { countWords, dayWords, moneyWords, numberWords, percentWords, ratioWords, ungrouped } from "./numberWords.ts";
import { formatHours, parseDuration } from "../time/duration.ts";

describe("numbers as they are written", () => {
  it.each([
    [numberWords(0), "0"],
    [numberWords(-0.04), "0"],
    [numberWords(1234), "1\u00a0234"],
    [numberWords(-1_234_567.85), "-1\u00a0234\u00a0567.9"],
    [numberWords(0.25), "0.3"],
    [numberWords(-0.25), "-0.3"],
    [numberWords(2, 2, 2), "2.00"],
    [moneyWords(123_456, 2), "1\u00a0235"],
    [moneyWords(123_456, 0), "123\u00a0456"],
    [moneyWords(123_456, 3), "123"],
    [moneyWords(null, 2), "–"],
    [percentWords(0.4256), "43%"],
    [percentWords(0.4256, 1), "42.6%"],
    [ratioWords(0.9994), "0.999"],
    [ratioWords(1.0996), "1.10"],
    [dayWords(2.5), "2.5 d"],
    [countWords(1, "row", "rows"), "1 row"],
    [countWords(2000, "row", "rows"), "2\u00a0000 rows"],
  ])("%s", (said, wanted) => expect(said).toBe(wanted));

  it("no setting of the machine changes them", () => {
    expect(new Intl.NumberFormat("de").format(1234.5)).toBe("1.234,5");
    expect(numberWords(1234.5)).toBe("1\u00a0234.5");
  });

  it("what is written is read back, groups and all", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 60 * 1_000_000 }), (quarters) => {
        const minutes = quarters * 15;
        expect(parseDuration(formatHours(minutes), 480, "hours")).toBe(minutes);
        expect(Number(ungrouped(numberWords(minutes)))).toBe(minutes);
      }),
    );
  });
});
