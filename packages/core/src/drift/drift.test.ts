import { analyse } from "../analyse.ts";
import { freezePlan } from "../baseline/freeze.ts";
import type { Activity, PlanBundle } from "../plan/schema.ts";
import { planOf } from "../testing/plans.ts";
import { effectOf } from "./effect.ts";

const DAY = 480;
const work = (id: string, days: number, rest: Partial<Activity> = {}): Activity => ({
  id,
  name: id,
  durationMinutes: days * DAY,
  ...rest,
});

describe("deadline states", () => {
  const state = (deadline: string, activity: Partial<Activity> = {}, project: Partial<PlanBundle["project"]> = {}) =>
    analyse(
      planOf([work("A", 5, { deadline, ...activity })], [], {
        project: { code: "P", name: "P", currency: "EUR", start: "2026-03-02", calendar: "std", ...project },
      }),
    ).deadlines["A"]!;
  const done = (finish: string): Partial<Activity> => ({ actualStart: "2026-03-02", actualFinish: finish });
  it.each([
    ["safe", state("2026-03-13"), 5],
    ["tight", state("2026-03-12"), 4],
    ["tight", state("2026-03-06"), 0],
    ["willBreach", state("2026-03-05"), -1],
    ["breached", state("2026-03-06", {}, { dataDate: "2026-03-06" }), -5],
    ["metOnTime", state("2026-03-06", done("2026-03-06"), { dataDate: "2026-03-20" }), 0],
    ["metLate", state("2026-03-06", done("2026-03-09"), { dataDate: "2026-03-20" }), -1],
  ])("%s", (wanted, standing, marginDays) => {
    expect([standing.state, standing.marginDays]).toEqual([wanted, marginDays]);
  });

  it("how tight is tight is the project's to say", () => {
    expect(state("2026-03-12", {}, { tightDays: 4 }).state).toBe("safe");
    expect(state("2026-03-13", {}, { tightDays: 6 }).state).toBe("tight");
  });

  it("finished late is not overdue; overdue is due before today and not finished (common practice, no source)", () => {
    expect(state("2026-03-06", done("2026-03-09"), { dataDate: "2026-03-20" }).state).not.toBe("breached");
  });

  it("a finish on a day of rest after the deadline breaks it though no working time lies between", () => {
    const plan = planOf(
      [work("A", 5), { id: "M", name: "M", kind: "milestone", deadline: "2026-03-06" }],
      [{ from: "A", to: "M", lagMinutes: 1440, lagIn: "elapsed" }],
    );
    expect(analyse(plan).deadlines["M"]).toEqual({
      deadline: "2026-03-06",
      finish: "2026-03-07",
      marginDays: 0,
      state: "willBreach",
    });
  });

  it("one on a summary is listed and caps nothing; one on unscheduled or parked work is not listed", () => {
    const plan = planOf([
      { id: "S", name: "S", kind: "summary", deadline: "2026-03-03" },
      work("A", 5, { parent: "S" }),
      { id: "U", name: "U", deadline: "2026-03-03" },
      work("P", 1, { parked: true, deadline: "2026-03-03" }),
    ]);
    const { deadlines, schedule } = analyse(plan);
    expect(Object.keys(deadlines)).toEqual(["S"]);
    expect(schedule.activities["A"]!.totalFloatMinutes).toBe(0);
  });
});

describe("slippage", () => {
  it("counts working days of the project calendar and calendar days between the dates as shown, later positive", () => {
    const plan = planOf(
      [work("A", 5), work("B", 5), { id: "M", name: "M", kind: "milestone" }],
      [
        { from: "A", to: "B" },
        { from: "B", to: "M" },
      ],
    );
    const baseline = { number: 1, approvedOn: "2026-03-01", approvedBy: "x", reason: "y", ...freezePlan(plan) };
    const later = {
      ...plan,
      baselines: [baseline],
      activities: plan.activities.map((activity) =>
        activity.id === "A" ? { ...activity, durationMinutes: 6 * DAY } : activity,
      ),
    };
    expect(analyse(later).slippage).toEqual({
      A: { baselineFinish: "2026-03-06", finish: "2026-03-09", workingDays: 1, calendarDays: 3 },
      B: { baselineFinish: "2026-03-13", finish: "2026-03-16", workingDays: 1, calendarDays: 3 },
      M: { baselineFinish: "2026-03-13", finish: "2026-03-16", workingDays: 1, calendarDays: 3 },
    });
    expect(analyse({ ...plan, baselines: [baseline] }).slippage!["B"]).toMatchObject({
      workingDays: 0,
      calendarDays: 0,
    });
    expect(analyse(plan).slippage).toBeNull();
  });

  it("a plan frozen as it is has not slipped, whatever progress it has", () => {
    const plan = planOf([work("A", 5, { actualStart: "2026-03-03", percent: 50 })], [], {
      project: { code: "P", name: "P", currency: "EUR", start: "2026-03-02", calendar: "std", dataDate: "2026-03-13" },
    });
    expect(analyse(plan, { baseline: "frozen" }).slippage!["A"]!.workingDays).toBeGreaterThan(0);
  });

  it("an activity that has become a branch since has no slip of its own", () => {
    const was = planOf([work("A", 5)]);
    const baseline = { number: 1, approvedOn: "2026-03-01", approvedBy: "x", reason: "y", ...freezePlan(was) };
    const now = planOf([{ id: "A", name: "A", kind: "summary" }, work("B", 7, { parent: "A" })]);
    expect(Object.keys(analyse({ ...now, baselines: [baseline] }).slippage!)).toEqual([]);
  });

  it("the highest baseline is compared against, unless another is chosen", () => {
    const plan = planOf([work("A", 5)]);
    const at = (number: number, finish: string) => ({
      number,
      approvedOn: "2026-03-01",
      approvedBy: "x",
      reason: "y",
      activities: [{ ...freezePlan(plan).activities[0]!, finish }],
    });
    const both = { ...plan, baselines: [at(2, "2026-03-05T17:00"), at(1, "2026-03-04T17:00")] };
    expect([
      analyse(both).slippage!["A"]!.workingDays,
      analyse(both, { baseline: 1 }).slippage!["A"]!.workingDays,
    ]).toEqual([1, 2]);
  });
});

describe("the effect preview", () => {
  const plan = planOf(
    [work("A", 5), work("B", 5), { id: "M", name: "Open", kind: "milestone", deadline: "2026-03-16" }, work("C", 1)],
    [
      { from: "A", to: "B" },
      { from: "B", to: "M" },
    ],
  );
  const longer = (id: string, days: number): PlanBundle => ({
    ...plan,
    activities: plan.activities.map((activity) =>
      activity.id === id ? { ...activity, durationMinutes: days * DAY } : activity,
    ),
  });

  it("names what moves and by how much, and nothing else", () => {
    expect(effectOf(plan, longer("A", 7))).toEqual({
      finish: { id: "", name: "", from: "2026-03-13", to: "2026-03-17", days: 2, clock: null },
      activities: [
        { id: "A", name: "A", from: "2026-03-06", to: "2026-03-10", days: 2, clock: null },
        { id: "B", name: "B", from: "2026-03-13", to: "2026-03-17", days: 2, clock: null },
      ],
      milestones: [{ id: "M", name: "Open", from: "2026-03-13", to: "2026-03-17", days: 2, clock: null }],
      deadlines: [
        {
          id: "M",
          name: "Open",
          before: { deadline: "2026-03-16", finish: "2026-03-13", marginDays: 1, state: "tight" },
          after: { deadline: "2026-03-16", finish: "2026-03-17", marginDays: -1, state: "willBreach" },
        },
      ],
      cost: null,
      performance: null,
    });
  });

  it("work with float to spare moves alone", () => {
    const effect = effectOf(plan, longer("C", 3));
    expect([effect.finish, effect.milestones, effect.activities.map(({ id }) => id)]).toEqual([null, [], ["C"]]);
  });

  it("no change has no effect", () => {
    expect(effectOf(plan, plan)).toEqual({
      finish: null,
      activities: [],
      milestones: [],
      deadlines: [],
      cost: null,
      performance: null,
    });
  });

  it("an activity that comes or goes has a date on one side only", () => {
    const more = { ...plan, activities: [...plan.activities, work("N", 2)] };
    expect(effectOf(plan, more).activities).toEqual([
      { id: "N", name: "N", from: null, to: "2026-03-03", days: null, clock: null },
    ]);
  });

  it("tells the times of day where a finish moves within its date", () => {
    const half = {
      ...plan,
      activities: plan.activities.map((activity) =>
        activity.id === "B" ? { ...activity, durationMinutes: activity.durationMinutes! - 240 } : activity,
      ),
    };
    expect(effectOf(plan, half).finish).toMatchObject({
      from: "2026-03-13",
      to: "2026-03-13",
      days: -0.5,
      clock: { from: "17:00", to: "12:00" },
    });
  });
});
