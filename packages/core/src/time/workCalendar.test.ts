import { addBusinessDays, differenceInCalendarDays, eachDayOfInterval, format, isWeekend } from "date-fns";
import fc from "fast-check";
import { NIGHTS, SEVEN_DAYS, STANDARD } from "../testing/plans.ts";
import { compileCalendars } from "../plan/compileCalendars.ts";
import {
  closeOf,
  epochDay,
  formatDate,
  formatInstant,
  HORIZON_DAYS,
  type LocalMinute,
  MINUTES_PER_DAY,
  openOf,
  parseDate,
  parseInstant,
  weekdayOf,
  localMinute,
  workMinutes,
} from "./instant.ts";
import { OutsideHorizon } from "./workCalendar.ts";

const { set } = compileCalendars([STANDARD, SEVEN_DAYS, NIGHTS]);
const at = (text: string): LocalMinute => parseInstant(text)!;

describe("dates", () => {
  it("count as a date library counts them, over the whole horizon", () => {
    const days = eachDayOfInterval({ start: new Date(1990, 0, 1), end: new Date(2099, 11, 31) });
    expect(days).toHaveLength(HORIZON_DAYS);
    days.forEach((day, i) => {
      const text = format(day, "yyyy-MM-dd");
      if (
        parseDate(text) !== i ||
        formatDate(epochDay(i)) !== text ||
        weekdayOf(epochDay(i)) !== (day.getDay() + 6) % 7
      )
        throw new Error(text);
    });
  });

  it.each([
    "2026-02-29",
    "2026-13-01",
    "2026-00-10",
    "1989-12-31",
    "2100-01-01",
    "26-01-01",
    "2026-1-1",
    "2026-01-0x",
    "",
  ])("%p is none", (text) => {
    expect(parseDate(text)).toBeNull();
  });
});

describe("working time", () => {
  const standard = set.get("std");

  it("Friday 17:00 and Monday 08:00 have one index; a finish is Friday, a start is Monday", () => {
    const index = standard.indexAt(at("2026-03-06T17:00"));
    expect(standard.indexAt(at("2026-03-09T08:00"))).toBe(index);
    expect(formatInstant(standard.finishAt(index))).toBe("2026-03-06T17:00");
    expect(formatInstant(standard.startAt(index))).toBe("2026-03-09T08:00");
  });

  it("adds working days as a date library does", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 30_000 }), fc.integer({ min: 1, max: 900 }), (day, count) => {
        const first = new Date(1990, 0, 1 + day);
        const from = isWeekend(first) ? addBusinessDays(first, 1) : first;
        const last = addBusinessDays(from, count - 1);
        const startDay = epochDay(differenceInCalendarDays(from, new Date(1990, 0, 1)));
        const finish = standard.finishAt(workMinutes(standard.indexAt(openOf(startDay)) + count * 480));
        expect(formatInstant(finish)).toBe(`${format(last, "yyyy-MM-dd")}T17:00`);
      }),
    );
  });

  it("a window from 1 October to 31 December 2015 less three holidays is 63 working days (common practice, no source)", () => {
    const holidays = {
      ...STANDARD,
      exceptions: ["2015-11-26", "2015-11-27", "2015-12-25"].map((day) => ({ from: day, to: day, shifts: [] })),
    };
    const calendar = compileCalendars([holidays]).set.get("std");
    const minutes =
      calendar.indexAt(closeOf(parseDate("2015-12-31")!)) - calendar.indexAt(openOf(parseDate("2015-10-01")!));
    expect(minutes / calendar.dayMinutes).toBe(63);
  });

  it("a later exception wins, and a week beside a base replaces its week but keeps its exceptions", () => {
    const nights = set.get("nights");
    expect(nights.minutesOn(parseDate("2026-03-12")!)).toBe(0);
    expect(nights.minutesOn(parseDate("2026-03-14")!)).toBe(60);
    expect(nights.minutesOn(parseDate("2026-03-26")!)).toBe(300);
    expect(nights.minutesOn(parseDate("2026-03-27")!)).toBe(0);
  });

  for (const id of ["std", "seven", "nights"]) {
    it(`${id}: W counts, S is the latest and F the earliest instant of an index, minute by minute`, () => {
      const calendar = set.get(id);
      const from = openOf(parseDate("2026-03-01")!);
      let last = calendar.indexAt(from);
      for (let t = from + 1; t < from + 30 * MINUTES_PER_DAY; t++) {
        const index = calendar.indexAt(localMinute(t));
        const grew = index - last;
        if (grew !== 0 && grew !== 1) throw new Error(`grew by ${grew} at ${t}`);
        if (grew === 1 && (calendar.finishAt(index) !== t || calendar.startAt(last) !== t - 1))
          throw new Error(`wrong inverse at ${t}`);
        last = index;
      }
    });

    it(`${id}: W(S(i)) = W(F(i)) = i, and F(i) <= S(i)`, () => {
      const calendar = set.get(id);
      fc.assert(
        fc.property(fc.integer({ min: 1, max: calendar.total - 1 }).map(workMinutes), (i) => {
          expect(calendar.indexAt(calendar.startAt(i))).toBe(i);
          expect(calendar.indexAt(calendar.finishAt(i))).toBe(i);
          expect(calendar.finishAt(i)).toBeLessThanOrEqual(calendar.startAt(i));
        }),
      );
    });
  }

  it("a calendar that works one minute in a century still finds it", () => {
    const rare = compileCalendars([
      {
        id: "r",
        name: "Rare",
        week: {},
        exceptions: [{ from: "2050-05-05", to: "2050-05-05", shifts: [["12:00", "12:01"]] }],
      },
    ]);
    expect(rare.problems).toEqual([]);
    expect(formatInstant(rare.set.get("r").startAt(workMinutes(0)))).toBe("2050-05-05T12:00");
    expect(() => rare.set.get("r").startAt(workMinutes(1))).toThrow(OutsideHorizon);
  });
});

describe("calendars that are refused", () => {
  const cases: [string, Parameters<typeof compileCalendars>[0], string][] = [
    ["never works", [{ id: "x", name: "Idle", week: {} }], "never works"],
    [
      "has its last day taken away",
      [
        {
          id: "x",
          name: "Idle",
          week: STANDARD.week!,
          exceptions: [{ from: "1990-01-01", to: "2099-12-31", shifts: [] }],
        },
      ],
      "never works",
    ],
    [
      "has a shift that ends before it begins",
      [{ id: "x", name: "X", week: { mon: [["12:00", "08:00"]] } }],
      "does not end after it begins",
    ],
    [
      "has shifts that overlap",
      [
        {
          id: "x",
          name: "X",
          week: {
            mon: [
              ["08:00", "12:00"],
              ["11:00", "13:00"],
            ],
          },
        },
      ],
      "without overlap",
    ],
    ["has an unknown base", [{ id: "x", name: "X", base: "nowhere" }], "does not exist"],
    [
      "is based on itself",
      [
        { id: "x", name: "X", base: "y" },
        { id: "y", name: "Y", base: "x" },
      ],
      "loop",
    ],
    ["has neither week nor base", [{ id: "x", name: "X" }], "neither a week nor a base"],
    [
      "has an exception that ends before it begins",
      [{ ...STANDARD, exceptions: [{ from: "2026-02-02", to: "2026-02-01", shifts: [] }] }],
      "before it begins",
    ],
  ];
  it.each(cases)("one that %s", (_title, calendars, message) => {
    const [problem] = compileCalendars(calendars).problems;
    expect(problem).toMatchObject({ table: "calendars", message: expect.stringContaining(message) });
  });
});
