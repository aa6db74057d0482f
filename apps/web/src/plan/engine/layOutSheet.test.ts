import { computePlan, fromBundle, openOf, parseDate, type PlanBundle } from "@chronometra/core";
import fc from "fast-check";
import { laneShapes, extentOf } from "../chart/laneShapes.ts";
import { MAX_PIXELS_PER_DAY, MIN_PIXELS_PER_DAY, ticksOf, widthOf, xOf, type Scale } from "../chart/scale.ts";
import { layOutSheet } from "./layOutSheet.ts";
import type { SheetRow } from "./sheet.ts";
import type { Typed } from "./planEngine.ts";
import { SHEET_COLUMNS } from "../grid/columns/sheetColumns.ts";
import { slipway } from "../testing/plans.ts";

const sheetOf = (plan: PlanBundle) => layOutSheet(fromBundle(plan), plan, computePlan(plan));
const rowOf = (plan: PlanBundle, id: string): SheetRow => sheetOf(plan).rows.find((row) => row.id === id)!;
const at = (date: string): number => openOf(parseDate(date)!);
const SCALE: Scale = { from: at("2026-03-02"), to: at("2026-04-01"), pixelsPerDay: 10 };
const READING = {
  today: "2026-11-24",
  people: [
    { id: "ama", name: "Amadou Diallo" },
    { id: "ann", name: "Ann" },
    { id: "anna", name: "Anna" },
  ],
  calendars: [{ id: "std", name: "Standard" }],
  minorDigits: 2,
};
const late = slipway((activities) =>
  activities.map((activity) => (activity.id === "dig" ? { ...activity, durationMinutes: 3360 } : activity)),
);
const early = slipway((activities) =>
  activities.map((activity) => (activity.id === "dig" ? { ...activity, durationMinutes: 960 } : activity)),
);

describe("a plan laid out in rows", () => {
  it("branches stand whole, in the order of the table, with how deep they are, what is above them and their WBS code", () => {
    expect(
      sheetOf(late).rows.map(({ id, depth, parent, children, wbs }) => [id, depth, parent, children, wbs]),
    ).toEqual([
      ["open", 0, null, 0, "1"],
      ["works", 0, null, 4, "2"],
      ["pour", 1, "works", 0, "2.1"],
      ["dig", 1, "works", 0, "2.2"],
      ["paint", 1, "works", 0, "2.3"],
      ["later", 1, "works", 0, "2.4"],
    ]);
  });

  it("drift is the core's slip; a summary's runs from the last approved finish below it to the last current one", () => {
    expect(sheetOf(late).rows.map(({ id, drift }) => [id, drift])).toEqual([
      ["open", 2],
      ["works", 2],
      ["pour", 2],
      ["dig", 2],
      ["paint", 0],
      ["later", null],
    ]);
    expect(rowOf(late, "works").approved).toMatchObject({ startDate: "2026-03-02", finishDate: "2026-03-11" });
  });

  it("parked work has no dates and no approved window; work without a duration is counted as without dates", () => {
    expect(rowOf(late, "later")).toMatchObject({ parked: true, dates: null, approved: null });
    const plan = slipway((activities) => [...activities, { id: "u", name: "Unknown" }]);
    expect([sheetOf(plan).unscheduled, rowOf(plan, "u").dates]).toEqual([1, null]);
  });
});

describe("a lane of the time chart", () => {
  const lane = (plan: PlanBundle, id: string) => laneShapes(rowOf(plan, id), SCALE);
  const day = (date: string, hour: number): number => xOf(SCALE, at(date) + hour * 60);

  it("has the approved window as a bracket, the current one as a band, and a wedge between their finishes", () => {
    const shapes = lane(late, "dig");
    expect(shapes.bracket).toEqual([day("2026-03-02", 8), day("2026-03-06", 17)]);
    expect(shapes.band).toEqual([day("2026-03-02", 8), day("2026-03-10", 17)]);
    expect(shapes.wedge).toEqual({ from: day("2026-03-06", 17), to: day("2026-03-10", 17), late: true });
    expect(shapes.label).toEqual({ x: day("2026-03-10", 17) + 6, words: "2 d late", tone: "adverse" });
  });

  it("an early one has its wedge turned back and its words beyond the approved finish", () => {
    const shapes = lane(early, "dig");
    expect(shapes.wedge).toMatchObject({ late: false });
    expect(shapes.wedge!.to).toBeLessThan(shapes.wedge!.from);
    expect(shapes.label).toMatchObject({ x: day("2026-03-06", 17) + 6, words: "3 d early", tone: "favourable" });
  });

  it("what finishes on the day has neither wedge nor words", () => {
    expect(lane(late, "paint")).toMatchObject({ wedge: null, label: null });
  });

  it("critical work has a keel, work with float a tail that ends where the float does", () => {
    const free = slipway((activities) =>
      activities.map((activity) => (activity.id === "open" ? { ...activity, deadline: "2026-03-31" } : activity)),
    );
    expect(lane(free, "dig")).toMatchObject({ keel: true, tail: null });
    expect(lane(free, "paint").tail).toEqual([day("2026-03-02", 17), day("2026-03-11", 17)]);
  });

  it("the done part follows the percent, all of it once complete", () => {
    const begun = slipway(
      (activities) =>
        activities.map((activity) =>
          activity.id === "dig" ? { ...activity, actualStart: "2026-03-02", percent: 50 } : activity,
        ),
      "2026-03-04",
    );
    const shapes = lane(begun, "dig");
    expect(shapes.doneTo).toBeCloseTo((shapes.band![0] + shapes.band![1]) / 2, 6);
    const done = slipway(
      (activities) =>
        activities.map((activity) =>
          activity.id === "dig" ? { ...activity, actualStart: "2026-03-02", actualFinish: "2026-03-04" } : activity,
        ),
      "2026-03-04",
    );
    expect(lane(done, "dig").doneTo).toBe(lane(done, "dig").band![1]);
    expect(lane(done, "dig").keel).toBe(false);
  });

  it("a milestone is two pennants, a deadline a line at its day's close", () => {
    expect(lane(late, "open")).toMatchObject({
      band: null,
      bracket: null,
      pennants: { approved: day("2026-03-11", 17), now: day("2026-03-13", 17) },
      deadline: day("2026-03-13", 24),
    });
  });

  it("parked work draws nothing but where it is moored", () => {
    expect(lane(late, "later").moored).not.toBeNull();
    expect(lane(late, "dig").moored).toBeNull();
    expect(lane(late, "later")).toMatchObject({
      bracket: null,
      band: null,
      wedge: null,
      tail: null,
      pennants: null,
      label: null,
    });
  });

  it("what is critical carries a keel, a milestone too; level of effort is drawn as what it spans", () => {
    expect(lane(late, "open")).toMatchObject({ keel: true, spans: false });
    const watched = slipway((activities) => [
      ...activities,
      { id: "watch", name: "Watch", kind: "levelOfEffort" as const },
    ]);
    const spanned = {
      ...watched,
      links: [
        ...watched.links!,
        { from: "dig", to: "watch", type: "SS" as const },
        { from: "pour", to: "watch", type: "FF" as const },
      ],
    };
    expect(lane(spanned, "watch")).toMatchObject({ spans: true, keel: false, tail: null });
    expect(lane(spanned, "watch").band).not.toBeNull();
  });

  it("the chart reaches over all windows, deadlines and the data date", () => {
    expect(extentOf(sheetOf(late).rows, "2026-03-25", "2026-03-02")).toEqual({
      from: at("2026-03-02") + 480,
      to: at("2026-03-26"),
    });
    // Without a date at all it is the project's own start.
    expect(extentOf([], null, "2026-03-02")).toEqual({ from: at("2026-03-02"), to: at("2026-03-02") });
  });
});

describe("the chart's head", () => {
  it.each<[number, string, string]>([
    [220, "2 Mar 2026", "3h"],
    [130, "2 Mar 2026", "6h"],
    [20, "Mar 2026", "2"],
    [5, "Mar 2026", "2"],
    [2, "2026", "Mar"],
    [0.5, "2026", "Jan"],
    [0.2, "2026", "Jan"],
  ])("at %p pixels a day names %s and below it %s", (pixelsPerDay, major, minor) => {
    const ticks = ticksOf({ ...SCALE, pixelsPerDay });
    expect(ticks.major.map(({ label }) => label)).toContain(major);
    expect(ticks.minor.map(({ label }) => label)).toContain(minor);
  });

  it("says month and year together at every zoom, each mark with room for its words", () => {
    fc.assert(
      fc.property(
        fc.double({ min: Math.log(MIN_PIXELS_PER_DAY), max: Math.log(MAX_PIXELS_PER_DAY), noNaN: true }),
        (zoom) => {
          const { major, minor } = ticksOf({
            from: at("2026-01-01"),
            to: at("2028-06-01"),
            pixelsPerDay: Math.exp(zoom),
          });
          expect(major.every(({ label }) => /\b2\d{3}$/.test(label))).toBe(true);
          expect([...major, ...minor].some(({ label }) => label.includes("Jan"))).toBe(true);
          for (const ticks of [major, minor])
            ticks.slice(1).forEach(({ x }, i) => expect(x - ticks[i]!.x).toBeGreaterThan(ticks[i]!.label.length * 5));
        },
      ),
    );
  });

  it("marks stand at Mondays, first days of months and years, from left to right", () => {
    const year: Scale = { from: at("2026-02-10"), to: at("2027-03-01"), pixelsPerDay: 2 };
    const { minor, major } = ticksOf(year);
    expect(minor[1]).toEqual({ x: xOf(year, at("2026-03-01")), label: "Mar" });
    expect(major.map(({ label }) => label)).toEqual(["2026", "2027"]);
    expect(minor.every(({ x }, i) => i === 0 || x > minor[i - 1]!.x)).toBe(true);
    expect(ticksOf({ ...SCALE, pixelsPerDay: 5 }).minor.slice(0, 2)).toEqual([
      { x: 0, label: "2" },
      { x: 35, label: "9" },
    ]);
    expect(widthOf(SCALE)).toBe(300);
  });

  it("reaches to the ends of the horizon", () => {
    expect(
      ticksOf({ from: at("2095-01-01"), to: at("2099-12-31"), pixelsPerDay: 2 }).major.map(({ label }) => label),
    ).toEqual(["2095", "2096", "2097", "2098", "2099"]);
  });
});

describe("what is typed into a cell", () => {
  const type = (column: string, id: string, text: string, plan = late): Typed =>
    SHEET_COLUMNS.find((each) => each.id === column)!.read!(text, rowOf(plan, id), READING);

  it.each<[string, string, string, Typed]>([
    ["length", "dig", "3d", { changes: [{ type: "setDuration", activity: "dig", minutes: 1440 }] }],
    ["length", "dig", "2w", { changes: [{ type: "setDuration", activity: "dig", minutes: 4800 }] }],
    ["length", "dig", "7 d", { changes: [] }],
    ["length", "dig", "", { changes: [{ type: "setDuration", activity: "dig", minutes: null }] }],
    ["length", "dig", "0", { fault: expect.stringContaining("make it a milestone") as string }],
    ["length", "dig", "soon", { fault: expect.stringContaining("Write a duration") as string }],
    ["done", "dig", "50%", { changes: [{ type: "reportProgress", activity: "dig", percent: 50 }] }],
    ["done", "dig", "-1", { fault: expect.stringContaining("between 0 and 100") as string }],
    ["done", "dig", "", { changes: [] }],
    ["left", "dig", "4h", { changes: [{ type: "reportProgress", activity: "dig", remainingMinutes: 240 }] }],
    ["began", "dig", "24 Nov", { changes: [{ type: "reportProgress", activity: "dig", actualStart: "2026-11-24" }] }],
    [
      "ended",
      "dig",
      "2026-12-01",
      { changes: [{ type: "reportProgress", activity: "dig", actualFinish: "2026-12-01" }] },
    ],
    ["deadline", "open", "2026-03-13", { changes: [] }],
    ["deadline", "open", "", { changes: [{ type: "setDeadline", activity: "open", date: null }] }],
    ["deadline", "open", "13/03/2026", { fault: expect.stringContaining("Write a date") as string }],
    ["owner", "works", "amadou", { changes: [{ type: "setWorking", activity: "works", owner: "ama" }] }],
    ["owner", "dig", "Ann", { changes: [{ type: "setWorking", activity: "dig", owner: "ann" }] }],
    ["owner", "dig", "An", { fault: expect.stringContaining("could be Ann, Anna") as string }],
    ["owner", "dig", "", { changes: [] }],
    ["calendar", "dig", "stand", { changes: [{ type: "setWorking", activity: "dig", calendar: "std" }] }],
    ["calendar", "dig", "Moon", { fault: "There is no calendar “Moon”." }],
    [
      "driven",
      "dig",
      "hours",
      { changes: [{ type: "setWorking", activity: "dig", driver: "effort", windowPolicy: null }] },
    ],
    [
      "driven",
      "dig",
      "may drift",
      { changes: [{ type: "setWorking", activity: "dig", driver: null, windowPolicy: "drift" }] },
    ],
    ["driven", "dig", "duration", { changes: [] }],
    [
      "wish",
      "dig",
      "not before 4 May: crane",
      {
        changes: [
          { type: "setWish", activity: "dig", wish: { type: "startNotBefore", date: "2026-05-04", reason: "crane" } },
        ],
      },
    ],
    [
      "wish",
      "dig",
      "2026-05-04",
      { changes: [{ type: "setWish", activity: "dig", wish: { type: "startNotBefore", date: "2026-05-04" } }] },
    ],
    [
      "wish",
      "dig",
      "finish by 4 May 2026",
      { changes: [{ type: "setWish", activity: "dig", wish: { type: "finishNotAfter", date: "2026-05-04" } }] },
    ],
    ["wish", "dig", "soon", { fault: expect.stringContaining("Write a wish") as string }],
    ["wish", "dig", "", { changes: [] }],
  ])("%s of %s: %j", (column, id, text, wanted) => {
    expect(type(column, id, text)).toEqual(wanted);
  });

  it("a summary's dates and a milestone's duration are not to be typed, and it is said why", () => {
    const closed = (column: string, id: string): string | null =>
      SHEET_COLUMNS.find((each) => each.id === column)!.closed!(rowOf(late, id));
    expect([
      closed("length", "works"),
      closed("length", "open"),
      closed("began", "works"),
      closed("deadline", "works"),
      closed("length", "later"),
    ]).toEqual([expect.any(String), expect.any(String), expect.any(String), null, "It is parked: wake it first."]);
  });
});
