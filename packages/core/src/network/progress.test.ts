import fc from "fast-check";
import { analyse } from "../analyse.ts";
import { planOf, STANDARD, networks } from "../testing/plans.ts";
import type { Activity, Link, PlanBundle } from "../plan/schema.ts";
import { compileCalendars } from "../plan/compileCalendars.ts";
import { closeOf, formatDate, formatInstant, parseDate, workMinutes } from "../time/instant.ts";
import { schedulePlan } from "./schedule.ts";

const DAY = 480;
const DATA_DATE = "2026-03-13";

/** Start and finish as shown, by id. */
const shown = (plan: PlanBundle): Record<string, [string, string]> => {
  const { rows } = schedulePlan(plan);
  return Object.fromEntries(
    plan.activities.flatMap(({ id }, i) =>
      rows[i] == null ? [] : [[id, [formatDate(rows[i]!.startDay), formatDate(rows[i]!.finishDay)]]],
    ),
  );
};
const work = (id: string, days: number, rest: Partial<Activity> = {}): Activity => ({
  id,
  name: id,
  durationMinutes: days * DAY,
  ...rest,
});
const at = (
  activities: Activity[],
  links: Link[] = [],
  rest: Partial<PlanBundle> = {},
  project: Partial<PlanBundle["project"]> = {},
): PlanBundle =>
  planOf(activities, links, {
    ...rest,
    project: {
      code: "P",
      name: "P",
      currency: "EUR",
      start: "2026-03-02",
      calendar: "std",
      dataDate: DATA_DATE,
      ...project,
    },
  });

/** Progress on some of a random network's activities, each whole or in part. */
const withProgress = (plan: PlanBundle, marks: readonly number[]): PlanBundle => ({
  ...plan,
  project: { ...plan.project, dataDate: DATA_DATE },
  activities: plan.activities.map((activity, i): Activity => {
    const mark = marks[i % marks.length]!;
    if (mark === 0) return activity;
    if (activity.kind === "milestone") return mark > 5 ? { ...activity, actualFinish: "2026-03-09" } : activity;
    return mark > 7
      ? { ...activity, actualStart: "2026-03-03", actualFinish: "2026-03-10" }
      : { ...activity, actualStart: "2026-03-04", percent: mark * 10 };
  }),
});

describe("progress", () => {
  it("laws: what is done keeps its dates, what is not done lies after the data date, progress override is never later", () => {
    fc.assert(
      fc.property(
        networks({ calendars: ["std", "seven", "nights"] }),
        fc.array(fc.nat(9), { minLength: 1, maxLength: 14 }),
        (bare, marks) => {
          const plan = withProgress(bare, marks);
          const retained = schedulePlan(plan);
          const override = schedulePlan({ ...plan, project: { ...plan.project, logic: "override" } });
          const close = closeOf(parseDate(DATA_DATE)!);
          plan.activities.forEach((activity, i) => {
            const row = retained.rows[i]!;
            if (row.state === "complete") {
              expect([row.totalFloat, row.lateFinish]).toEqual([null, null]);
              return;
            }
            const left = Math.round(((activity.durationMinutes ?? 0) * (100 - (activity.percent ?? 0))) / 100);
            if (left > 0) expect(row.finish).toBeGreaterThan(close);
            if (row.state === "notStarted")
              expect(row.start).toBeGreaterThanOrEqual(
                retained.calendars
                  .get(activity.calendar!)
                  .finishAt(retained.calendars.get(activity.calendar!).indexAt(close)),
              );
            expect(override.rows[i]!.finish).toBeLessThanOrEqual(row.finish);
          });
        },
      ),
      { numRuns: 250 },
    );
  });

  it("remaining duration is what is said, else the rest of the percent, whole minutes", () => {
    expect(shown(at([work("A", 10, { actualStart: "2026-03-09", percent: 50 })]))["A"]).toEqual([
      "2026-03-09",
      "2026-03-20",
    ]);
    expect(shown(at([work("A", 10, { actualStart: "2026-03-09", percent: 50, remainingMinutes: DAY })]))["A"]).toEqual([
      "2026-03-09",
      "2026-03-16",
    ]);
    expect(shown(at([work("A", 10, { actualStart: "2026-03-09", remainingMinutes: 0 })]))["A"]).toEqual([
      "2026-03-09",
      "2026-03-13",
    ]);
    const { rows } = schedulePlan(at([work("A", 1, { actualStart: "2026-03-13", percent: 33.3 })]));
    // round(480 x 66.7 / 100) = 320.16, rounded 320: 5 h 20 from Monday 08:00, an hour's noon rest taken.
    expect(formatInstant(rows[0]!.finish)).toBe("2026-03-16T14:20");
  });

  it("percent without an actual start earns but moves no date", () => {
    expect(shown(at([work("A", 10, { percent: 60 })]))["A"]).toEqual(["2026-03-16", "2026-03-27"]);
  });

  it("actual dates after the data date are kept as they are", () => {
    expect(
      shown(
        at(
          [work("A", 2, { actualStart: "2026-03-16", actualFinish: "2026-03-20" }), work("B", 1)],
          [{ from: "A", to: "B" }],
        ),
      ),
    ).toEqual({ A: ["2026-03-16", "2026-03-20"], B: ["2026-03-23", "2026-03-23"] });
  });

  it("a milestone with either actual date is reached at that instant", () => {
    const { rows } = schedulePlan(
      at([
        { id: "S", name: "S", kind: "milestone", actualStart: "2026-03-10" },
        { id: "F", name: "F", kind: "milestone", actualFinish: "2026-03-10" },
        { id: "B", name: "B", kind: "milestone", actualStart: "2026-03-09", actualFinish: "2026-03-11T10:30" },
      ]),
    );
    expect(rows.map((row) => [formatInstant(row!.finish), formatDate(row!.finishDay), row!.state])).toEqual([
      ["2026-03-10T00:00", "2026-03-10", "complete"],
      ["2026-03-11T00:00", "2026-03-10", "complete"],
      ["2026-03-11T10:30", "2026-03-11", "complete"],
    ]);
  });

  it("a finish wish holds remaining work back, a start wish does not once it has begun", () => {
    expect(
      shown(
        at([
          work("A", 5, {
            actualStart: "2026-03-09",
            percent: 80,
            wish: { type: "finishNotBefore", date: "2026-03-25" },
          }),
        ]),
      )["A"],
    ).toEqual(["2026-03-09", "2026-03-25"]);
    expect(
      shown(
        at([
          work("A", 5, {
            actualStart: "2026-03-09",
            percent: 80,
            wish: { type: "startNotBefore", date: "2026-03-25" },
          }),
        ]),
      )["A"],
    ).toEqual(["2026-03-09", "2026-03-16"]);
  });
});

describe("date wishes and deadlines", () => {
  it("a wish never overrides logic: a conflict shows as negative float", () => {
    const plan = planOf(
      [work("A", 5), work("B", 5, { wish: { type: "startOn", date: "2026-03-04" } })],
      [{ from: "A", to: "B" }],
    );
    const { rows } = schedulePlan(plan);
    expect(shown(plan)["B"]).toEqual(["2026-03-09", "2026-03-13"]);
    // It may start on the 4th at the latest and starts on the 9th: three working days short.
    expect(rows.map((row) => row!.totalFloat)).toEqual([-3 * DAY, -3 * DAY]);
  });

  it("a deadline caps the late finish and moves no date", () => {
    const plan = (deadline?: string): PlanBundle =>
      planOf([work("A", 5, deadline === undefined ? {} : { deadline }), work("B", 10)]);
    expect(shown(plan("2026-03-03"))).toEqual(shown(plan()));
    expect(schedulePlan(plan("2026-03-03")).rows[0]!.totalFloat).toBe(-3 * DAY);
    expect(schedulePlan(plan()).rows[0]!.totalFloat).toBe(5 * DAY);
  });

  it.each([
    ["startNotBefore", "2026-03-10", ["2026-03-10", "2026-03-12"]],
    ["startOn", "2026-03-10", ["2026-03-10", "2026-03-12"]],
    ["finishNotBefore", "2026-03-12", ["2026-03-10", "2026-03-12"]],
    ["finishOn", "2026-03-12", ["2026-03-10", "2026-03-12"]],
    ["startNotAfter", "2026-03-10", ["2026-03-02", "2026-03-04"]],
    ["finishNotAfter", "2026-03-12", ["2026-03-02", "2026-03-04"]],
    ["startNotBefore", "2026-03-14", ["2026-03-16", "2026-03-18"]],
  ] as const)("%s %s puts three days at %p", (type, date, dates) => {
    expect(shown(planOf([work("A", 3, { wish: { type, date } })]))["A"]).toEqual(dates);
  });

  it("a milestone wished on a day of rest lies at the next start, or the last finish before it", () => {
    const wished = (type: "startNotBefore" | "finishNotBefore"): string =>
      formatInstant(
        schedulePlan(planOf([{ id: "M", name: "M", kind: "milestone", wish: { type, date: "2026-03-14" } }])).rows[0]!
          .start,
      );
    expect([wished("startNotBefore"), wished("finishNotBefore")]).toEqual(["2026-03-16T08:00", "2026-03-13T17:00"]);
  });
});

describe("summaries, level of effort, parked and unscheduled work", () => {
  const tree = [
    { id: "S", name: "S", kind: "summary" as const },
    work("A", 2, { parent: "S" }),
    work("B", 3, { parent: "S" }),
    { id: "U", name: "U", parent: "S" },
  ];

  it("a summary reaches over what is below it, and is complete only when all scheduled work below is", () => {
    const plan = (a: Partial<Activity>, b: Partial<Activity>): PlanBundle =>
      at([tree[0]!, { ...tree[1]!, ...a }, { ...tree[2]!, ...b }, tree[3]!]);
    const done = { actualStart: "2026-03-02", actualFinish: "2026-03-06" };
    const state = (p: PlanBundle): string => schedulePlan(p).rows[0]!.state;
    expect([
      state(plan({}, {})),
      state(plan(done, {})),
      state(plan({ actualStart: "2026-03-02" }, {})),
      state(plan(done, done)),
    ]).toEqual(["notStarted", "inProgress", "inProgress", "complete"]);
    expect(shown(plan(done, {}))["S"]).toEqual(["2026-03-02", "2026-03-18"]);
    expect(schedulePlan(plan({}, {})).unscheduled).toEqual([3]);
  });

  it("a summary with nothing scheduled below it has no dates", () => {
    expect(
      shown(
        planOf([
          { id: "S", name: "S", kind: "summary" },
          { id: "U", name: "U", parent: "S" },
        ]),
      ),
    ).toEqual({});
  });

  it("parking a summary takes all below it out, and the links that touch it", () => {
    const plan = planOf(
      [{ ...tree[0]!, parked: true }, tree[1]!, tree[2]!, work("C", 1)],
      [
        { from: "A", to: "C" },
        { from: "C", to: "B" },
      ],
    );
    expect(shown(plan)).toEqual({ C: ["2026-03-02", "2026-03-02"] });
    expect(schedulePlan(plan).unscheduled).toEqual([]);
  });

  it("a link that touches unscheduled work is out, and so is a loop through it", () => {
    const plan = planOf(
      [work("A", 1), { id: "U", name: "U" }, work("C", 1)],
      [
        { from: "A", to: "U" },
        { from: "U", to: "C" },
        { from: "C", to: "U" },
      ],
    );
    expect(shown(plan)).toEqual({ A: ["2026-03-02", "2026-03-02"], C: ["2026-03-02", "2026-03-02"] });
  });

  it("level of effort whose end would lie before its start lasts no time, and is shown on the day it starts", () => {
    const plan = planOf(
      [work("A", 5), work("B", 5), { id: "L", name: "L", kind: "levelOfEffort" }],
      [
        { from: "A", to: "B" },
        { from: "B", to: "L", type: "SS" },
        { from: "A", to: "L", type: "FF" },
      ],
    );
    expect(analyse(plan).schedule.activities["L"]).toMatchObject({
      start: "2026-03-09T08:00",
      finish: "2026-03-09T08:00",
      startDate: "2026-03-09",
      finishDate: "2026-03-09",
    });
    const early = planOf(
      [
        { ...work("A", 5), actualStart: "2026-03-02", actualFinish: "2026-03-06" },
        { id: "L", name: "L", kind: "levelOfEffort", actualStart: "2026-03-10" },
      ],
      [{ from: "A", to: "L", type: "FF" }],
      { project: { dataDate: "2026-03-10" } as never },
    );
    expect(analyse(early).schedule.activities["L"]).toMatchObject({
      startDate: "2026-03-10",
      finishDate: "2026-03-10",
    });
  });

  it("level of effort spans from its SS to its FF predecessors, drives nothing and is never critical", () => {
    const plan = planOf(
      [
        work("A", 5),
        work("B", 5),
        { id: "L", name: "L", kind: "levelOfEffort" },
        { id: "ALL", name: "All", kind: "levelOfEffort" },
        work("C", 1),
      ],
      [
        { from: "A", to: "B" },
        { from: "B", to: "L", type: "SS", lagMinutes: 960 },
        { from: "B", to: "L", type: "FF" },
        { from: "L", to: "C" },
      ],
    );
    expect(shown(plan)).toEqual({
      A: ["2026-03-02", "2026-03-06"],
      B: ["2026-03-09", "2026-03-13"],
      L: ["2026-03-09", "2026-03-13"],
      ALL: ["2026-03-02", "2026-03-13"],
      C: ["2026-03-02", "2026-03-02"],
    });
    const { rows } = schedulePlan(plan);
    expect([rows[2]!.critical, rows[2]!.totalFloat, rows[2]!.lateFinish]).toEqual([false, null, null]);
  });

  it("two ways to do a step: the group takes 7 weeks or 6, by which one is live (common practice, no source)", () => {
    const weeks = (live: "long" | "short"): number => {
      const way = (id: "long" | "short", days: number): Activity =>
        work(id, days, { parent: "G", ...(live === id ? {} : { parked: true }) });
      const plan = planOf([
        { id: "G", name: "G", kind: "summary" },
        work("other", 30, { parent: "G" }),
        way("long", 35),
        way("short", 5),
      ]);
      const row = schedulePlan(plan).rows[0]!;
      return (
        (schedulePlan(plan).calendars.get("std").indexAt(row.finish) -
          schedulePlan(plan).calendars.get("std").indexAt(row.start)) /
        DAY /
        5
      );
    };
    expect([weeks("long"), weeks("short")]).toEqual([7, 6]);
  });
});

describe("links", () => {
  const two = (type: NonNullable<Link["type"]>, lagMinutes = 0, lagIn: Link["lagIn"] = "successor"): [string, string] =>
    shown(planOf([work("A", 4), work("B", 2)], [{ from: "A", to: "B", type, lagMinutes, lagIn }]))["B"]!;
  it.each([
    ["FS", 0, ["2026-03-06", "2026-03-09"]],
    ["FS", DAY, ["2026-03-09", "2026-03-10"]],
    ["FS", -2 * DAY, ["2026-03-04", "2026-03-05"]],
    ["SS", DAY, ["2026-03-03", "2026-03-04"]],
    ["FF", 0, ["2026-03-04", "2026-03-05"]],
    ["FF", DAY, ["2026-03-05", "2026-03-06"]],
    ["SF", 3 * DAY, ["2026-03-03", "2026-03-04"]],
  ] as const)("%s with %i min", (type, lag, dates) => {
    expect(two(type, lag)).toEqual(dates);
  });

  it("an elapsed lag counts weekends, a working one does not", () => {
    const from = (lagIn: Link["lagIn"]): [string, string] =>
      shown(planOf([work("A", 5), work("B", 1)], [{ from: "A", to: "B", lagMinutes: 2 * 1440, lagIn }]))["B"]!;
    expect([from("elapsed"), from("successor")]).toEqual([
      ["2026-03-09", "2026-03-09"],
      ["2026-03-17", "2026-03-17"],
    ]);
  });

  it("a loop is refused with the activities on it, in walking order", () => {
    const loop = planOf(
      [work("A", 1), work("B", 1), work("C", 1), work("D", 1)],
      [
        { from: "D", to: "A" },
        { from: "A", to: "B" },
        { from: "B", to: "C" },
        { from: "C", to: "A" },
      ],
    );
    expect(() => schedulePlan(loop)).toThrow(/loop: (A -> B -> C -> A|B -> C -> A -> B|C -> A -> B -> C)/);
    expect(() => schedulePlan(planOf([work("A", 1)], [{ from: "A", to: "A" }]))).toThrow(/A -> A/);
  });

  it("dates that run outside 1990 to 2099 are refused with the activity", () => {
    expect(() => schedulePlan(planOf([work("A", 30_000)]))).toThrow(/activities A: its dates run outside/);
    expect(() =>
      schedulePlan(
        planOf([work("A", 1), work("B", 1)], [{ from: "A", to: "B", lagMinutes: 60_000_000, lagIn: "elapsed" }]),
      ),
    ).toThrow(/activities B/);
  });

  it("100 000 activities in one chain need no recursion", () => {
    const activities = Array.from({ length: 100_000 }, (_, i) => ({ id: `a${i}`, name: "", durationMinutes: 1 }));
    const links = activities.slice(1).map(({ id }, i) => ({ from: `a${i}`, to: id }));
    const { rows } = schedulePlan(planOf(activities, links));
    expect(rows.every((row) => row!.critical && row!.longestPath)).toBe(true);
  });

  it("the order of the table changes no date and no float", () => {
    fc.assert(
      fc.property(
        networks({ calendars: ["std", "nights"], capped: true }),
        fc.infiniteStream(fc.nat()),
        (plan, seeds) => {
          const shuffled = {
            ...plan,
            activities: [...plan.activities]
              .map((activity) => ({ activity, key: seeds.next().value as number }))
              .sort((a, b) => a.key - b.key)
              .map(({ activity }) => activity),
            links: [...(plan.links ?? [])].reverse(),
          };
          const facts = (p: PlanBundle): object =>
            Object.fromEntries(p.activities.map(({ id }, i) => [id, schedulePlan(p).rows[i]]));
          expect(facts(shuffled)).toEqual(facts(plan));
        },
      ),
      { numRuns: 60 },
    );
  });

  it("another link never makes anything earlier", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std", "seven"] }), fc.nat(), (plan, which) => {
        const links = plan.links ?? [];
        if (links.length === 0) return;
        const fewer = { ...plan, links: links.filter((_, i) => i !== which % links.length) };
        const before = schedulePlan(fewer).rows;
        schedulePlan(plan).rows.forEach((row, i) => expect(row!.start).toBeGreaterThanOrEqual(before[i]!.start));
      }),
    );
  });

  it("longer work makes nothing earlier, in one calendar, unless its finish is what is held; the work that finishes last delays the whole", () => {
    const std = compileCalendars([STANDARD]).set.get("std");
    fc.assert(
      fc.property(networks({ calendars: ["std"] }), fc.nat(), (plan, which) => {
        const i = which % plan.activities.length;
        const { id, kind, wish, durationMinutes } = plan.activities[i]!;
        // Work held by its finish begins earlier when it is longer, and so does what starts with it.
        const held =
          wish?.type === "finishNotBefore" ||
          plan.links!.some((link) => link.to === id && (link.type === "FF" || link.type === "SF"));
        if (kind === "milestone" || held) return;
        const before = schedulePlan(plan);
        const later = schedulePlan({
          ...plan,
          activities: plan.activities.map((activity, k) =>
            k === i ? { ...activity, durationMinutes: durationMinutes! + 7 } : activity,
          ),
        });
        later.rows.forEach((row, k) => expect(row!.start).toBeGreaterThanOrEqual(before.rows[k]!.start));
        if (before.rows[i]!.finish === before.finish)
          expect(later.finish!).toBeGreaterThanOrEqual(std.finishAt(workMinutes(std.indexAt(before.finish!) + 7)));
      }),
    );
  });
});

describe("facts of the trade (common practice, no source)", () => {
  const HOLIDAYS = {
    ...STANDARD,
    exceptions: ["2015-11-26", "2015-11-27", "2015-12-25"].map((day) => ({ from: day, to: day, shifts: [] })),
  };
  const three = (rest: Partial<PlanBundle>, assignment: (person: string) => object = () => ({})): PlanBundle => ({
    ...planOf([{ id: "W", name: "W", driver: "effort" }]),
    project: { code: "P", name: "P", currency: "EUR", start: "2015-10-01", calendar: "std" },
    calendars: [HOLIDAYS],
    people: ["ann", "bo", "cy"].map((id) => ({ id, name: id })),
    assignments: ["ann", "bo", "cy"].map((person) => ({
      activity: "W",
      person,
      plannedMinutes: 63 * DAY,
      ...assignment(person),
    })),
    ...rest,
  });
  const finish = (plan: PlanBundle): string => shown(plan)["W"]![1];

  it("three people with 63 days each, 1 October to 31 December 2015, end on the last day", () => {
    expect(finish(three({}))).toBe("2015-12-31");
  });

  it("one begins a day late: only that person's rest moves, to 1 January 2016 where it is worked", () => {
    expect(finish(three({}, (person) => (person === "bo" ? { restart: "2015-10-02" } : {})))).toBe("2016-01-01");
  });

  it("another takes three days of leave in November: 5 January 2016 where 1 January is worked", () => {
    const leave = {
      id: "cy",
      name: "Cy's",
      base: "std",
      exceptions: [{ from: "2015-11-03", to: "2015-11-05", shifts: [] }],
    };
    expect(
      finish(
        three({
          calendars: [HOLIDAYS, leave],
          people: [
            { id: "ann", name: "a" },
            { id: "bo", name: "b" },
            { id: "cy", name: "c", calendar: "cy" },
          ],
        }),
      ),
    ).toBe("2016-01-05");
  });

  it("a person raises the remaining hours by a day's work: the finish is one working day later, nothing else changes", () => {
    const progress = (extra: number): PlanBundle =>
      three(
        {
          project: {
            code: "P",
            name: "P",
            currency: "EUR",
            start: "2015-10-01",
            calendar: "std",
            dataDate: "2015-12-29",
          },
          activities: [
            { id: "W", name: "W", driver: "effort", actualStart: "2015-10-01" },
            { id: "other", name: "o", durationMinutes: DAY },
          ],
        },
        (person) => ({ remainingMinutes: DAY + (person === "ann" ? extra : 0) }),
      );
    expect([finish(progress(0)), finish(progress(DAY))]).toEqual(["2015-12-30", "2015-12-31"]);
    expect(shown(progress(0))["other"]).toEqual(shown(progress(DAY))["other"]);
  });

  it("a project that takes seven days begins on day 0 and ends on day 6", () => {
    expect(
      shown(
        planOf([{ id: "A", name: "A", durationMinutes: 7 * 480, calendar: "all" }], [], {
          calendars: [
            { id: "std", name: "s", week: STANDARD.week! },
            {
              id: "all",
              name: "All days",
              week: Object.fromEntries(
                ["mon", "tue", "wed", "thu", "fri", "sat", "sun"].map((day) => [day, [["08:00", "16:00"]]]),
              ) as never,
            },
          ],
        }),
      )["A"],
    ).toEqual(["2026-03-02", "2026-03-08"]);
  });

  it("slack and float are one thing: work moves that far before the finish does, and no further", () => {
    const plan = (wish?: string): PlanBundle =>
      planOf([work("A", 10), work("B", 2, wish === undefined ? {} : { wish: { type: "startNotBefore", date: wish } })]);
    const { rows, finish: end } = schedulePlan(plan());
    expect(rows[1]!.totalFloat).toBe(8 * DAY);
    expect(schedulePlan(plan("2026-03-12")).finish).toBe(end);
    expect(schedulePlan(plan("2026-03-13")).finish!).toBeGreaterThan(end!);
  });
});

describe("people decide the finish", () => {
  const effort = (assignments: PlanBundle["assignments"], activity: Partial<Activity> = {}): PlanBundle =>
    planOf([{ id: "A", name: "A", driver: "effort", ...activity }], [], {
      people: [
        { id: "ann", name: "a" },
        { id: "bo", name: "b", calendar: "seven" },
      ],
      assignments: assignments!,
    });

  it("part time takes ceil(minutes x 100 / percent)", () => {
    const { rows } = schedulePlan(effort([{ activity: "A", person: "ann", plannedMinutes: 100, unitsPercent: 60 }]));
    expect(formatInstant(rows[0]!.finish)).toBe("2026-03-02T10:47");
  });

  it("a finish may lie outside the activity's own calendar", () => {
    const { rows } = schedulePlan(effort([{ activity: "A", person: "bo", plannedMinutes: 6 * DAY }]));
    expect(formatDate(rows[0]!.finishDay)).toBe("2026-03-07");
  });

  it("a finish bound takes the least start that meets it", () => {
    const plan = effort([{ activity: "A", person: "ann", plannedMinutes: 2 * DAY }], {
      wish: { type: "finishNotBefore", date: "2026-03-12" },
    });
    expect(shown(plan)["A"]).toEqual(["2026-03-11", "2026-03-12"]);
  });

  it("drift lets the work go past the window, hold keeps the window", () => {
    const plan = (windowPolicy: "hold" | "drift"): PlanBundle =>
      effort([{ activity: "A", person: "ann", plannedMinutes: 5 * DAY }], {
        driver: "duration",
        durationMinutes: 2 * DAY,
        windowPolicy,
      });
    expect([shown(plan("hold"))["A"]![1], shown(plan("drift"))["A"]![1]]).toEqual(["2026-03-03", "2026-03-06"]);
  });

  it("effort without anyone on it counts as duration-driven, and without a duration is unscheduled", () => {
    expect(shown(effort([], { durationMinutes: DAY }))["A"]).toEqual(["2026-03-02", "2026-03-02"]);
    expect(schedulePlan(effort([])).unscheduled).toEqual([0]);
  });
});
