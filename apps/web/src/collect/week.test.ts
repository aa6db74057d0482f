import type { WeekView } from "@chronometra/contract";
import { asLastWeek, bookedOn, cellTotal, dayNote, shiftDays } from "./weekSums.ts";

const cell = (posted: number, waiting = 0) => ({ posted, waiting, returned: 0, notes: [] });
const week = (from: string, cells: ReturnType<typeof cell>[], open = true): WeekView => ({
  from,
  sheet: null,
  today: "2026-03-11",
  days: Array.from({ length: 7 }, (_, i) => ({ date: shiftDays(from, i), expectedMinutes: i < 5 ? 480 : 0 })),
  rows: [
    {
      project: "p",
      projectName: "P",
      activity: "a",
      name: "Dig",
      open,
      cells: [...cells, ...Array.from({ length: 7 - cells.length }, () => cell(0))],
    },
  ],
});

describe("a week's sums", () => {
  it("take waiting and accepted together", () => {
    const of = week("2026-03-09", [cell(60, 30), cell(0, 45)]);
    expect([bookedOn(of, 0), bookedOn(of, 1), bookedOn(of, 2)]).toEqual([90, 45, 0]);
    expect([
      cellTotal(of, { project: "p", activity: "a", date: "2026-03-09" }),
      cellTotal(of, { project: "p", activity: "x", date: "2026-03-09" }),
    ]).toEqual([90, 0]);
  });

  it.each<[string, number, number, string | null]>([
    ["2026-03-10", 480, 0, "nothing booked"],
    ["2026-03-11", 480, 0, null],
    ["2026-03-10", 0, 0, null],
    ["2026-03-10", 0, 60, "not a day of work"],
    ["2026-03-10", 480, 480, null],
    ["2026-03-10", 480, 721, "a long day"],
  ])("on %s, %p expected and %p booked: %p", (date, expectedMinutes, booked, note) =>
    expect(dayNote({ date, expectedMinutes }, booked, "2026-03-11")).toBe(note),
  );

  it("last week's hours go into empty cells of open work that are not to come", () => {
    const last = week("2026-03-02", [cell(60), cell(0, 120), cell(30), cell(90)]);
    expect(asLastWeek(week("2026-03-09", [cell(0), cell(15)]), last)).toEqual([
      { project: "p", activity: "a", date: "2026-03-09", minutes: 60 },
      { project: "p", activity: "a", date: "2026-03-11", minutes: 30 },
    ]);
    expect(asLastWeek(week("2026-03-09", [], false), last)).toEqual([]);
  });

  it("days are counted over months and years", () =>
    expect([shiftDays("2026-02-27", 2), shiftDays("2026-01-01", -1)]).toEqual(["2026-03-01", "2025-12-31"]));
});
