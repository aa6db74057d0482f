import fc from "fast-check";
import { schedulePlan } from "../network/schedule.ts";
import { checkWholePlan } from "../plan/check/checkOwnTables.ts";
import { toBundle, type Plan } from "../plan/plan.ts";
import { formatDate } from "../time/instant.ts";
import { planByHand } from "./planByHand.ts";
import { planOfSteps, type Step } from "./planOfSteps.ts";

const DAY = 480;
const HEAD = { code: "S", name: "Signs", start: "2026-11-30", currency: "EUR" };
const step = (name: string, days: number, after = true, who = ""): Step => ({ name, minutes: days * DAY, after, who });
/** First and last day of each row, by name. */
function daysOf(plan: Plan): Record<string, string> {
  const bundle = toBundle(plan);
  const { rows } = schedulePlan(bundle);
  return Object.fromEntries(
    bundle.activities.map(({ name }, i) => [
      name,
      `${formatDate(rows[i]!.startDay)} to ${formatDate(rows[i]!.finishDay)}`,
    ]),
  );
}

describe("a plan of steps", () => {
  it("puts each after the one above or beside it, and all before one milestone", () => {
    const plan = planOfSteps(HEAD, [
      step("Draw", 2, true, "Ann"),
      step("Order", 1, false),
      step("Paint", 3, true, "ann"),
      step("Hang", 1, true, "Two fitters"),
    ]);
    expect(checkWholePlan(plan)).toEqual([]);
    expect(daysOf(plan)).toEqual({
      Draw: "2026-11-30 to 2026-12-01",
      Order: "2026-11-30 to 2026-11-30",
      Paint: "2026-12-02 to 2026-12-04",
      Hang: "2026-12-07 to 2026-12-07",
      "Signs complete": "2026-12-07 to 2026-12-07",
    });
    expect([...plan.people.values()].map(({ name }) => name)).toEqual(["Ann", "Two fitters"]);
    expect(plan.placeholders.size).toBe(2);
    expect([...plan.assignments.values()].map(({ person }) => person)).toEqual(["who-1", "who-1", "who-2"]);
  });

  it("takes a step of no duration for a milestone, which nobody works on", () => {
    const plan = planOfSteps(HEAD, [step("Draw", 1), step("Agreed", 0, true, "Board"), step("Hang", 1)]);
    expect(checkWholePlan(plan)).toEqual([]);
    expect(plan.activities.get("step-2")).toEqual({ id: "step-2", name: "Agreed", kind: "milestone" });
    expect([plan.people.size, plan.assignments.size]).toEqual([0, 0]);
    expect(daysOf(plan)["Hang"]).toBe("2026-12-01 to 2026-12-01");
  });

  it("leaves no loose ends, whatever stands beside what", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 9 }), fc.boolean()), { minLength: 1, maxLength: 12 }),
        (all) => {
          const plan = planOfSteps(
            HEAD,
            all.map(([days, after], i) => step(`Step ${i}`, days, after)),
          );
          expect(checkWholePlan(plan)).toEqual([]);
          const links = [...plan.links.values()];
          for (const { id, kind } of plan.activities.values())
            if (kind !== "milestone") expect(links.some(({ from }) => from === id)).toBe(true);
        },
      ),
    );
  });
});

describe("a project kept by hand", () => {
  it("has its stages on their days with their budgets, and milestones on theirs", () => {
    const plan = planByHand(
      HEAD,
      [
        { name: "March", from: "2027-03-01", to: "2027-03-31", budgetMinor: 120_000 },
        { name: "April", from: "2027-04-01", to: "2027-04-30", budgetMinor: 0 },
      ],
      [{ name: "Opened", date: "2027-04-30" }],
    ) as Plan;
    expect(checkWholePlan(plan)).toEqual([]);
    expect(plan.project.start).toBe("2027-03-01");
    expect(daysOf(plan)).toEqual({
      March: "2027-03-01 to 2027-03-31",
      April: "2027-04-01 to 2027-04-30",
      Opened: "2027-04-30 to 2027-04-30",
    });
    expect([...plan.costs.values()]).toEqual([
      { id: "budget-1", activity: "stage-1", category: "Budget", plannedMinor: 120_000 },
    ]);
  });

  it("says which line cannot be", () => {
    expect(planByHand(HEAD, [], [])).toEqual({ fault: "Say a stage or a milestone at least." });
    const stage = { name: "Rest", from: "2027-03-06", to: "2027-03-07", budgetMinor: 1 };
    expect(planByHand(HEAD, [stage], [])).toMatchObject({ fault: expect.stringContaining("no worked day") });
    expect(planByHand(HEAD, [{ ...stage, to: "2027-03-01" }], [])).toMatchObject({
      fault: expect.stringContaining("before it begins"),
    });
  });

  it("keeps the digits of its currency", () => {
    const digits = (currency: string): number | undefined =>
      (planByHand({ ...HEAD, currency }, [], [{ name: "Opened", date: "2027-04-30" }]) as Plan).project.minorDigits;
    expect([digits("JPY"), digits("EUR"), digits("KWD")]).toEqual([0, undefined, 3]);
  });
});
