import fc from "fast-check";
import { schedulePlan } from "../network/schedule.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import { fromBundle, toBundle } from "../plan/plan.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { networks, planOf } from "../testing/plans.ts";
import { formatDate, parseDate } from "../time/instant.ts";
import { slipChoice, slipDays, slipMilestone } from "./slipMilestone.ts";

const plan = planOf(
  [
    { id: "dig", name: "Dig", durationMinutes: 2400, owner: "cy" },
    { id: "side", name: "Side", durationMinutes: 480 },
    { id: "m", name: "Dug", kind: "milestone", deadline: "2026-03-09" },
    { id: "pour", name: "Pour", durationMinutes: 960 },
    { id: "open", name: "Open", kind: "milestone", deadline: "2026-03-20" },
    { id: "else", name: "Elsewhere", durationMinutes: 480 },
  ],
  [
    { from: "dig", to: "m" },
    { from: "side", to: "m" },
    { from: "m", to: "pour" },
    { from: "pour", to: "open" },
  ],
  {
    people: [
      { id: "ann", name: "Ann" },
      { id: "cy", name: "Cy" },
    ],
    assignments: [{ activity: "dig", person: "ann", plannedMinutes: 2400 }],
  },
);

const dates = (of: PlanBundle) => {
  const { rows } = schedulePlan(of);
  return Object.fromEntries(of.activities.map(({ id }, i) => [id, formatDate(rows[i]!.finishDay)]));
};
const slipped = (along: string[], deadlines: boolean, days = 3) =>
  toBundle(
    applyChanges(
      fromBundle(plan),
      slipMilestone(plan, { milestone: "m", days, along, deadlines, reason: "rock" }).changes,
    ).plan,
  );

describe("slipping a milestone", () => {
  it("offers what leads to it and the milestones after it, with who is concerned", () => {
    const { before, after } = slipChoice(plan, "m");
    expect(before.map(({ id, decides, people }) => [id, decides, people])).toEqual([
      ["side", false, []],
      ["dig", true, ["ann", "cy"]],
    ]);
    expect(after.map(({ id }) => id)).toEqual(["open"]);
  });

  it("moves it and all that goes along by worked days; what hangs on it follows, the rest stays", () => {
    expect(dates(plan)).toMatchObject({
      dig: "2026-03-06",
      side: "2026-03-02",
      m: "2026-03-06",
      open: "2026-03-10",
      else: "2026-03-02",
    });
    expect(dates(slipped(["side"], false))).toMatchObject({
      dig: "2026-03-06",
      side: "2026-03-05",
      m: "2026-03-11",
      open: "2026-03-13",
      else: "2026-03-02",
    });
  });

  it("lands on the day that is wanted, or on the next that is worked; a day that is no later needs none", () => {
    const milestone = plan.activities.find(({ id }) => id === "m")!;
    const daysTo = (to: string): number => slipDays(plan, milestone, parseDate("2026-03-06")!, parseDate(to)!);
    for (const to of ["2026-03-07", "2026-03-09", "2026-03-12", "2026-03-14", "2026-03-15", "2026-04-01"]) {
      const landed = dates(slipped([], false, daysTo(to)))["m"]!;
      const weekend = { "2026-03-07": "2026-03-09", "2026-03-14": "2026-03-16", "2026-03-15": "2026-03-16" };
      expect([to, landed]).toEqual([to, (weekend as Record<string, string>)[to] ?? to]);
    }
    expect(["2026-03-06", "2026-03-05", "2026-02-27"].map(daysTo)).toEqual([0, -1, -5]);
  });

  it("puts deadlines off with them only where that is wanted", () => {
    const deadlines = (of: PlanBundle) =>
      of.activities.flatMap(({ id, deadline }) => (deadline === undefined ? [] : [[id, deadline]]));
    expect(deadlines(slipped(["open"], false))).toEqual([
      ["m", "2026-03-09"],
      ["open", "2026-03-20"],
    ]);
    expect(deadlines(slipped(["open"], true))).toEqual([
      ["m", "2026-03-12"],
      ["open", "2026-03-25"],
    ]);
  });

  it("never brings any date forward, whatever the plan", () => {
    fc.assert(
      fc.property(
        networks({ calendars: ["std", "seven"] }),
        fc.integer({ min: 1, max: 30 }),
        fc.nat(),
        (random, days, pick) => {
          const ids = random.activities.map(({ id }) => id);
          const after = toBundle(
            applyChanges(
              fromBundle(random),
              slipMilestone(random, {
                milestone: ids[pick % ids.length]!,
                days,
                along: ids.filter((_, i) => i % 2 === 0),
                deadlines: true,
                reason: "late",
              }).changes,
            ).plan,
          );
          const [was, will] = [schedulePlan(random).rows, schedulePlan(after).rows];
          was.forEach((row, i) => expect(will[i]!.finish).toBeGreaterThanOrEqual(row!.finish));
        },
      ),
      { numRuns: 60 },
    );
  });
});
