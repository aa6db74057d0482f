import fc from "fast-check";
import { format } from "date-fns";
import { columnLetters } from "./cells.ts";
import { dateInOrder, dependsOnOrder, readCell, soleOrder, type HowRead } from "./readCells.ts";
import type { Cell } from "./cells.ts";
import { asBrought, harmless } from "./toSheets.ts";

const PLAIN: HowRead = { numbers: null };

describe("dates as people write them", () => {
  it.each<[string, string]>([
    ["2026-03-04", "2026-03-04"],
    ["4 Mar 2026", "2026-03-04"],
    ["4. March 2026", "2026-03-04"],
    ["04-Mar-26", "2026-03-04"],
    ["Mar 4, 2026", "2026-03-04"],
    ["4mar2026", "2026-03-04"],
  ])("%j can be read in one way", (text, date) => {
    expect([readCell(text, "date", PLAIN), dependsOnOrder(text)]).toEqual([{ value: date }, false]);
  });

  it.each<[string, string | null, string | null, string | null]>([
    ["04/03/2026", "2026-03-04", "2026-04-03", null],
    ["4/3/26", "2026-03-04", "2026-04-03", "2004-03-26"],
    ["24.11.2026", "2026-11-24", null, null],
    ["4.3.2026", "2026-03-04", null, null],
    ["25/03/2026", "2026-03-25", null, null],
    ["2026/03/04", null, null, "2026-03-04"],
    ["31.02.2026", null, null, null],
    ["04 03 2026", "2026-03-04", "2026-04-03", null],
  ])("%j by day, month, year is %p, by month first %p, by year first %p", (text, dmy, mdy, ymd) => {
    expect([dateInOrder(text, "dmy"), dateInOrder(text, "mdy"), dateInOrder(text, "ymd")]).toEqual([dmy, mdy, ymd]);
  });

  it("parted by points with the year in full leaves no doubt", () => {
    expect([readCell("4.3.2026", "date", PLAIN), soleOrder("4.3.2026"), soleOrder("4/3/2026")]).toEqual([
      { value: "2026-03-04" },
      "dmy",
      null,
    ]);
  });

  it("is not guessed where the order decides and nobody has said it", () => {
    expect(readCell("04/03/2026", "date", PLAIN)).toEqual({
      fault: '"04/03/2026" can be read in more than one order; say which',
    });
    expect(readCell("04/03/2026", "date", { order: "mdy", numbers: null })).toEqual({ value: "2026-04-03" });
  });

  it("written by a date library in four ways reads as the same day", () => {
    fc.assert(
      fc.property(fc.date({ min: new Date(1990, 0, 2), max: new Date(2099, 11, 30), noInvalidDate: true }), (day) => {
        const wanted = { value: format(day, "yyyy-MM-dd") };
        expect(readCell(format(day, "dd/MM/yyyy"), "date", { order: "dmy", numbers: null })).toEqual(wanted);
        expect(readCell(format(day, "M/d/yyyy"), "date", { order: "mdy", numbers: null })).toEqual(wanted);
        expect(readCell(format(day, "yyyy.MM.dd"), "date", { order: "ymd", numbers: null })).toEqual(wanted);
        expect(readCell(format(day, "d MMMM yyyy"), "date", PLAIN)).toEqual(wanted);
      }),
    );
  });

  it("an instant keeps its time, a date cell is what the workbook says, an error in a cell is told", () => {
    expect(readCell("4/3/2026 8:30", "dateOrInstant", { order: "dmy", numbers: null })).toEqual({
      value: "2026-03-04T08:30",
    });
    expect(readCell({ date: "2026-03-04T08:30" }, "instant", PLAIN)).toEqual({ value: "2026-03-04T08:30" });
    expect(readCell({ date: "2026-03-04" }, "date", PLAIN)).toEqual({ value: "2026-03-04" });
    expect(readCell({ fault: "holds the error #REF!" }, "date", PLAIN)).toEqual({ fault: "holds the error #REF!" });
    expect(readCell(7, "date", PLAIN)).toEqual({ fault: "is not a date" });
  });
});

describe("durations of time", () => {
  const hours = (cell: Cell) => readCell(cell as never, "hours", PLAIN);
  it("are hours where hours are meant: a number, a clock, a unit, or a cell that a spreadsheet keeps as a time", () => {
    expect([
      hours(1.5),
      hours("8:30"),
      hours("2 d"),
      hours("90m"),
      hours("1d 4h"),
      hours({ minutes: 510, shown: "08:30" }),
      hours({ minutes: 2160, shown: "36:00" }),
    ]).toEqual([1.5, 8.5, 16, 1.5, 12, 8.5, 36].map((value) => ({ value })));
    expect(readCell({ minutes: 510, shown: "08:30" }, "minutes", PLAIN)).toEqual({ value: 510 });
    expect(readCell("2 d", "days", PLAIN)).toEqual({ value: 2 });
    expect(readCell("1.5", "minutes", PLAIN)).toEqual({ fault: "1.5 is not a whole number of minutes" });
    expect(hours("soon")).toEqual({ fault: '"soon" is no duration; write 8:30, 8.5 h or 2 d' });
  });

  it("are shown as the person sees them, where they are not meant", () => {
    expect(readCell({ minutes: 510, shown: "08:30" }, "text", PLAIN)).toEqual({ value: "08:30" });
    expect(readCell({ minutes: 510, shown: "08:30" }, "number", PLAIN)).toEqual({ fault: '"08:30" is no number' });
  });
});

describe("other cells", () => {
  it.each<[Cell, unknown]>([
    ["yes", true],
    ["X", true],
    [true, true],
    ["no", false],
    ["-", false],
    [0, false],
  ])("%j is %p", (cell, value) => {
    expect(readCell(cell as never, "bool", PLAIN)).toEqual({ value });
  });

  it("shifts are a list of times, or none", () => {
    expect(readCell("8:00-12:00, 13:00 – 17:00", "shifts", PLAIN)).toEqual({
      value: [
        ["08:00", "12:00"],
        ["13:00", "17:00"],
      ],
    });
    expect(readCell("none", "shifts", PLAIN)).toEqual({ value: [] });
    expect(readCell("morning", "shifts", PLAIN)).toEqual({ fault: expect.stringContaining("is no list of shifts") });
  });

  it("a number is an id too, and an id has no more than 64 characters", () => {
    expect([readCell(10, "id", PLAIN), readCell("x".repeat(65), "id", PLAIN)]).toEqual([
      { value: "10" },
      { fault: "is longer than 64 characters" },
    ]);
  });

  it("text made harmless comes back as it was, and nothing that is written would run", () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.string().map((text) => `=${text}`),
          fc.string().map((text) => `'${text}`),
          fc.string().map((text) => `''-${text}`),
        ),
        (text) => {
          expect(asBrought(harmless(text))).toBe(text);
          expect(harmless(text)).not.toMatch(/^[=+\-@\t\r]/);
        },
      ),
      { numRuns: 1000 },
    );
  });

  it("columns are lettered as a spreadsheet shows them", () => {
    expect([0, 25, 26, 51, 52, 701, 702].map(columnLetters)).toEqual(["A", "Z", "AA", "AZ", "BA", "ZZ", "AAA"]);
  });
});
