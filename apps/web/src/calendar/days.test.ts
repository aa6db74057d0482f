import type { CalendarEntry } from "@chronometra/contract";
import { differenceInCalendarDays, endOfMonth, getISOWeek, parseISO, startOfISOWeek, startOfMonth } from "date-fns";
import fc from "fast-check";
import { byDay, extentOf, folded, shifted, spansOf, turned, weekNumber, weeksOf } from "./days.ts";

const day = fc.integer({ min: 0, max: 30_000 }).map((n) => shifted("2000-01-01", n));
const entry = (id: string, over: Partial<CalendarEntry> = {}): CalendarEntry => ({
  ...{ id, kind: "leave", from: "2026-12-01", to: "2026-12-01", name: id, words: "away", tone: "plain", done: false },
  ...{ project: null, activity: null, link: null, mayMove: false },
  ...over,
});

describe("the weeks of a view", () => {
  // Against date-fns, a general-purpose library for dates.
  it("are those of the month, whole, from Monday, each numbered as ISO 8601 says", () => {
    fc.assert(
      fc.property(day, (date) => {
        const weeks = weeksOf("month", date);
        const [first, last] = [startOfMonth(parseISO(date)), endOfMonth(parseISO(date))];
        expect(differenceInCalendarDays(parseISO(weeks[0]![0]!), startOfISOWeek(first))).toBe(0);
        expect(differenceInCalendarDays(parseISO(weeks.at(-1)![0]!), startOfISOWeek(last))).toBe(0);
        for (const week of weeks) {
          expect(week).toHaveLength(7);
          expect(weekNumber(week[0]!)).toBe(getISOWeek(parseISO(week[0]!)));
        }
        expect(weeks.flat().every((each, i) => each === shifted(weeks[0]![0]!, i))).toBe(true);
      }),
    );
  });

  it("follow each other: what comes after what comes before is where one was", () => {
    fc.assert(
      fc.property(day, fc.constantFrom("month" as const, "week" as const), (date, view) => {
        const back = turned(view, turned(view, date, 1)!, -1)!;
        expect(weeksOf(view, back)).toEqual(weeksOf(view, date));
      }),
    );
    expect(turned("month", "2026-12-31", 1)).toBe("2027-01-01");
    expect(turned("month", "2027-01-15", -1)).toBe("2026-12-01");
  });

  it("end where plans know no days any more, and are whole there too", () => {
    for (const view of ["month", "week"] as const) {
      expect([turned(view, "2099-12-31", 1), turned(view, "1990-01-01", -1)]).toEqual([null, null]);
      expect(weeksOf(view, "2099-12-31").at(-1)!.at(-1)).toBe("2100-01-03");
      expect(extentOf(weeksOf(view, "2099-12-31")).to).toBe("2099-12-31");
      expect(extentOf(weeksOf(view, "1990-01-01")).from).toBe("1990-01-01");
    }
  });
});

describe("absences in a week", () => {
  it("lie in lines in which no two meet, whatever they are", () => {
    const absence = fc.record({ from: fc.integer({ min: -10, max: 10 }), days: fc.nat(20) });
    fc.assert(
      fc.property(fc.array(absence, { maxLength: 12 }), (all) => {
        const week = weeksOf("week", "2026-12-01")[0]!;
        const entries = all
          .map(({ from, days }, i) =>
            entry(String(i), { from: shifted(week[0]!, from), to: shifted(week[0]!, from + days) }),
          )
          .sort((a, b) => a.from.localeCompare(b.from));
        const spans = spansOf(week, entries);
        for (const { entry: of, first, last } of spans)
          for (const [i, each] of week.entries())
            expect(i >= first && i <= last).toBe(of.from <= each && of.to >= each);
        for (const a of spans)
          for (const b of spans)
            if (a !== b && a.line === b.line) expect(a.last < b.first || b.last < a.first).toBe(true);
        const inside = entries.filter(({ from, to }) => from <= week[6]! && to >= week[0]!);
        expect(spans.map(({ entry: of }) => of.id)).toEqual(inside.map(({ id }) => id));
      }),
    );
  });
});

it("meetings of one name are one line of a day, with how many; all else stands by itself", () => {
  const meeting = (id: string, name: string) => entry(id, { kind: "meeting", name });
  const on = byDay([
    meeting("a", "Site"),
    entry("m", { kind: "milestone" }),
    meeting("b", "Site"),
    meeting("c", "Board"),
  ]);
  expect(folded(on.get("2026-12-01")!).map(({ entry: { id }, times }) => [id, times])).toEqual([
    ["a", 2],
    ["m", 1],
    ["c", 1],
  ]);
  expect(byDay([entry("leave"), entry("box", { kind: "timebox" })]).size).toBe(0);
});
