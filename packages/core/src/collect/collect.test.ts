import fc from "fast-check";
import { analyse } from "../analyse.ts";
import { schedulePlan } from "../network/schedule.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import { fromBundle, toBundle, type Plan } from "../plan/plan.ts";
import type { Activity, PlanBundle } from "../plan/schema.ts";
import { planOf } from "../testing/plans.ts";
import { formatDate } from "../time/instant.ts";
import { holdWindows } from "./holdWindow.ts";
import { remarksOn } from "./remarks.ts";
import type { ReportContent } from "./report.ts";
import { acceptReports } from "./acceptReports.ts";

const HOUR = 60;
const DAY = 8 * HOUR;

const people = ["ann", "bo", "cy"].map((id) => ({
  id,
  name: id.charAt(0).toUpperCase() + id.slice(1),
  rates: [{ from: "2026-01-01", perHourMinor: 6000 }],
}));

/** Three people a week each on one piece of work, Monday 2 March 2026; a milestone after it. Data date Friday before. */
const three = (
  work: Partial<Activity> = { driver: "effort" },
  hours: Record<string, number> = { ann: 40, bo: 40, cy: 40 },
  extra: Partial<PlanBundle> = {},
): Plan =>
  fromBundle(
    planOf(
      [
        { id: "lay", name: "Lay cable", ...work },
        { id: "lit", name: "Lamps lit", kind: "milestone", deadline: "2026-03-10" },
      ],
      [{ from: "lay", to: "lit" }],
      {
        people,
        assignments: Object.entries(hours).map(([person, amount]) => ({
          activity: "lay",
          person,
          plannedMinutes: amount * HOUR,
        })),
        ...extra,
        project: { ...planOf([]).project, dataDate: "2026-02-27", ...extra.project },
      },
    ),
  );

let count = 0;
const report = (personId: string, date: string, what: Partial<ReportContent> = {}): ReportContent => ({
  id: `r${count++}`,
  activityId: "lay",
  personId,
  date,
  leaveUntil: null,
  minutes: null,
  percent: null,
  remainingMinutes: null,
  note: "",
  ...what,
});
const hours = (personId: string, date: string, amount: number, what: Partial<ReportContent> = {}): ReportContent =>
  report(personId, date, { minutes: amount * HOUR, ...what });
const accept = (plan: Plan, ...reports: ReportContent[]): Plan =>
  applyChanges(plan, acceptReports(plan, reports).changes).plan;
const finishOf = (plan: Plan, id = "lay"): string => {
  const { rows } = schedulePlan(toBundle(plan));
  return formatDate(rows[[...plan.activities.keys()].indexOf(id)]!.finishDay);
};
const leftOf = (plan: Plan, person: string): number =>
  [...plan.assignments.values()].find((row) => row.person === person)!.remainingMinutes! / HOUR;

describe("one of three people starts a day late", () => {
  const week = three();
  const onTime = [hours("ann", "2026-03-02", 8), hours("bo", "2026-03-02", 8)];

  it("moves the finish by that day where theirs is the last", () => {
    expect(finishOf(week)).toBe("2026-03-06");
    expect(finishOf(accept(week, ...onTime))).toBe("2026-03-06");
    const late = accept(week, ...onTime, hours("cy", "2026-03-03", 8));
    expect(finishOf(late)).toBe("2026-03-09");
    expect([leftOf(late, "ann"), leftOf(late, "bo"), leftOf(late, "cy")]).toEqual([32, 32, 32]);
  });

  it("moves nothing where the others end later anyway", () => {
    const short = three({ driver: "effort" }, { ann: 40, bo: 40, cy: 24 });
    const late = accept(short, ...onTime, hours("cy", "2026-03-03", 8));
    expect(finishOf(late)).toBe("2026-03-06");
    expect([...late.assignments.values()].map(({ restart }) => restart)).toEqual([
      "2026-03-03",
      "2026-03-03",
      "2026-03-04",
    ]);
  });
});

describe("100% said of work", () => {
  const done = accept(three({ driver: "effort" }, { ann: 40 }), hours("ann", "2026-03-02", 8, { percent: 100 }));
  const finish = (plan: Plan): string | undefined => plan.activities.get("lay")!.actualFinish;

  it("once more keeps the finish that it has", () => {
    expect(finish(done)).toBe("2026-03-02");
    expect(finish(accept(done, report("bo", "2026-03-02", { percent: 100 })))).toBe("2026-03-02");
  });

  it("that was dropped finishes it after all; less than that has it go on", () => {
    const dropped = applyChanges(done, [{ type: "reportProgress", activity: "lay", dropped: true }]).plan;
    const whole = accept(dropped, report("bo", "2026-03-03", { percent: 100 })).activities.get("lay")!;
    expect([whole.dropped, whole.actualFinish]).toEqual([undefined, "2026-03-03"]);
    const on = accept(dropped, report("bo", "2026-03-03", { percent: 60 })).activities.get("lay")!;
    expect([on.dropped, on.actualFinish, on.percent]).toEqual([undefined, undefined, 60]);
    const back = applyChanges(dropped, [{ type: "reportProgress", activity: "lay", actualFinish: null }]);
    expect(applyChanges(back.plan, back.inverse!).plan).toEqual(dropped);
  });
});

describe("three days of leave booked in the middle", () => {
  const leave = (person: string): ReportContent =>
    report(person, "2026-03-03", { activityId: "", leaveUntil: "2026-03-05", note: "wedding" });

  it("move the finish by three days where theirs is the last, and nobody else's work", () => {
    const away = accept(three(), leave("cy"));
    expect(finishOf(away)).toBe("2026-03-11");
    expect(away.calendars.get("leave-cy")).toMatchObject({
      base: "std",
      exceptions: [{ from: "2026-03-03", to: "2026-03-05", shifts: [], label: "wedding" }],
    });
    expect(away.people.get("ann")!.calendar).toBeUndefined();
  });

  it("move nothing where there is room", () => {
    expect(finishOf(accept(three({ driver: "effort" }, { ann: 40, bo: 40, cy: 16 }), leave("cy")))).toBe("2026-03-06");
  });

  it("are booked once, and beside what was booked before", () => {
    const once = accept(three(), leave("cy"));
    expect(acceptReports(once, [leave("cy")]).changes).toEqual([]);
    expect(
      accept(once, report("cy", "2026-03-20", { activityId: "", leaveUntil: "2026-03-20" })).calendars.get("leave-cy")!
        .exceptions,
    ).toHaveLength(2);
  });
});

describe("remaining hours", () => {
  it("raised move the finish by what was raised", () => {
    const plan = accept(three(), report("bo", "2026-03-02", { remainingMinutes: 56 * HOUR }));
    expect(finishOf(plan)).toBe("2026-03-10");
  });

  it("an adjusting entry gives back what it takes away, and starts nothing", () => {
    const booked = accept(three(), hours("ann", "2026-03-02", 8));
    const mended = accept(booked, hours("ann", "2026-03-02", -3));
    expect(leftOf(mended, "ann")).toBe(35);
    expect([...mended.timeEntries.values()].reduce((sum, { minutes }) => sum + minutes, 0)).toBe(5 * HOUR);
    expect(
      acceptReports(three(), [hours("ann", "2026-03-02", -1)]).changes.some(({ type }) => type === "reportProgress"),
    ).toBe(false);
  });
});

describe("hours booked after the finish", () => {
  const done = accept(three({ driver: "effort" }, { ann: 40 }), hours("ann", "2026-03-02", 8, { percent: 100 }));

  it("extend it to the day of the last of them", () => {
    expect(done.activities.get("lay")).toMatchObject({ actualFinish: "2026-03-02" });
    expect(accept(done, hours("bo", "2026-03-05", 4)).activities.get("lay")).toMatchObject({
      actualFinish: "2026-03-05",
      percent: 100,
    });
  });

  it("on the day of the finish or before it leave it", () => {
    expect(accept(done, hours("bo", "2026-03-02", 4)).activities.get("lay")!.actualFinish).toBe("2026-03-02");
  });
});

describe("holding the window", () => {
  const heldBy = (before: Plan, ...reports: ReportContent[]) => {
    const after = accept(before, ...reports);
    const holding = holdWindows(before, after, ["lay"], new Set(["lay"]));
    return { ...holding, plan: applyChanges(after, holding.changes).plan };
  };

  it("keeps the finish of work that came late, and shows who has to do more than fits", () => {
    const { plan, windows } = heldBy(three(), hours("ann", "2026-03-02", 8), hours("cy", "2026-03-03", 8));
    expect(finishOf(plan)).toBe("2026-03-06");
    expect(plan.activities.get("lay")!.driver).toBeUndefined();
    const load = [
      { person: "Ann", leftMinutes: 32 * HOUR, roomMinutes: 32 * HOUR },
      { person: "Bo", leftMinutes: 40 * HOUR, roomMinutes: 40 * HOUR },
      { person: "Cy", leftMinutes: 32 * HOUR, roomMinutes: 24 * HOUR },
    ];
    expect(windows).toEqual([
      {
        activity: "lay",
        name: "Lay cable",
        was: "2026-03-06",
        wouldEnd: "2026-03-09",
        ends: "2026-03-06",
        outcome: "held",
        why: null,
        load,
      },
    ]);
  });

  it("a quarter that must end on its last day does, though it began nine days late", () => {
    const quarter = three(
      { durationMinutes: 64 * DAY },
      { ann: 400 },
      { project: { ...planOf([]).project, start: "2026-01-01", dataDate: "2026-01-13" } },
    );
    expect(finishOf(quarter)).toBe("2026-04-13");
    const whole = applyChanges(quarter, [{ type: "setDataDate", date: null }]).plan;
    expect(finishOf(whole)).toBe("2026-03-31");
    const { plan, windows } = heldBy(
      applyChanges(whole, [{ type: "setDataDate", date: "2025-12-31" }]).plan,
      hours("ann", "2026-01-14", 8, { percent: 2 }),
    );
    expect(finishOf(plan)).toBe("2026-03-31");
    expect(plan.activities.get("lay")).toMatchObject({ actualStart: "2026-01-14", durationMinutes: 64 * DAY });
    // From the day after the one that was booked.
    expect(windows[0]!.load).toEqual([{ person: "Ann", leftMinutes: 392 * HOUR, roomMinutes: 54 * DAY }]);
  });

  it("says where nothing remains of the window", () => {
    const before = three({ durationMinutes: 2 * DAY });
    const after = accept(
      applyChanges(before, [{ type: "setDataDate", date: "2026-03-06" }]).plan,
      hours("ann", "2026-03-06", 1),
    );
    expect(holdWindows(before, after, ["lay"], new Set(["lay"]))).toMatchObject({
      changes: [],
      windows: [{ activity: "lay", outcome: "lost", why: "nothing remains of its window, which ended on 3 Mar 2026" }],
    });
  });

  it("is for each activity by itself; one that would end later is told, held or not", () => {
    const after = accept(three(), hours("cy", "2026-03-05", 1));
    expect(holdWindows(three(), after, ["lay"], new Set())).toMatchObject({
      changes: [],
      windows: [
        {
          activity: "lay",
          was: "2026-03-06",
          wouldEnd: "2026-03-12",
          ends: "2026-03-12",
          outcome: "moves",
          why: null,
          load: [],
        },
      ],
    });
    const done = accept(three({ driver: "effort" }, { ann: 40 }), hours("ann", "2026-03-02", 8, { percent: 100 }));
    const later = accept(done, hours("ann", "2026-03-05", 4));
    expect(holdWindows(done, later, ["lay"], new Set(["lay"])).windows).toMatchObject([
      {
        was: "2026-03-02",
        ends: "2026-03-05",
        outcome: "lost",
        why: "it is finished, and ends with the last work on it",
      },
    ]);
  });

  it("tells of more hours than fit in a fixed window though it ends no later, as where hours are raised", () => {
    const fixed = three({ durationMinutes: 5 * DAY });
    const after = accept(fixed, report("bo", "2026-03-02", { remainingMinutes: 56 * HOUR }));
    expect(holdWindows(fixed, after, ["lay"], new Set()).windows).toEqual([
      {
        activity: "lay",
        name: "Lay cable",
        was: "2026-03-06",
        wouldEnd: "2026-03-06",
        ends: "2026-03-06",
        outcome: "stays",
        why: null,
        load: [{ person: "Bo", leftMinutes: 56 * HOUR, roomMinutes: 40 * HOUR }],
      },
    ]);
    expect(holdWindows(fixed, fixed, ["lay"], new Set()).windows).toEqual([]);
  });

  it("leaves alone what does not move later, is finished or a milestone", () => {
    const before = three();
    expect(holdWindows(before, before, ["lay", "lit", "ghost"], new Set(["lay", "lit", "ghost"]))).toEqual({
      changes: [],
      windows: [],
    });
  });

  it("law: what is held finishes no later than before, and nobody's work is lost", () => {
    fc.assert(
      fc.property(
        fc.record({
          driver: fc.constantFrom("effort" as const, "duration" as const),
          windowPolicy: fc.constantFrom("hold" as const, "drift" as const),
          durationMinutes: fc.integer({ min: 60, max: 8000 }),
        }),
        fc.array(
          fc.record({
            person: fc.constantFrom("ann", "bo", "cy"),
            day: fc.integer({ min: 2, max: 27 }),
            amount: fc.integer({ min: 1, max: 12 }),
            left: fc.option(fc.integer({ min: 0, max: 90 }), { nil: null }),
          }),
          { minLength: 1, maxLength: 5 },
        ),
        (work, said) => {
          const before = three(work);
          const reports = said
            .map(({ person, day, amount, left }) =>
              hours(person, `2026-03-${String(day).padStart(2, "0")}`, amount, {
                remainingMinutes: left === null ? null : left * HOUR,
              }),
            )
            .sort((a, b) => (a.date < b.date ? -1 : 1));
          const after = accept(before, ...reports);
          const { changes, windows } = holdWindows(before, after, ["lay"], new Set(["lay"]));
          const plan = applyChanges(after, changes).plan;
          expect([...plan.assignments.values()]).toEqual([...after.assignments.values()]);
          const lost = windows.some(({ outcome }) => outcome === "lost");
          if (!lost) expect(finishOf(plan) <= finishOf(before)).toBe(true);
          else expect(changes).toEqual([]);
          for (const { ends } of windows) expect(ends).toBe(finishOf(plan));
        },
      ),
    );
  });
});

describe("time of a locked period", () => {
  it("lands on the first day after it, and says for which day it was", () => {
    const [posted, progress] = acceptReports(three(), [hours("ann", "2026-02-27", 4, { note: "trench" })], {
      closedTo: "2026-03-06",
    }).changes;
    expect(posted).toMatchObject({
      type: "postTime",
      entry: { date: "2026-03-07", minutes: 240, note: "for 27 Feb 2026: trench" },
    });
    expect(progress).toMatchObject({ actualStart: "2026-02-27" });
  });

  it("costs what the rate of the day worked makes of it, whatever the rate is where it lands, and taken back nothing remains", () => {
    const rate = fc.integer({ min: 0, max: 20_000 });
    const minutes = fc.integer({ min: 1, max: 600 });
    fc.assert(
      fc.property(rate, rate, minutes, (before, since, worked) => {
        const rates = [
          { from: "2026-01-01", perHourMinor: before },
          { from: "2026-03-07", perHourMinor: since },
        ];
        const plan = three({}, { ann: 40 }, { people: [{ ...people[0]!, rates }] });
        const cost = (...reports: ReportContent[]): number => {
          const after = toBundle(
            applyChanges(plan, acceptReports(plan, reports, { closedTo: "2026-03-06" }).changes).plan,
          );
          const ahead = { ...after, project: { ...after.project, dataDate: "2026-03-13" } };
          return analyse(ahead, { baseline: "frozen" }).performance!.project.ac;
        };
        const late = report("ann", "2026-02-27", { minutes: worked });
        expect(cost(late)).toBe(Math.round((worked * before) / 60));
        expect(cost(late, report("ann", "2026-03-09", { minutes: worked }))).toBe(
          Math.round((worked * before) / 60) + Math.round((worked * since) / 60),
        );
        expect(cost(late, report("ann", "2026-02-27", { minutes: -worked }))).toBe(0);
      }),
    );
  });
});

describe("remarks", () => {
  const plan = fromBundle({
    ...planOf(
      [
        { id: "dig", name: "Dig", durationMinutes: DAY },
        { id: "lay", name: "Lay", durationMinutes: DAY },
        { id: "idle", name: "Idle", durationMinutes: DAY, parked: true },
        {
          id: "done",
          name: "Done",
          durationMinutes: DAY,
          actualStart: "2026-03-02",
          actualFinish: "2026-03-02",
          percent: 100,
        },
      ],
      [{ from: "dig", to: "lay" }],
      {
        people,
        assignments: ["lay", "idle", "done"].map((activity) => ({ activity, person: "ann", plannedMinutes: DAY })),
        baselines: [
          {
            number: 1,
            approvedOn: "2026-03-01",
            approvedBy: "M",
            reason: "r",
            activities: [
              {
                id: "done",
                start: "2026-03-02T08:00",
                finish: "2026-03-02T17:00",
                durationMinutes: DAY,
                evenMinor: 0,
                startMinor: 0,
                finishMinor: 0,
                minutes: DAY,
              },
            ],
          },
        ],
      },
    ),
    project: { ...planOf([]).project, dataDate: "2026-03-02" },
  });
  const kinds = (one: ReportContent, closedTo: string | null = null): string[] =>
    remarksOn(plan, [one], closedTo)
      .get(one.id)!
      .map(({ kind }) => kind);

  it("tell a stage that went back, is not there any more, or was said of an earlier day than another", () => {
    const stages = ["Drawn", "Laid"].map((name, i) => ({ name, credit: i * 40 }));
    const lay = { ...plan.activities.get("lay")!, credit: { rule: "stages" as const, stages, stage: "Laid" } };
    const staged = { ...plan, activities: new Map([...plan.activities, ["lay", lay]]) };
    const said = (stage: string, earlier: ReportContent[] = []) =>
      remarksOn(staged, [report("ann", "2026-03-02", { activityId: "lay", stage })], null, earlier)
        .values()
        .next()
        .value!.filter(({ kind }) => /stage|older/.test(kind));
    expect(said("Laid")).toEqual([]);
    expect(said("Drawn")).toEqual([{ kind: "stageFell", from: "Laid", to: "Drawn" }]);
    expect(said("Painted")).toEqual([{ kind: "stageGone", stage: "Painted" }]);
    const later = report("bo", "2026-03-03", { activityId: "lay", stage: "Laid" });
    expect(said("Drawn", [later])).toEqual([{ kind: "older", what: "stage" }]);
  });

  it("name what is odd about a report, and nothing about one that is not", () => {
    expect(kinds(hours("ann", "2026-03-02", 1, { activityId: "lay" }))).toEqual(["unbaselined", "outOfSequence"]);
    expect(kinds(hours("ann", "2026-03-03", 1, { activityId: "idle" }))).toEqual(["parked", "unbaselined"]);
    expect(kinds(hours("ann", "2026-03-03", 1, { activityId: "done" }))).toEqual(["finished"]);
    expect(kinds(report("ann", "2026-03-03", { activityId: "done", percent: 40, remainingMinutes: 600 }))).toEqual([
      "percentFell",
      "reopens",
      "leftRose",
    ]);
    expect(kinds(hours("cy", "2026-03-02", -1, { activityId: "done" }), "2026-03-02")).toEqual([
      "notAssigned",
      "late",
      "adjusts",
    ]);
    expect(kinds(hours("ann", "2026-03-02", 1, { activityId: "ghost" }))).toEqual(["gone"]);
    expect(kinds(report("ann", "2026-03-02", { activityId: "", leaveUntil: "2026-03-03" }))).toEqual([]);
  });
});
