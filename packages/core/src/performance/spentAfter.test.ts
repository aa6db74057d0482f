import fc from "fast-check";
import type { PlanBundle } from "../plan/schema.ts";
import { planOf } from "../testing/plans.ts";
import { actualCosts, spentAfter } from "./cost.ts";

const ANN = {
  id: "ann",
  name: "Ann",
  rates: [
    { from: "2026-01-01", perHourMinor: 6000 },
    { from: "2026-03-10", perHourMinor: 9000 },
  ],
};
const plan = (more: Partial<PlanBundle>): PlanBundle =>
  planOf([{ id: "a", name: "A", durationMinutes: 4800 }], [], { people: [ANN], ...more });

const day = fc.integer({ min: 1, max: 28 }).map((date) => `2026-03-${String(date).padStart(2, "0")}`);
const entry = fc.record({
  activity: fc.constant("a"),
  person: fc.constant("ann"),
  date: day,
  minutes: fc.integer({ min: -300, max: 600 }),
  state: fc.constantFrom("posted", "submitted", "returned"),
});
const cost = fc.record({
  activity: fc.constant("a"),
  date: day,
  amountMinor: fc.integer({ min: -50_000, max: 50_000 }),
});

describe("what is spent and not counted yet", () => {
  it("is priced at the rate of its day, and knows its last day; what waits or lies before costs nothing", () => {
    const spent = plan({
      timeEntries: [
        { activity: "a", person: "ann", date: "2026-03-06", minutes: 60, state: "posted" },
        { activity: "a", person: "ann", date: "2026-03-09", minutes: 60, state: "posted" },
        { activity: "a", person: "ann", date: "2026-03-11", minutes: 60, state: "posted" },
        { activity: "a", person: "ann", date: "2026-03-12", minutes: 60, state: "submitted" },
      ],
      actualCosts: [{ activity: "a", date: "2026-03-10", amountMinor: 2_500 }],
    });
    expect(spentAfter(spent, "2026-03-06")).toEqual({ costMinor: 6_000 + 9_000 + 2_500, last: "2026-03-11" });
    expect(spentAfter(spent, "2026-03-11")).toEqual({ costMinor: 0, last: null });
  });

  it("and actual cost are together all that is spent, wherever the data date lies", () => {
    fc.assert(
      fc.property(
        fc.array(entry, { maxLength: 20 }),
        fc.array(cost, { maxLength: 10 }),
        day,
        (timeEntries, costs, until) => {
          const spent = plan({ timeEntries: timeEntries as PlanBundle["timeEntries"], actualCosts: costs });
          const sum = (by: ReadonlyMap<string, number>): number =>
            [...by.values()].reduce((total, each) => total + each, 0);
          expect(sum(actualCosts(spent, until)) + spentAfter(spent, until).costMinor).toBe(
            sum(actualCosts(spent, "2099-12-31")),
          );
        },
      ),
    );
  });
});
