import { withHolidays } from "./calendars/holidays.ts";
import fc from "fast-check";
import { computePlan, fromBundle, leaveOf, worksBy } from "@chronometra/core";
import { slipway } from "../plan/testing/plans.ts";
import { AMOUNT_FAULT, amountText, readAmount } from "../shared/words/amounts.ts";
import { readException } from "./calendars/Exceptions.tsx";
import { personRows } from "./leave.ts";
import { readShifts, shiftText, type Shifts } from "./calendars/shiftText.ts";

describe("shifts as they are typed", () => {
  it.each<[string, Shifts]>([
    [
      "8-12, 13-17",
      [
        ["08:00", "12:00"],
        ["13:00", "17:00"],
      ],
    ],
    [
      "08:00-12:00 13:00-17:00",
      [
        ["08:00", "12:00"],
        ["13:00", "17:00"],
      ],
    ],
    ["6.30 to 14:15", [["06:30", "14:15"]]],
    ["22-24", [["22:00", "24:00"]]],
    ["closed", []],
    ["", []],
  ])("%j is %j", (text, shifts) => expect(readShifts(text)).toEqual(shifts));

  it.each([
    ["17-8", /does not end after it begins/],
    ["8-12, 11-15", /begins before/],
    ["early", /is no shift/],
    ["8-25", /is no shift/],
  ])("%j is refused in words", (text, words) => {
    expect(readShifts(text)).toEqual({ fault: expect.stringMatching(words) as string });
  });

  it("are read back as they are written", () => {
    const two = (n: number): string => String(n).padStart(2, "0");
    const clock = (minute: number): string => `${two(Math.floor(minute / 60))}:${two(minute % 60)}`;
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 1440 }), { maxLength: 8 }), (minutes) => {
        const sorted = [...minutes].sort((a, b) => a - b);
        const shifts = Array.from({ length: Math.floor(sorted.length / 2) }, (_, i): [string, string] => [
          clock(sorted[2 * i]!),
          clock(sorted[2 * i + 1]!),
        ]);
        expect(readShifts(shiftText(shifts))).toEqual(shifts);
      }),
    );
  });
});

describe("days off as they are typed", () => {
  it.each([
    ["4 May 2026", { from: "2026-05-04", to: "2026-05-04", shifts: [] }],
    ["4 May to 8 May 2027: leave", { from: "2027-05-04", to: "2027-05-08", shifts: [], label: "leave" }],
    [
      "24 Dec 2026 to 3 Jan 2027: shutdown: all",
      { from: "2026-12-24", to: "2027-01-03", shifts: [], label: "shutdown: all" },
    ],
    ["4 May", { from: "2026-05-04", to: "2026-05-04", shifts: [] }],
  ])("%j is %j", (text, exception) => expect(readException(text, "2026")).toEqual(exception));
  it.each(["8 May to 4 May 2026", "sometime"])("%j is refused", (text) =>
    expect(readException(text, "2026")).toHaveProperty("fault"),
  );
});

describe("amounts as they are typed", () => {
  it.each<[string, number, number | null]>([
    ["1200", 2, 120_000],
    ["1200.5", 2, 120_050],
    ["1200,50", 2, 120_050],
    ["1 200.50", 2, 120_050],
    ["1,200.50", 2, 120_050],
    ["1.200,50", 2, 120_050],
    ["1.234.567", 2, 123_456_700],
    ["-3", 2, -300],
    ["0", 2, 0],
    ["1.200", 2, null],
    ["1,200", 0, 1200],
    ["1.005", 3, 1005],
    ["1,005", 3, null],
    ["1.005.250", 3, 1_005_250_000],
    ["0.125", 3, 125],
    ["1.2.3", 2, null],
    ["12.345", 2, null],
    ["x", 2, null],
  ])("%j with %p digits is %p", (text, digits, minor) => expect(readAmount(text, digits)).toBe(minor));

  it("are read back as they are written, for every number of digits", () => {
    fc.assert(
      fc.property(fc.integer({ min: -10_000_000, max: 10_000_000 }), fc.constantFrom(0, 2, 3, 4), (minor, digits) =>
        expect(readAmount(amountText(minor, digits), digits)).toBe(minor),
      ),
    );
    expect(AMOUNT_FAULT).toMatch(/1200/);
  });
});

describe("someone's leave", () => {
  const base = { ...slipway(), people: [{ id: "ann", name: "Ann" }] };
  const plan = fromBundle(base);
  const ann = plan.people.get("ann")!;
  const leave = [
    { from: "2026-03-09", to: "2026-03-10", shifts: [] },
    { from: "2026-03-03", to: "2026-03-04", shifts: [] },
  ];

  it("is a calendar of their own that rests on the one they work by; without leave none is made", () => {
    expect(personRows(plan, ann, undefined, [])).toEqual([{ table: "people", row: { id: "ann", name: "Ann" } }]);
    const rows = personRows(plan, ann, undefined, leave);
    expect(rows.map(({ row, ifMissing }) => [row.id, ifMissing ?? false])).toEqual([
      ["std", true],
      ["leave-ann", false],
      ["ann", false],
    ]);
    expect(rows[1]!.row).toMatchObject({ base: "std", exceptions: [{ from: "2026-03-03" }, { from: "2026-03-09" }] });
  });

  it("is read back, and moves what they drive by exactly the days they are away", () => {
    const stored = fromBundle({
      ...base,
      people: [{ id: "ann", name: "Ann", calendar: "leave-ann" }],
      calendars: [...base.calendars, { id: "leave-ann", name: "Ann’s days", base: "std", exceptions: leave }],
    });
    expect([leaveOf(stored, stored.people.get("ann")!), worksBy(stored, stored.people.get("ann")!)]).toEqual([
      leave,
      "std",
    ]);
    const driven = (calendars: typeof base.calendars, calendar?: string) =>
      computePlan({
        ...base,
        calendars,
        people: [{ id: "ann", name: "Ann", ...(calendar === undefined ? {} : { calendar }) }],
        activities: base.activities.map((activity) =>
          activity.id === "dig" ? { ...activity, driver: "effort" as const } : activity,
        ),
        assignments: [{ activity: "dig", person: "ann", plannedMinutes: 2400 }],
      });
    const days = (computed: ReturnType<typeof computePlan>): number =>
      computed.schedule.calendars.get("std").indexAt(computed.schedule.finish!) / 480;
    expect(days(driven([...stored.calendars.values()], "leave-ann")) - days(driven(base.calendars))).toBe(4);
  });
});

describe("public holidays added to a calendar", () => {
  const holiday = (from: string, name: string) => ({ from, to: from, name });
  const worked: [string, string][] = [["08:00", "12:00"]];
  /** What holds on a day: of several the last in the list. */
  const on = (exceptions: readonly { from: string; to: string; shifts: readonly unknown[] }[], day: string) =>
    exceptions.filter(({ from, to }) => from <= day && day <= to).at(-1)?.shifts.length;

  it("leave what was said of a day, and say so; those that are closed already are not added twice", () => {
    const own = [
      { from: "2026-12-27", to: "2026-12-31", shifts: [] },
      { from: "2026-12-26", to: "2026-12-26", shifts: worked, label: "launch" },
    ];
    const { exceptions, added, kept } = withHolidays(own, [
      holiday("2026-12-25", "Yule"),
      holiday("2026-12-26", "Second day"),
      holiday("2026-12-31", "Eve"),
    ]);
    expect([added, kept.map(({ name }) => name)]).toEqual([2, ["Second day"]]);
    expect([on(exceptions, "2026-12-25"), on(exceptions, "2026-12-26"), on(exceptions, "2026-12-28")]).toEqual([
      0, 1, 0,
    ]);
  });

  it("change the order of nothing that was there, since the later in the list holds", () => {
    const own = [
      { from: "2026-12-24", to: "2026-12-24", shifts: worked },
      { from: "2026-12-20", to: "2026-12-31", shifts: [] },
    ];
    const { exceptions } = withHolidays(own, [holiday("2026-01-01", "New year")]);
    expect(exceptions.slice(-2)).toEqual(own);
    expect(on(exceptions, "2026-12-24")).toBe(0);
  });
});
