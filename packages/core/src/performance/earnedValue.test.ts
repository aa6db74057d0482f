import fc from "fast-check";
import { analyse } from "../analyse.ts";
import { freezePlan } from "../baseline/freeze.ts";
import type { Activity, Credit, PlanBundle } from "../plan/schema.ts";
import { baselined, EARNED, late, PLANNED, row } from "../testing/measured.ts";
import { planOf } from "../testing/plans.ts";
import { compileCalendars } from "../plan/compileCalendars.ts";
import { closeOf, epochDay, formatDate, parseDate, type LocalMinute } from "../time/instant.ts";
import { figuresOf, type Sums } from "./figures.ts";
import { plannedRows, plannedValueAt, totalPlannedValueAt } from "./plannedValue.ts";

const DAY = 480;
const figures = (plan: PlanBundle) => analyse(plan).performance!;

describe("published examples of earned value", () => {
  // Rita Mulcahy, PMP Exam Prep, the four sides of a fence; from memory.
  it("the fence: four sides of 1000, a day each; on the third day two are done and half of the third", () => {
    const sides = ["2026-01-05", "2026-01-06", "2026-01-07", "2026-01-08"];
    const activities: Activity[] = sides.map((day, i) => ({
      id: `side ${i + 1}`,
      name: `Side ${i + 1}`,
      durationMinutes: DAY,
      ...(i < 2 ? { actualStart: day, actualFinish: day } : i === 2 ? { actualStart: day, percent: 50 } : {}),
    }));
    const plan = baselined(
      activities,
      sides.map((day, i) => row(`side ${i + 1}`, day, day, { even: 1000 })),
      "2026-01-07",
      {
        actualCosts: [
          ["side 1", 1000],
          ["side 2", 1200],
          ["side 3", 600],
        ].map(([activity, amountMinor]) => ({
          activity: activity as string,
          date: "2026-01-07",
          amountMinor: amountMinor as number,
        })),
      },
    );
    const { project } = figures(plan);
    expect(project).toMatchObject({
      bac: 4000,
      pv: 3000,
      ev: 2500,
      ac: 2800,
      cv: -300,
      sv: -500,
      eac: 4480,
      etc: 1680,
      vac: -480,
    });
    expect(project.cpi).toBeCloseTo(0.893, 3);
    expect(project.spi).toBeCloseTo(0.833, 3);
    expect(project.tcpiBac).toBeCloseTo(1.25, 9);
  });

  // Project Management Institute, A Guide to the PMBOK, the usual exercise on estimates at completion; from memory.
  it("BAC 100 000, PV 50 000, EV 40 000, AC 60 000: EAC 150 000, 120 000 and 172 500 by the three formulas", () => {
    const plan = baselined(
      [{ id: "A", name: "A", percent: 40, actualStart: "2026-01-05", durationMinutes: 10 * DAY }],
      [row("A", "2026-01-05", "2026-01-16", { even: 100_000 })],
      "2026-01-09",
      { actualCosts: [{ activity: "A", date: "2026-01-06", amountMinor: 60_000 }] },
    );
    // (100 000 - 40 000) / (0.6667 x 0.8) = 112 500.
    expect(figures(plan).project).toMatchObject({
      pv: 50_000,
      ev: 40_000,
      ac: 60_000,
      eac: 150_000,
      eacRemaining: 120_000,
      eacCpiSpi: 172_500,
      vac: -50_000,
    });
  });
});

describe("earned schedule", () => {
  it.each(EARNED.map((ev, i) => [i + 1, ev]))("Lipke's late project after %i months", (month, ev) => {
    const { project, earnedSchedule } = analyse(late(month), { period: "month" }).performance!;
    const closed = PLANNED.filter((value) => value <= ev).length;
    const es =
      closed === 12 ? 12 : closed + (ev - (PLANNED[closed - 1] ?? 0)) / (PLANNED[closed]! - (PLANNED[closed - 1] ?? 0));
    expect(project).toMatchObject({ ev, pv: PLANNED[Math.min(month, 12) - 1] });
    expect(earnedSchedule).toMatchObject({ pd: 12, at: month });
    expect(earnedSchedule.es).toBeCloseTo(es, 9);
  });

  it("SPI of a finished project ends at 1 however late it was; SPI(t) does not (common practice, no source)", () => {
    const { project, earnedSchedule } = analyse(late(15), { period: "month" }).performance!;
    expect([project.spi, earnedSchedule.spit, earnedSchedule.svt]).toEqual([1, 0.8, -3]);
    expect(earnedSchedule.forecastFinish).toBe("2027-03-31");
  });

  it("nothing earned is ES 0, all earned is PD, and without a budget it is not defined", () => {
    const one = (percent: number, even: number) =>
      analyse(
        baselined(
          [{ id: "A", name: "A", percent, durationMinutes: DAY }],
          [row("A", "2026-01-05", "2026-01-16", { even })],
          "2026-01-09",
        ),
      ).performance!.earnedSchedule;
    expect(one(0, 1000)).toMatchObject({ es: 0, at: 5, pd: 10, spit: 0, forecastDuration: null, forecastFinish: null });
    expect(one(100, 1000)).toMatchObject({ es: 10, spit: 2, forecastDuration: 5, forecastFinish: "2026-01-09" });
    expect(one(50, 0)).toMatchObject({ es: null, spit: null });
  });

  it("before the baseline's start no time has passed", () => {
    expect(
      analyse(
        baselined(
          [{ id: "A", name: "A", durationMinutes: DAY }],
          [row("A", "2026-02-02", "2026-02-06", { even: 10 })],
          "2026-01-30",
        ),
      ).performance!.earnedSchedule,
    ).toMatchObject({ at: 0, spit: null });
  });

  it.each(["workday", "week", "month"] as const)("before the start no time has passed, counted by %s", (period) => {
    const plan = baselined(
      [{ id: "A", name: "A", durationMinutes: DAY }],
      [row("A", "2026-02-02", "2026-02-06", { even: 10 })],
      "2025-11-28",
    );
    expect(analyse(plan, { period }).performance!.earnedSchedule).toMatchObject({ at: 0, es: 0 });
  });

  it("of a plan that gives money back on the way, the latest time at which no more was planned counts", () => {
    // Planned at the ends of Monday to Thursday: 10, 110, 50, 150; 60 is earned.
    const plan = baselined(
      [
        { id: "A", name: "A", percent: 60, durationMinutes: DAY },
        { id: "B", name: "B" },
      ],
      [
        row("B", "2026-03-02", "2026-03-02", { finish: 10 }),
        row("A", "2026-03-03", "2026-03-03", { finish: 100 }),
        row("C", "2026-03-04", "2026-03-04", { finish: -60 }),
        row("D", "2026-03-05", "2026-03-05", { finish: 100 }),
      ],
      "2026-03-05",
    );
    expect(analyse(plan).performance!.earnedSchedule.es).toBe(3 + (60 - 50) / 100);
  });
});

describe("rules of credit", () => {
  const earned = (credit: Credit | undefined, rest: Partial<Activity> = {}, dataDate = "2026-01-07"): number =>
    figures(
      baselined(
        [{ id: "A", name: "A", durationMinutes: DAY, ...(credit === undefined ? {} : { credit }), ...rest }],
        [row("A", "2026-01-05", "2026-01-08", { even: 1000 })],
        dataDate,
      ),
    ).activities["A"]!.ev;
  const started = { actualStart: "2026-01-05" };
  const finished = { actualStart: "2026-01-05", actualFinish: "2026-01-07" };
  const STEPS: Credit = {
    rule: "steps",
    steps: [
      { name: "a", weight: 1, doneOn: "2026-01-06" },
      { name: "b", weight: 2, doneOn: "2026-01-08" },
      { name: "c", weight: 1 },
    ],
  };
  const LADDER = [
    ["begun", 10],
    ["under way", 50],
    ["being checked", 90],
    ["done", 100],
  ].map(([name, credit]) => ({ name: name as string, credit: credit as number }));

  it.each<[string, number, number]>([
    ["reported: the percent reported", earned(undefined, { percent: 37 }), 370],
    ["reported: nothing said is nothing earned", earned(undefined), 0],
    ["zeroHundred before the end", earned({ rule: "zeroHundred" }, { ...started, percent: 99 }), 0],
    ["zeroHundred at the end", earned({ rule: "zeroHundred" }, finished), 1000],
    ["startFinish 25/75 not begun", earned({ rule: "startFinish", startCredit: 25 }, { percent: 50 }), 0],
    ["startFinish 25/75 begun", earned({ rule: "startFinish", startCredit: 25 }, started), 250],
    ["startFinish 25/75 finished", earned({ rule: "startFinish", startCredit: 25 }, finished), 1000],
    ["steps: those dated by the data date", earned(STEPS), 250],
    ["steps: a day later two of them", earned(STEPS, {}, "2026-01-08"), 750],
    ["units done of all", earned({ rule: "units", unitsTotal: 8, unitsDone: 3 }), 375],
    ["units: more than there are earns all", earned({ rule: "units", unitsTotal: 8, unitsDone: 9 }), 1000],
    ["units: parts of a unit", earned({ rule: "units", unitsTotal: 0.3, unitsDone: 0.1 }), 333],
    ["stages: a usual ladder, at the second rung", earned({ rule: "stages", stages: LADDER, stage: "under way" }), 500],
    ["stages: at the last", earned({ rule: "stages", stages: LADDER, stage: "done" }), 1000],
    ["levelOfEffort: what was planned", earned({ rule: "levelOfEffort" }), 750],
    ["levelOfEffort: finished too", earned({ rule: "levelOfEffort" }, finished), 750],
  ])("%s", (_title, ev, wanted) => {
    expect(ev).toBe(wanted);
  });

  it.each<[string, number, number]>([
    [
      "a milestone reached by its actual start has earned",
      earned(
        { rule: "zeroHundred" },
        { kind: "milestone", durationMinutes: undefined as never, actualStart: "2026-01-06" },
      ),
      1000,
    ],
    ["dropped: reported, its percent", earned(undefined, { ...finished, percent: 40, dropped: true }), 400],
    ["dropped: nothing said is nothing earned", earned(undefined, { ...finished, dropped: true }), 0],
    [
      "dropped: zeroHundred earns nothing",
      earned({ rule: "zeroHundred" }, { ...finished, percent: 90, dropped: true }),
      0,
    ],
    [
      "dropped: startFinish, what its start earned",
      earned({ rule: "startFinish", startCredit: 25 }, { ...finished, dropped: true }),
      250,
    ],
    ["dropped: the steps that were done", earned(STEPS, { ...finished, dropped: true }), 250],
    [
      "dropped: the units that were done",
      earned({ rule: "units", unitsTotal: 8, unitsDone: 3 }, { ...finished, dropped: true }),
      375,
    ],
    [
      "dropped: the stage it stood in",
      earned({ rule: "stages", stages: LADDER, stage: "begun" }, { ...finished, dropped: true }),
      100,
    ],
    [
      "dropped: levelOfEffort, what was planned",
      earned({ rule: "levelOfEffort" }, { ...finished, dropped: true }),
      750,
    ],
    [
      "a dropped milestone was not reached",
      earned(undefined, {
        kind: "milestone",
        durationMinutes: undefined as never,
        actualStart: "2026-01-06",
        actualFinish: "2026-01-06",
        percent: 100,
        dropped: true,
      }),
      0,
    ],
  ])("%s", (_title, ev, wanted) => {
    expect(ev).toBe(wanted);
  });

  it("dropped work costs no more, is no promise kept or broken, and checks 11 and 14 count it nowhere", () => {
    const ended = { actualStart: "2026-01-05", actualFinish: "2026-01-09", dropped: true } as const;
    const plan = baselined(
      [
        { id: "A", name: "A", durationMinutes: 4 * DAY, deadline: "2026-01-08", percent: 50, ...ended },
        { id: "B", name: "B", durationMinutes: DAY, actualStart: "2026-01-05", actualFinish: "2026-01-05" },
      ],
      [row("A", "2026-01-05", "2026-01-08", { even: 1000 }), row("B", "2026-01-05", "2026-01-05", { even: 10 })],
      "2026-01-09",
      {
        people: [{ id: "p", name: "P", rates: [{ from: "2026-01-01", perHourMinor: 100 }] }],
        assignments: [{ activity: "A", person: "p", plannedMinutes: 600, remainingMinutes: 300 }],
        costs: [
          { id: "c", activity: "A", category: "x", plannedMinor: 90 },
          { id: "d", activity: "A", category: "x", plannedMinor: 7, timing: "finish" },
        ],
      },
    );
    const { performance, deadlines, quality, schedule } = analyse(plan);
    expect(performance!.project).toMatchObject({ bac: 1010, ev: 510, eacBottomUp: 0 });
    expect([schedule.activities["A"]!.state, deadlines["A"]]).toEqual([
      "complete",
      { deadline: "2026-01-08", finish: "2026-01-09", marginDays: null, state: "dropped" },
    ]);
    expect([quality.checks[10]!.count, quality.checks[10]!.outOf, quality.checks[13]!.value]).toEqual([0, 1, 1]);
    expect(freezePlan(plan).activities[0]).toMatchObject({ id: "A", finish: "2026-01-08T17:00" });
  });

  const follower = (to: Activity, rest: Activity[] = []): number =>
    figures(
      baselined(
        [to, ...rest, { id: "F", name: "F", durationMinutes: DAY, credit: { rule: "apportioned", to: to.id } }],
        [
          row("A", "2026-01-05", "2026-01-08", { even: 300 }),
          row("B", "2026-01-05", "2026-01-08", { even: 100 }),
          row("F", "2026-01-05", "2026-01-08", { even: 1000 }),
        ],
        "2026-01-07",
      ),
    ).activities["F"]!.ev;
  it("apportioned: the percent of another, of a summary, of level of effort, through a chain, of parked work none", () => {
    const summary: Activity = { id: "S", name: "S", kind: "summary" };
    const below: Activity[] = [
      { id: "A", name: "A", parent: "S", durationMinutes: DAY, percent: 50 },
      { id: "B", name: "B", parent: "S", durationMinutes: DAY },
    ];
    expect(follower({ id: "A", name: "A", durationMinutes: DAY, percent: 30 })).toBe(300);
    expect(follower(summary, below)).toBe(375);
    expect(follower({ id: "A", name: "A", kind: "levelOfEffort" })).toBe(750);
    expect(
      follower({ id: "A", name: "A", durationMinutes: DAY, credit: { rule: "apportioned", to: "B" } }, [
        { id: "B", name: "B", durationMinutes: DAY, percent: 12 },
      ]),
    ).toBe(120);
    expect(follower({ id: "A", name: "A", durationMinutes: DAY, percent: 30, parked: true })).toBe(0);
  });
});

describe("planned value", () => {
  const { set } = compileCalendars(planOf([]).calendars);
  const spread = (parts: { even?: number; start?: number; finish?: number }) =>
    plannedRows(planOf([]), { activities: [row("A", "2026-03-02", "2026-03-06", parts)] }, new Set())[0]!;
  const on = (date: string): LocalMinute => closeOf(parseDate(date)!);

  it("is spread evenly over working time, with its start part at the start and its finish part at the finish", () => {
    const planned = spread({ even: 500, start: 30, finish: 7 });
    expect(
      ["2026-03-01", "2026-03-02", "2026-03-04", "2026-03-05", "2026-03-06", "2026-03-08"].map((date) =>
        plannedValueAt(planned, on(date)),
      ),
    ).toEqual([0, 130, 330, 430, 537, 537]);
  });

  it("rounds half away from zero, once: a third of 100 after one of three days", () => {
    const planned = plannedRows(
      planOf([]),
      { activities: [row("A", "2026-03-02", "2026-03-04", { even: 100 })] },
      new Set(),
    )[0]!;
    expect(["2026-03-02", "2026-03-03", "2026-03-04"].map((date) => plannedValueAt(planned, on(date)))).toEqual([
      33, 67, 100,
    ]);
  });

  it("laws: from 0 to BAC, never falling; the total is the sum of the rounded parts", () => {
    const amounts = fc.record({
      even: fc.nat(1e6),
      start: fc.nat(1e6),
      finish: fc.nat(1e6),
      from: fc.nat(40),
      length: fc.nat(60),
    });
    fc.assert(
      fc.property(fc.array(amounts, { minLength: 1, maxLength: 8 }), (list) => {
        const day = (n: number): string => formatDate(epochDay(parseDate("2026-03-02")! + n));
        const rows = plannedRows(
          planOf([]),
          {
            activities: list.map(({ from, length, ...parts }, i) => row(`r${i}`, day(from), day(from + length), parts)),
          },
          new Set(),
        );
        const bac = rows.reduce((sum, { budget }) => sum + budget, 0);
        let last = 0;
        for (let n = -2; n < 105; n++) {
          const value = totalPlannedValueAt(rows, on(day(n)));
          expect(value).toBe(rows.reduce((sum, each) => sum + plannedValueAt(each, on(day(n))), 0));
          expect(value).toBeGreaterThanOrEqual(last);
          last = value;
        }
        expect(last).toBe(bac);
      }),
      { numRuns: 60 },
    );
  });

  it("of a row whose window holds no working time comes at its finish", () => {
    const planned = plannedRows(
      planOf([]),
      { activities: [row("A", "2026-03-07", "2026-03-08", { even: 90 })] },
      new Set(),
    )[0]!;
    expect([plannedValueAt(planned, on("2026-03-07")), plannedValueAt(planned, on("2026-03-08"))]).toEqual([0, 90]);
    expect(set.has("std")).toBe(true);
  });

  it("of parked rows is left out", () => {
    const rows = [row("A", "2026-01-05", "2026-01-06", { even: 7 }), row("P", "2026-01-05", "2026-01-06", { even: 1 })];
    const counted = plannedRows(planOf([]), { activities: rows }, new Set(["P"]));
    expect(counted.map(({ row: { id } }) => id)).toEqual(["A"]);
    expect(plannedRows(planOf([]), { activities: rows }, new Set())).toHaveLength(2);
  });

  it("rows of what has left the plan count, rows of what is parked do not", () => {
    const rows = [
      row("A", "2026-01-05", "2026-01-06", { even: 100 }),
      row("gone", "2026-01-05", "2026-01-06", { even: 10 }),
      row("P", "2026-01-05", "2026-01-06", { even: 1 }),
    ];
    const { project, activities, unbaselined } = figures(
      baselined(
        [
          { id: "A", name: "A", durationMinutes: DAY },
          { id: "P", name: "P", durationMinutes: DAY, parked: true },
          { id: "N", name: "New", durationMinutes: DAY },
          { id: "U", name: "No dates" },
        ],
        rows,
        "2026-01-07",
      ),
    );
    expect(project).toMatchObject({ bac: 110, pv: 110 });
    expect(Object.keys(activities)).toEqual(["A", "N", "U", "gone"]);
    expect(unbaselined).toEqual(["N"]);
  });
});

describe("budget and actual cost", () => {
  const people = [
    {
      id: "ann",
      name: "Ann",
      rates: [
        { from: "2026-02-01", perHourMinor: 1000 },
        { from: "2026-03-04", perHourMinor: 2000 },
      ],
    },
    { id: "free", name: "Volunteer" },
  ];
  it("a freeze takes the rate in force on the planned start, and cost lines by their timing", () => {
    const plan = planOf(
      [
        { id: "A", name: "A", durationMinutes: 2 * DAY },
        { id: "B", name: "B", durationMinutes: DAY },
        { id: "U", name: "U" },
      ],
      [{ from: "A", to: "B" }],
      {
        people,
        assignments: [
          { activity: "A", person: "ann", plannedMinutes: 100 },
          { activity: "A", person: "free", plannedMinutes: 60 },
          { activity: "B", person: "ann", plannedMinutes: 100 },
        ],
        costs: [
          { id: "1", activity: "A", category: "x", plannedMinor: 5, timing: "start" },
          { id: "2", activity: "A", category: "x", plannedMinor: 7, timing: "finish" },
          { id: "3", activity: "A", category: "x", plannedMinor: 9 },
        ],
      },
    );
    // 100 min at 1000 an hour is 1666.67, rounded 1667; B starts on the 4th, at 2000: 3333.33, rounded 3333.
    expect(
      freezePlan(plan).activities.map(({ id, evenMinor, startMinor, finishMinor, minutes, durationMinutes }) => [
        id,
        evenMinor,
        startMinor,
        finishMinor,
        minutes,
        durationMinutes,
      ]),
    ).toEqual([
      ["A", 1676, 5, 7, 160, 960],
      ["B", 3333, 0, 0, 100, 480],
    ]);
  });

  it("a freeze leaves progress out", () => {
    const bare = planOf([{ id: "A", name: "A", durationMinutes: 2 * DAY }], [], {
      people,
      assignments: [{ activity: "A", person: "ann", plannedMinutes: 100 }],
    });
    const lived: PlanBundle = {
      ...bare,
      project: { ...bare.project, dataDate: "2026-03-20" },
      activities: [{ ...bare.activities[0]!, actualStart: "2026-03-18", percent: 10, remainingMinutes: 5000 }],
      assignments: [{ ...bare.assignments![0]!, remainingMinutes: 7, restart: "2026-03-25" }],
    };
    expect(freezePlan(lived)).toEqual(freezePlan(bare));
  });

  it("what is posted after the data date is spent: the cost at completion keeps it, once, whether it is still in what remains or not", () => {
    const eac = (dataDate: string, left: object, activity: object = { percent: 0 }): number =>
      figures(
        baselined(
          [{ id: "A", name: "A", durationMinutes: DAY, actualStart: "2026-03-04", ...activity }],
          [row("A", "2026-03-04", "2026-03-05", { even: 1 })],
          dataDate,
          {
            people,
            assignments: [{ activity: "A", person: "ann", plannedMinutes: 600, ...left }],
            timeEntries: [
              { activity: "A", person: "ann", date: "2026-03-06", minutes: 240, state: "posted" },
              { activity: "A", person: "free", date: "2026-03-06", minutes: 60, state: "posted" },
            ],
          },
        ),
      ).project.eacBottomUp;
    // 600 min planned, 240 posted on the 6th, 360 left, all at 2000 an hour: 20 000 before the data date passes it as after.
    expect([eac("2026-03-05", { remainingMinutes: 360 }), eac("2026-03-06", { remainingMinutes: 360 })]).toEqual([
      20_000, 20_000,
    ]);
    // Nobody said what is left: it is all still there, and the time is among it.
    expect(eac("2026-03-05", {})).toBe(20_000);
    // Once it is complete nothing is left that could hold it.
    expect(eac("2026-03-05", {}, { actualFinish: "2026-03-05" })).toBe(8000);
  });

  it("only posted time costs, each entry rounded by itself at the rate of its day, up to the data date", () => {
    const entry = (date: string, minutes: number, state: "draft" | "submitted" | "posted" | "returned") => ({
      activity: "A",
      person: "ann",
      date,
      minutes,
      state,
    });
    const plan = baselined(
      [{ id: "A", name: "A", durationMinutes: DAY }],
      [row("A", "2026-01-05", "2026-01-06", { even: 1 })],
      "2026-03-05",
      {
        people,
        timeEntries: [
          entry("2026-01-10", 1, "posted"),
          entry("2026-03-03", 1, "posted"),
          entry("2026-03-04", 1, "posted"),
          entry("2026-03-05", -2, "posted"),
          entry("2026-03-06", 600, "posted"),
          entry("2026-03-04", 60, "draft"),
          entry("2026-03-04", 60, "submitted"),
          entry("2026-03-04", 60, "returned"),
        ],
        actualCosts: [
          { activity: "A", date: "2026-03-05", amountMinor: 100 },
          { activity: "A", date: "2026-03-06", amountMinor: 1000 },
        ],
      },
    );
    // The first rate also serves before its date: 16.67 -> 17, 17, 33.33 -> 33, -66.67 -> -67, and 100.
    expect(figures(plan).project.ac).toBe(17 + 17 + 33 - 67 + 100);
  });

  it("a forecast by an index is not defined where nothing was spent, earned or planned", () => {
    const of = (part: object) =>
      figuresOf({ bac: 100, pv: 50, ev: 40, ac: 60, eacBottomUp: 0, ...part } as unknown as Sums);
    expect(of({})).toMatchObject({ eac: 150, etc: 90, vac: -50, tcpiEac: 60 / 90 });
    for (const part of [{ ac: 0 }, { ev: 0 }])
      expect(of(part)).toMatchObject({ eac: null, etc: null, vac: null, eacCpiSpi: null, tcpiEac: null });
    expect(of({ pv: 0 })).toMatchObject({ eac: 150, eacCpiSpi: null, spi: null });
  });

  it("a ratio with nothing to divide by is not defined, never 0, 1 or infinity", () => {
    expect(
      figures(
        baselined(
          [{ id: "A", name: "A", durationMinutes: DAY }],
          [row("A", "2026-02-05", "2026-02-06", {})],
          "2026-01-07",
        ),
      ).project,
    ).toMatchObject({
      bac: 0,
      pv: 0,
      ev: 0,
      ac: 0,
      spi: null,
      cpi: null,
      percentComplete: null,
      percentSpent: null,
      eac: null,
      etc: null,
      vac: null,
      eacCpiSpi: null,
      tcpiBac: null,
      tcpiEac: null,
      eacRemaining: 0,
    });
  });

  it("ratios of a branch come from its sums, and bottom-up estimates add up", () => {
    const plan = baselined(
      [
        { id: "S", name: "S", kind: "summary" },
        { id: "A", name: "A", parent: "S", durationMinutes: DAY, percent: 50, actualStart: "2026-01-05" },
        { id: "B", name: "B", parent: "S", durationMinutes: DAY, percent: 10, actualStart: "2026-01-05" },
      ],
      [row("A", "2026-01-05", "2026-01-06", { even: 100 }), row("B", "2026-01-05", "2026-01-06", { even: 900 })],
      "2026-01-07",
      {
        actualCosts: [
          { activity: "A", date: "2026-01-06", amountMinor: 40 },
          { activity: "B", date: "2026-01-06", amountMinor: 200 },
        ],
      },
    );
    const { project, activities } = figures(plan);
    expect(activities["S"]).toEqual(project);
    expect(project.cpi).toBeCloseTo(140 / 240, 12);
    expect(project.eacBottomUp).toBe(activities["A"]!.eacBottomUp + activities["B"]!.eacBottomUp);
  });
});
