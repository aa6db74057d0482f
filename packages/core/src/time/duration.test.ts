import fc from "fast-check";
import { eitherThousandOrDecimal, formatDuration, parseDuration } from "./duration.ts";

describe("a duration as it is typed", () => {
  it.each([
    ["3d", 1440],
    ["2.5 d", 1200],
    ["2w", 4800],
    ["4h", 240],
    ["90m", 90],
    ["1:30", 90],
    ["1,5", 720],
    ["2d4h", 1200],
    ["1w 2d", 3360],
    ["1w2d 3h 30m", 3570],
    ["1,5d 2h", 840],
  ])("%s is %i minutes of a day of eight hours", (text, minutes) =>
    expect(parseDuration(text, 480, "days")).toBe(minutes),
  );

  it.each(["", " ", "d", "4h2d", "2d 2d", "2d 4", "one day", "1w -2d", "1.2.3d", "1e3"])("“%s” is none", (text) =>
    expect(parseDuration(text, 480, "days")).toBeNull(),
  );

  it("is asked about where a comma could part thousands or decimals, and not where it cannot", () => {
    for (const text of ["1,000d", "12,500 h", "1,000d 2h"])
      expect([parseDuration(text, 480, "days"), eitherThousandOrDecimal(text)]).toEqual([
        null,
        text.slice(0, text.indexOf(",") + 4),
      ]);
    expect([
      parseDuration("1,25d", 480, "days"),
      parseDuration("1,0000d", 480, "days"),
      eitherThousandOrDecimal("1,25d"),
    ]).toEqual([600, 480, null]);
  });

  it("parts add up, whatever they are", () => {
    fc.assert(
      fc.property(fc.nat(20), fc.nat(20), fc.nat(20), fc.nat(59), (w, d, h, m) => {
        fc.pre(w + d + h + m > 0);
        expect(parseDuration(`${w}w ${d}d${h}h ${m}m`, 480, "days")).toBe(w * 2400 + d * 480 + h * 60 + m);
      }),
    );
  });

  it("what is written in quarters of a day or whole hours is read back", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), (quarters) =>
        expect(parseDuration(formatDuration(quarters * 120, 480), 480, "days")).toBe(quarters * 120),
      ),
    );
  });
});
