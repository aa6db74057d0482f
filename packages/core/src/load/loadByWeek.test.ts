import { startOfISOWeek } from "date-fns";
import fc from "fast-check";
import { schedulePlan } from "../network/schedule.ts";
import { planOf, STANDARD } from "../testing/plans.ts";
import { compileCalendars } from "../plan/compileCalendars.ts";
import {
  type EpochDay,
  epochDay,
  formatDate,
  parseDate,
  parseInstant,
  localMinute,
  type LocalMinute,
} from "../time/instant.ts";
import { demandsOf, loadByWeek, mondayOf, spreadOverWeeks } from "./loadByWeek.ts";

const calendars = compileCalendars(planOf([]).calendars).set;
const at = (text: string): LocalMinute => parseInstant(text)!;
const said = (weeks: [EpochDay, number][]): [string, number][] =>
  weeks.map(([monday, minutes]) => [formatDate(monday), minutes]);

describe("the week of a day", () => {
  it("begins on the Monday that a date library gives", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 40_000 }), (day) => {
        const [year, month, date] = formatDate(epochDay(day)).split("-").map(Number) as [number, number, number];
        const monday = startOfISOWeek(new Date(year, month - 1, date));
        // The library's week of the first days may begin before the horizon does.
        fc.pre(monday.getFullYear() >= 1990);
        expect(formatDate(mondayOf(epochDay(day)))).toBe(
          `${monday.getFullYear()}-${String(monday.getMonth() + 1).padStart(2, "0")}-${String(monday.getDate()).padStart(2, "0")}`,
        );
      }),
    );
  });
});

describe("work spread over weeks", () => {
  it("goes evenly over the working time: 40 h from a Thursday on are 16 h and 24 h", () => {
    expect(said(spreadOverWeeks(2400, at("2026-03-05T08:00"), at("2026-03-11T17:00"), calendars.get("std")))).toEqual([
      ["2026-03-02", 960],
      ["2026-03-09", 1440],
    ]);
  });

  it("stands in the last week where the window has no working time in it", () => {
    expect(said(spreadOverWeeks(600, at("2026-03-07T08:00"), at("2026-03-08T08:00"), calendars.get("std")))).toEqual([
      ["2026-03-02", 600],
    ]);
  });

  it("adds up to the whole, whatever the calendar and the window", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 200_000 }),
        fc.integer({ min: 0, max: 600_000 }),
        fc.integer({ min: 0, max: 200_000 }),
        fc.constantFrom("std", "seven", "nights"),
        (minutes, from, length, calendar) => {
          const weeks = spreadOverWeeks(
            minutes,
            localMinute(from + 19_000_000),
            localMinute(from + length + 19_000_000),
            calendars.get(calendar),
          );
          expect(weeks.reduce((sum, [, part]) => sum + part, 0)).toBe(minutes);
          expect(weeks.every(([monday, part]) => part > 0 && mondayOf(monday) === monday)).toBe(true);
        },
      ),
    );
  });
});

describe("people's load by week", () => {
  const people = [
    { id: "ann", name: "Ann" },
    { id: "bo", name: "Bo", calendar: "away" },
  ];
  const away = {
    id: "away",
    name: "Away",
    base: "std",
    exceptions: [{ from: "2026-03-09", to: "2026-03-11", shifts: [] }],
  };
  const plan = planOf(
    [
      { id: "a", name: "A", durationMinutes: 4800 },
      { id: "b", name: "B", durationMinutes: 2400, actualStart: "2026-03-02", percent: 50 },
      { id: "p", name: "P", durationMinutes: 480, parked: true },
    ],
    [],
    {
      project: { dataDate: "2026-03-04" } as never,
      calendars: [STANDARD, away],
      people,
      assignments: [
        { activity: "a", person: "ann", plannedMinutes: 4800 },
        { activity: "a", person: "bo", plannedMinutes: 1200 },
        { activity: "b", person: "ann", plannedMinutes: 2000 },
        { activity: "p", person: "ann", plannedMinutes: 480 },
      ],
      timeEntries: [
        { activity: "b", person: "ann", date: "2026-03-03", minutes: 300, state: "posted" },
        { activity: "b", person: "ann", date: "2026-03-04", minutes: 60, state: "submitted" },
      ],
    },
  );
  const load = loadByWeek(plan, schedulePlan(plan));
  const week = (person: string, monday: string) => load.get(person)?.get(parseDate(monday)!);

  it("counts what is left from the data date on, parked work not at all, and posted time where it was worked", () => {
    // a is laid out from Thursday 5 to Wednesday 18 March. Of b 1 000 min are left, over the 20 h to Monday 9 at noon; all 2 000
    // over the 44 h from Monday 2 on: 1 818 and 182.
    expect(week("ann", "2026-03-02")).toEqual({ demand: 960 + 800, things: 2, planned: 960 + 1818, posted: 300 });
    expect(week("ann", "2026-03-09")).toEqual({ demand: 2400 + 200, things: 2, planned: 2400 + 182, posted: 0 });
    expect(week("ann", "2026-03-16")).toEqual({ demand: 1440, things: 1, planned: 1440, posted: 0 });
  });

  it("asks of nobody what cannot go on yet: begun work that waits for another is laid into the time after it", () => {
    const held = planOf(
      [
        { id: "a", name: "A", durationMinutes: 480, actualStart: "2026-03-02", percent: 50 },
        { id: "w", name: "W", durationMinutes: 4800 },
      ],
      [{ from: "w", to: "a" }],
      {
        project: { dataDate: "2026-03-04" } as never,
        people,
        assignments: [{ activity: "a", person: "ann", plannedMinutes: 480 }],
      },
    );
    // w takes ten days from Thursday 5 on, to Wednesday 18; the half day that is left of a is worked on Thursday 19.
    expect(
      [...loadByWeek(held, schedulePlan(held)).get("ann")!]
        .filter(([, { demand }]) => demand > 0)
        .map(([monday, { demand }]) => [formatDate(monday), demand]),
    ).toEqual([["2026-03-16", 240]]);
  });

  it("spreads around a person's leave", () => {
    // Bo works 7 of the 10 days: 2 + 2 + 3.
    expect(week("bo", "2026-03-02")?.demand).toBe(Math.round((1200 * 2) / 7));
    expect(
      (week("bo", "2026-03-02")?.demand ?? 0) +
        (week("bo", "2026-03-09")?.demand ?? 0) +
        (week("bo", "2026-03-16")?.demand ?? 0),
    ).toBe(1200);
  });

  it("adds up, person by person, to what the assignments have left", () => {
    for (const person of ["ann", "bo"]) {
      const left = demandsOf(plan, schedulePlan(plan)).reduce(
        (sum, demand) => (demand.person === person ? sum + demand.remaining : sum),
        0,
      );
      expect([...load.get(person)!.values()].reduce((sum, { demand }) => sum + demand, 0)).toBe(left);
    }
  });
});
