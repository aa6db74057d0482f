import fc from "fast-check";
import { computePlan } from "../analyse.ts";
import { freezePlan } from "../baseline/freeze.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { planOf } from "../testing/plans.ts";
import { distribute, NOBODY, performanceByShare, performanceByValue, type ShareKind } from "./byShare.ts";

describe("an amount distributed", () => {
  it("adds up, each part within one of its exact share", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1_000_000, max: 1_000_000_000 }),
        fc.array(fc.nat(10_000_000), { minLength: 1, maxLength: 12 }),
        (amount, weights) => {
          const parts = distribute(amount, weights);
          expect(parts.reduce((sum, part) => sum + part, 0)).toBe(amount);
          const whole = weights.reduce((sum, weight) => sum + weight, 0);
          if (whole > 0)
            parts.forEach((part, i) =>
              expect(Math.abs(part - (amount * weights[i]!) / whole)).toBeLessThanOrEqual(1 + 1e-6),
            );
        },
      ),
    );
  });

  it("gives what remains by rounding to those who lost most", () => {
    expect(distribute(100, [1, 1, 1])).toEqual([34, 33, 33]);
    expect(distribute(10, [0, 0])).toEqual([10, 0]);
  });
});

const plan = (percent: number, booked: number): PlanBundle => {
  const base = planOf(
    [
      { id: "a", name: "A", durationMinutes: 2400, actualStart: "2026-03-02", percent },
      { id: "b", name: "B", durationMinutes: 960 },
      { id: "s", name: "S", kind: "summary" },
      { id: "c", name: "C", parent: "s", durationMinutes: 480 },
    ],
    [{ from: "a", to: "b" }],
    {
      project: { dataDate: "2026-03-04" } as never,
      people: [
        { id: "ann", name: "Ann", role: "diver", rates: [{ from: "2026-01-01", perHourMinor: 6000 }] },
        { id: "bo", name: "Bo", role: "diver", rates: [{ from: "2026-01-01", perHourMinor: 3000 }] },
      ],
      assignments: [
        { activity: "a", person: "ann", plannedMinutes: 1200 },
        { activity: "a", person: "bo", plannedMinutes: 1200 },
        { activity: "c", person: "bo", plannedMinutes: 480 },
      ],
      costs: [{ id: "k", activity: "b", category: "timber", plannedMinor: 33_333 }],
      timeEntries: [{ activity: "a", person: "bo", date: "2026-03-03", minutes: booked, state: "posted" }],
      actualCosts: [{ activity: "b", date: "2026-03-04", amountMinor: 777 }],
    },
  );
  return {
    ...base,
    baselines: [{ number: 1, approvedOn: "2026-03-01", approvedBy: "x", reason: "y", ...freezePlan(base) }],
  };
};

describe("figures split", () => {
  const split = (kind: ShareKind, of: PlanBundle = plan(50, 300)) => {
    const { schedule, performance } = computePlan(of);
    return { parts: performanceByShare(of, schedule, performance!, kind), project: performance!.project };
  };

  it("by person: two thirds of A are Ann's, whose hour costs twice as much; Bo has booked, so the cost is Bo's", () => {
    const { parts } = split("person");
    // A: 20 h x 60 + 20 h x 30 = 1 800.00; half of it earned.
    expect(parts.get("ann")).toMatchObject({ bac: 120_000, ev: 60_000, ac: 0 });
    expect(parts.get("bo")).toMatchObject({ bac: 60_000 + 24_000, ev: 30_000, ac: 15_000 });
    expect(parts.get(NOBODY)).toMatchObject({ bac: 33_333, ac: 777 });
  });

  it("by role and by category", () => {
    expect(split("role").parts.get("diver")).toMatchObject({ bac: 204_000, ac: 15_000 });
    expect([...split("category").parts.keys()].sort()).toEqual([NOBODY, "timber"]);
    expect(split("category").parts.get("timber")).toMatchObject({ bac: 33_333, ac: 0 });
  });

  it("add up to the project's, whatever is booked and reported", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 100 }),
        fc.integer({ min: 1, max: 1000 }),
        fc.constantFrom<ShareKind>("person", "role", "category"),
        (percent, booked, kind) => {
          const { parts, project } = split(kind, plan(percent, booked));
          for (const measure of ["bac", "pv", "ev", "ac", "eacBottomUp"] as const)
            expect([...parts.values()].reduce((sum, figures) => sum + figures[measure], 0)).toBe(project[measure]);
        },
      ),
    );
  });

  it("leave out what waits and what is dated later, and what was booked ahead is told of whoever booked it", () => {
    const base = plan(50, 300);
    const time = (part: object) => ({
      activity: "a",
      person: "ann",
      date: "2026-03-03",
      minutes: 60,
      state: "posted",
      ...part,
    });
    const { parts, project } = split("person", {
      ...base,
      activities: [...base.activities, { id: "p", name: "Parked", durationMinutes: 480, parked: true }],
      timeEntries: [
        ...base.timeEntries!,
        time({ state: "submitted" }),
        // Of work that says itself what is left, so that it is spent already.
        time({ person: "bo", date: "2026-03-05", minutes: 120 }),
      ] as PlanBundle["timeEntries"],
      assignments: base.assignments!.map((each) => ({ ...each, remainingMinutes: 600 })),
      actualCosts: [
        { activity: "b", date: "2026-03-04", amountMinor: 700, category: "timber" },
        { activity: "b", date: "2026-03-05", amountMinor: 50, category: "timber" },
      ],
    });
    expect(parts.get("ann")).toMatchObject({ ac: 0 });
    expect(parts.get("bo")).toMatchObject({ ac: 15_000 });
    // Bo: spent 150.00, ahead 60.00, and half of what is left on A and all on C by share of the planned cost.
    expect([...parts.values()].reduce((sum, { eacBottomUp }) => sum + eacBottomUp, 0)).toBe(project.eacBottomUp);
    const { parts: byCategory } = split("category", {
      ...base,
      actualCosts: [
        { activity: "b", date: "2026-03-04", amountMinor: 700, category: "timber" },
        { activity: "b", date: "2026-03-05", amountMinor: 50, category: "timber" },
      ],
    });
    expect(byCategory.get("timber")).toMatchObject({ ac: 700 });
  });

  it("by any value of activities, branches left out", () => {
    const of = plan(50, 300);
    const { performance } = computePlan(of);
    const parts = performanceByValue(of, performance!, (id) => (id === "a" ? "north" : NOBODY));
    expect([...parts].map(([key, { bac }]) => [key, bac])).toEqual([
      ["north", 180_000],
      [NOBODY, 57_333],
    ]);
  });
});
