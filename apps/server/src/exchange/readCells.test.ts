import fc from "fast-check";
import { format } from "date-fns";
import { columnLetters } from "./buildBundle.ts";
import { dateInOrder, dependsOnOrder, readCell, readNumber } from "./readCells.ts";
import type { Cell } from "./readFiles.ts";
import { asBrought, harmless } from "./toSheets.ts";

describe("numbers as people write them", () => {
  it.each<[Cell, number | null]>([
    [12, 12], ["12", 12], [" 12 ", 12], ["1,000", 1000], ["1.000", 1000], ["1 000", 1000], ["1\u00a0000", 1000], ["1\u202f000", 1000], ["1'000", 1000], ["1,234,567", 1_234_567], ["1.234.567", 1_234_567],
    ["1,5", 1.5], ["1.5", 1.5], ["1,234.5", 1234.5], ["1.234,5", 1234.5], ["-3", -3], ["+3", 3], [".5", 0.5], ["40%", 40], ["1e3", 1000],
    ["", null], ["twelve", null], ["1.5.2x", null], ["12 d", null], ["--3", null], [true, null], [null, null],
  ])("%j is %p", (cell, number) => {
    expect(readNumber(cell)).toBe(number);
  });

  it("a whole number is asked for where the column holds one", () => {
    expect(readCell("1.5", "int", undefined)).toEqual({ fault: "1.5 is not a whole number" });
    expect(readCell("1,500", "int", undefined)).toEqual({ value: 1500 });
    expect(readCell("x", "number", undefined)).toEqual({ fault: "\"x\" is no number" });
  });
});

describe("dates as people write them", () => {
  it.each<[string, string]>([
    ["2026-03-04", "2026-03-04"], ["4 Mar 2026", "2026-03-04"], ["4. March 2026", "2026-03-04"], ["04-Mar-26", "2026-03-04"], ["Mar 4, 2026", "2026-03-04"], ["4mar2026", "2026-03-04"],
  ])("%j can be read in one way", (text, date) => {
    expect([readCell(text, "date", undefined), dependsOnOrder(text)]).toEqual([{ value: date }, false]);
  });

  it.each<[string, string | null, string | null, string | null]>([
    ["04/03/2026", "2026-03-04", "2026-04-03", null], ["4.3.26", "2026-03-04", "2026-04-03", "2004-03-26"], ["25/03/2026", "2026-03-25", null, null], ["2026/03/04", null, null, "2026-03-04"], ["31.02.2026", null, null, null], ["04 03 2026", "2026-03-04", "2026-04-03", null],
  ])("%j by day, month, year is %p, by month first %p, by year first %p", (text, dmy, mdy, ymd) => {
    expect([dateInOrder(text, "dmy"), dateInOrder(text, "mdy"), dateInOrder(text, "ymd")]).toEqual([dmy, mdy, ymd]);
  });

  it("is not guessed where the order decides and nobody has said it", () => {
    expect(readCell("04/03/2026", "date", undefined)).toEqual({ fault: "\"04/03/2026\" can be read in more than one order; say which" });
    expect(readCell("04/03/2026", "date", "mdy")).toEqual({ value: "2026-04-03" });
  });

  it("written by a date library in four ways reads as the same day", () => {
    fc.assert(
      fc.property(fc.date({ min: new Date(1990, 0, 2), max: new Date(2099, 11, 30), noInvalidDate: true }), (day) => {
        const wanted = { value: format(day, "yyyy-MM-dd") };
        expect(readCell(format(day, "dd/MM/yyyy"), "date", "dmy")).toEqual(wanted);
        expect(readCell(format(day, "M/d/yyyy"), "date", "mdy")).toEqual(wanted);
        expect(readCell(format(day, "yyyy.MM.dd"), "date", "ymd")).toEqual(wanted);
        expect(readCell(format(day, "d MMMM yyyy"), "date", undefined)).toEqual(wanted);
      }),
    );
  });

  it("an instant keeps its time, a date cell is what the workbook says, an error in a cell is told", () => {
    expect(readCell("4/3/2026 8:30", "dateOrInstant", "dmy")).toEqual({ value: "2026-03-04T08:30" });
    expect(readCell({ date: "2026-03-04T08:30" }, "instant", undefined)).toEqual({ value: "2026-03-04T08:30" });
    expect(readCell({ date: "2026-03-04" }, "date", undefined)).toEqual({ value: "2026-03-04" });
    expect(readCell({ fault: "holds the error #REF!" }, "date", undefined)).toEqual({ fault: "holds the error #REF!" });
    expect(readCell(7, "date", undefined)).toEqual({ fault: "is not a date" });
  });
});

describe("other cells", () => {
  it.each<[Cell, unknown]>([["yes", true], ["X", true], [true, true], ["no", false], ["-", false], [0, false]])("%j is %p", (cell, value) => {
    expect(readCell(cell as never, "bool", undefined)).toEqual({ value });
  });

  it("shifts are a list of times, or none", () => {
    expect(readCell("8:00-12:00, 13:00 – 17:00", "shifts", undefined)).toEqual({ value: [["08:00", "12:00"], ["13:00", "17:00"]] });
    expect(readCell("none", "shifts", undefined)).toEqual({ value: [] });
    expect(readCell("morning", "shifts", undefined)).toEqual({ fault: expect.stringContaining("is no list of shifts") });
  });

  it("a number is an id too, and an id has no more than 64 characters", () => {
    expect([readCell(10, "id", undefined), readCell("x".repeat(65), "id", undefined)]).toEqual([{ value: "10" }, { fault: "is longer than 64 characters" }]);
  });

  it("text made harmless comes back as it was, and nothing that is written would run", () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.string().map((text) => `=${text}`), fc.string().map((text) => `'${text}`), fc.string().map((text) => `''-${text}`)), (text) => {
        expect(asBrought(harmless(text))).toBe(text);
        expect(harmless(text)).not.toMatch(/^[=+\-@\t\r]/);
      }),
      { numRuns: 1000 },
    );
  });

  it("columns are lettered as a spreadsheet shows them", () => {
    expect([0, 25, 26, 51, 52, 701, 702].map(columnLetters)).toEqual(["A", "Z", "AA", "AZ", "BA", "ZZ", "AAA"]);
  });
});
