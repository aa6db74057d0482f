import fc from "fast-check";
import { schedulePlan } from "../network/schedule.ts";
import type { Activity, Baseline, PlanBundle } from "../plan/schema.ts";
import { networks, planOf } from "../testing/plans.ts";
import { compareStates, stateOfBaseline, stateOfPlan, type Comparison } from "./compare.ts";
import { freezePlan } from "./freeze.ts";

const calendarOf = (plan: PlanBundle) => schedulePlan(plan).calendars.get("std");
const between = (a: PlanBundle, b: PlanBundle): Comparison =>
  compareStates(stateOfPlan(a), stateOfPlan(b), calendarOf(b));
const frozen = (plan: PlanBundle): Baseline => ({
  number: 1,
  approvedOn: "2026-03-01",
  approvedBy: "M",
  reason: "go",
  ...freezePlan(plan),
});
const logic = (plan: PlanBundle) => ({
  links: plan.links ?? [],
  wishes: Object.fromEntries(plan.activities.flatMap(({ id, wish }) => (wish === undefined ? [] : [[id, wish]]))),
});

const BASE: Activity[] = [
  { id: "s", name: "Lock", kind: "summary" },
  { id: "a", name: "Dig", parent: "s", durationMinutes: 960 },
  { id: "b", name: "Pour", parent: "s", durationMinutes: 480 },
  { id: "m", name: "Open", kind: "milestone" },
];
const base = planOf(
  BASE,
  [
    { from: "a", to: "b" },
    { from: "b", to: "m" },
  ],
  {
    people: [{ id: "p", name: "P", rates: [{ from: "2026-01-01", perHourMinor: 100 }] }],
    assignments: [{ activity: "a", person: "p", plannedMinutes: 600 }],
  },
);
const changed = (change: (plan: PlanBundle) => void): PlanBundle => {
  const copy = structuredClone(base);
  change(copy);
  return copy;
};

describe("two states of a plan", () => {
  it("that are the same differ in nothing", () => {
    expect(between(base, structuredClone(base))).toEqual({
      rows: [],
      finish: { from: "2026-03-04", to: "2026-03-04", days: 0 },
      budgetMinor: { from: 1000, to: 1000 },
      minutes: { from: 600, to: 600 },
      alike: 3,
    });
  });

  it("are told apart by dates in working days, duration, budget and logic", () => {
    const to = changed((plan) => {
      plan.activities[1]!.durationMinutes = 1920;
      plan.assignments![0]!.plannedMinutes = 900;
      plan.links![0] = { from: "a", to: "b", lagMinutes: 480 };
    });
    const { rows, finish, budgetMinor, alike } = between(base, to);
    // Dig takes two days more, and a day passes after it: by hand, Pour finishes on Monday the 9th instead of Wednesday the 4th, three working days later.
    expect(finish).toEqual({ from: "2026-03-04", to: "2026-03-09", days: 3 });
    expect(rows.map(({ id, what, startDays, finishDays }) => [id, what, startDays, finishDays])).toEqual([
      ["a", "changed", 0, 2],
      ["b", "changed", 3, 3],
      ["m", "changed", 3, 3],
    ]);
    expect([rows[0]!.from!.durationMinutes, rows[0]!.to!.durationMinutes, budgetMinor, alike]).toEqual([
      960,
      1920,
      { from: 1000, to: 1500 },
      0,
    ]);
    expect([rows[1]!.logicAdded, rows[1]!.logicDropped, rows[1]!.path]).toEqual([["Dig + 1d"], ["Dig"], "Lock"]);
  });

  it("say what was added, dropped, parked and woken; what is parked in both counts for nothing", () => {
    const from = changed((plan) =>
      plan.activities.push(
        { id: "x", name: "Spare", durationMinutes: 60, parked: true },
        { id: "y", name: "Paint", durationMinutes: 60 },
        { id: "z", name: "Never", durationMinutes: 60, parked: true },
      ),
    );
    const to = changed((plan) =>
      plan.activities.push(
        { id: "x", name: "Spare", durationMinutes: 60 },
        { id: "y", name: "Paint", durationMinutes: 60, parked: true },
        { id: "z", name: "Never", durationMinutes: 90, parked: true },
        { id: "n", name: "New", durationMinutes: 60 },
      ),
    );
    to.activities = to.activities.filter(({ id }) => id !== "m");
    to.links = to.links!.filter(({ to: end }) => end !== "m");
    expect(between(from, to).rows.map(({ id, what }) => [id, what])).toEqual([
      ["x", "woken"],
      ["y", "parked"],
      ["n", "added"],
      ["m", "dropped"],
    ]);
  });

  it("a plan without progress differs in nothing from the baseline frozen of it, whatever its network", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std", "seven", "nights"] }), (plan) => {
        const comparison = compareStates(
          stateOfBaseline(plan, frozen(plan), logic(plan)),
          stateOfPlan(plan),
          calendarOf(plan),
        );
        // Milestones that are shown at a day's start differ only in how they are shown.
        expect(comparison.rows).toEqual([]);
        expect(comparison.finish.days).toBe(0);
      }),
      { numRuns: 200 },
    );
  });

  it("work driven by its people's hours, and level of effort, have the duration of their window on both sides", () => {
    const plan = changed((of) => {
      Object.assign(of.activities[1]!, { driver: "effort" });
      of.activities.push({ id: "loe", name: "Watch", kind: "levelOfEffort" });
    });
    expect(
      compareStates(stateOfBaseline(plan, frozen(plan), logic(plan)), stateOfPlan(plan), calendarOf(plan)).rows,
    ).toEqual([]);
  });

  it("an activity that has left the plan is told by its id, with the links it had", () => {
    const to = changed((plan) => {
      plan.activities = plan.activities.filter(({ id }) => id !== "a");
      plan.links = [{ from: "b", to: "m" }];
      plan.assignments = [];
    });
    const { rows } = compareStates(
      stateOfBaseline(to, frozen(base), logic(base), new Map([["a", "Dig"]])),
      stateOfPlan(to),
      calendarOf(to),
    );
    expect(rows.map(({ name, what, logicDropped }) => [name, what, logicDropped])).toEqual([
      ["Pour", "changed", ["Dig"]],
      ["Open", "changed", []],
      ["Dig", "dropped", []],
    ]);
    expect(stateOfBaseline(to, frozen(base), logic(base)).rows.get("a")!.name).toBe("an activity that was removed");
  });

  it("swapped, every day, amount and word turns round", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std"] }), networks({ calendars: ["std"] }), (a, b) => {
        const there = compareStates(stateOfPlan(a), stateOfPlan(b), calendarOf(a));
        const back = compareStates(stateOfPlan(b), stateOfPlan(a), calendarOf(a));
        const days = ({ rows }: Comparison, sign: number) =>
          new Map(rows.map(({ id, finishDays }) => [id, finishDays === null ? null : sign * finishDays + 0]));
        expect(days(back, -1)).toEqual(days(there, 1));
        expect(new Map(back.rows.map(({ id, logicAdded }) => [id, logicAdded]))).toEqual(
          new Map(there.rows.map(({ id, logicDropped }) => [id, logicDropped])),
        );
      }),
      { numRuns: 100 },
    );
  });
});
