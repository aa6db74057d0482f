import fc from "fast-check";
import { networks, planOf } from "../testing/plans.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { freezePlan } from "./freeze.ts";
import { onceFrozen } from "./onceFrozen.ts";

const bare = planOf(
  [
    { id: "dig", name: "Dig", durationMinutes: 2400 },
    { id: "pour", name: "Pour", durationMinutes: 2400 },
  ],
  [{ from: "dig", to: "pour" }],
  {
    people: [{ id: "ann", name: "Ann", rates: [{ from: "2026-01-01", perHourMinor: 6000 }] }],
    assignments: [
      { activity: "dig", person: "ann", plannedMinutes: 2400 },
      { activity: "pour", person: "ann", plannedMinutes: 2400 },
    ],
  },
);
const at = (dataDate: string, plan: PlanBundle = bare): PlanBundle => ({
  ...plan,
  project: { ...plan.project, dataDate },
  baselines: [{ number: 1, approvedOn: "2026-03-01", approvedBy: "x", reason: "y", ...freezePlan(bare) }],
});

describe("what freezing makes of the figures", () => {
  it("nothing where the plan is as it was approved", () => {
    const { before, after, past } = onceFrozen(at("2026-03-06"), at("2026-03-06"))!;
    expect([after, past]).toEqual([before, []]);
  });

  it("names work that the new baseline would have finished in the past, with the planned value that counts against it at once", () => {
    // Pour is to take one day and to stand beside Dig: its approved finish lies on 2 March, before the data date of 6 March.
    const changed: PlanBundle = {
      ...bare,
      activities: [bare.activities[0]!, { ...bare.activities[1]!, durationMinutes: 480 }],
      links: [],
    };
    const frozen = onceFrozen(at("2026-03-06"), at("2026-03-06", changed))!;
    expect(frozen.before).toMatchObject({ bac: 480_000, pv: 240_000, sv: -240_000 });
    expect(frozen.after).toMatchObject({ bac: 480_000, pv: 480_000, ev: 0, sv: -480_000, spi: 0 });
    expect(frozen.past).toEqual([{ id: "pour", name: "Pour", finish: "2026-03-02", pvMinor: 240_000 }]);
  });

  it("of a first baseline has no figures before it; without a data date there is nothing to measure", () => {
    const first = { ...at("2026-03-06"), baselines: [] };
    expect(onceFrozen(first, first)).toMatchObject({
      before: null,
      after: { pv: 240_000, sv: -240_000 },
      past: [{ id: "dig" }],
    });
    expect(onceFrozen(bare, bare)).toBeNull();
  });

  it("names nothing and changes no figure wherever the plan is the one in force, whatever plan that is", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std", "seven"] }), fc.integer({ min: 2, max: 28 }), (random, date) => {
        const inForce = {
          ...random,
          baselines: [{ number: 1, approvedOn: "2026-03-01", approvedBy: "x", reason: "y", ...freezePlan(random) }],
        };
        const live: PlanBundle = {
          ...inForce,
          project: { ...inForce.project, dataDate: `2026-03-${String(date).padStart(2, "0")}` },
        };
        const frozen = onceFrozen(live, live)!;
        expect([frozen.past, frozen.after]).toEqual([[], frozen.before]);
      }),
      { numRuns: 40 },
    );
  });
});
