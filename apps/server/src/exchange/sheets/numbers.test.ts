import fc from "fast-check";
import { numberIn, readNumber, styleOfColumn, stylesOf } from "./numbers.ts";
import type { Cell } from "./cells.ts";

describe("a number by itself", () => {
  it.each<[string, number]>([
    ["12", 12],
    [" 12 ", 12],
    ["1 000", 1000],
    ["1\u00a0000", 1000],
    ["1\u202f000", 1000],
    ["1'000", 1000],
    ["1’000", 1000],
    ["1,234,567", 1_234_567],
    ["1.234.567", 1_234_567],
    ["1,5", 1.5],
    ["1.5", 1.5],
    ["1,234.5", 1234.5],
    ["1.234,5", 1234.5],
    ["-3", -3],
    ["+3", 3],
    [".5", 0.5],
    ["40%", 40],
    ["1e3", 1000],
    ["0.125", 0.125],
    ["0,125", 0.125],
    ["1234.500", 1234.5],
    ["1234,500", 1234.5],
    ["12.50", 12.5],
    ["1000.123", 1000.123],
  ])("%j can be read in one way: %d", (text, number) => expect(readNumber(text, null)).toEqual({ value: number }));

  it.each(["12.500", "12,500", "1.000", "2.375", "-1,125"])("%j can be read in two, and is asked about", (text) => {
    expect(stylesOf(text, false)).toEqual(["point", "comma"]);
    expect(readNumber(text, null)).toEqual({ fault: expect.stringMatching(/can be read as .* or as .*; say which/) });
  });

  it.each<[Cell]>([[""], ["twelve"], ["1.5.2x"], ["12 d"], ["--3"], ["1.23.456"], ["1,2,3"], [true], [null]])(
    "%j is none",
    (cell) => expect(readNumber(cell, null)).toEqual({ fault: expect.stringContaining("is no number") }),
  );

  it("a whole number has no decimals to be told from thousands", () => {
    expect([readNumber("1.500", null, true), readNumber("1,500", null, true), stylesOf("1.000", true)]).toEqual([
      { value: 1500 },
      { value: 1500 },
      ["point", "comma"],
    ]);
  });
});

describe("a column of numbers", () => {
  const read = (cells: string[]): unknown[] =>
    cells
      .map((cell) => readNumber(cell, styleOfColumn(cells, false).style))
      .map((each) => ("value" in each ? each.value : each.fault));

  it("is written as those of its cells that leave no doubt", () => {
    expect(read(["12.500", "1234.500"])).toEqual([12.5, 1234.5]);
    expect(read(["12.500", "1.234,50"])).toEqual([12500, 1234.5]);
    expect(read(["2,375", "0,5"])).toEqual([2.375, 0.5]);
  });

  it("that is written both ways is told cell by cell", () => {
    expect(read(["1,5", "1.5", "12.500"])).toEqual([1.5, 1.5, expect.stringMatching(/written both ways/)]);
  });

  it("says which cell is doubtful", () =>
    expect(styleOfColumn(["12", "12.500", 7, null, "x"], false)).toEqual({ style: null, doubtful: "12.500" }));

  it("written in one way throughout, however many thousands and decimals, is read back exactly", () => {
    const numbers = fc.array(
      fc.tuple(fc.integer({ min: -9_999_999, max: 9_999_999 }), fc.integer({ min: 0, max: 999 })),
      { minLength: 1, maxLength: 30 },
    );
    for (const [locale, style] of [
      ["en", "point"],
      ["de", "comma"],
    ] as const) {
      fc.assert(
        fc.property(numbers, fc.boolean(), (parts, grouped) => {
          const values = parts.map(([whole, thousandths]) =>
            Number(`${whole}.${String(thousandths).padStart(3, "0")}`),
          );
          const cells = values.map((value) =>
            value.toLocaleString(locale, { useGrouping: grouped, minimumFractionDigits: 3 }),
          );
          const told = styleOfColumn(cells, false).style;
          // Where no cell leaves no doubt there is nothing to go by, and it is asked.
          expect(told === null || told === style).toBe(true);
          cells.forEach((cell, i) => expect(numberIn(cell, style)).toBe(values[i]));
        }),
      );
    }
  });
});
