import { planOf } from "../testing/plans.ts";
import { schedulePlan } from "../network/schedule.ts";
import { plannedBudget } from "./plannedBudget.ts";

describe("the budget of the plan as it is", () => {
  it("takes the rate in force on the start, adds up by branch, and leaves parked work out", () => {
    const plan = planOf(
      [
        { id: "top", name: "Top", kind: "summary" },
        { id: "sub", name: "Sub", kind: "summary", parent: "top" },
        { id: "a", name: "A", parent: "sub", durationMinutes: 480 },
        {
          id: "b",
          name: "B",
          parent: "sub",
          durationMinutes: 480,
          wish: { type: "startNotBefore", date: "2026-04-01" },
        },
        { id: "c", name: "C", parent: "top" },
        { id: "d", name: "D", parent: "top", durationMinutes: 480, parked: true },
      ],
      [],
      {
        people: [
          {
            id: "p",
            name: "P",
            rates: [
              { from: "2026-01-01", perHourMinor: 1000 },
              { from: "2026-04-01", perHourMinor: 1200 },
            ],
          },
        ],
        assignments: ["a", "b", "c", "d"].map((activity) => ({ activity, person: "p", plannedMinutes: 120 })),
        costs: [
          { id: "k", activity: "a", category: "Hire", plannedMinor: 55, timing: "finish" },
          { id: "l", activity: "d", category: "Hire", plannedMinor: 9 },
        ],
      },
    );
    const { minor, minutes } = plannedBudget(plan, schedulePlan(plan));
    // By hand: a 2 h at 10.00 and 0.55; b 2 h at 12.00, since it starts in April; c has no dates yet: 2 h at the rate of the project's start.
    expect([...minor]).toEqual([2055 + 2400 + 2000, 2055 + 2400, 2055, 2400, 2000, 0]);
    expect([...minutes]).toEqual([360, 240, 120, 120, 120, 0]);
  });
});
