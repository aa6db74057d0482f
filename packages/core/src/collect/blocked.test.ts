import { fromBundle } from "../plan/plan.ts";
import { planOf } from "../testing/plans.ts";
import { blockedWays } from "./blocked.ts";

const DAY = 480;

/** Permit, dig, pour, open in a row; paint has ten days of room beside the pour. */
const plan = fromBundle({
  ...planOf(
    [
      { id: "permit", name: "Permit", durationMinutes: DAY },
      { id: "dig", name: "Dig", durationMinutes: 2 * DAY },
      { id: "pour", name: "Pour", durationMinutes: 10 * DAY },
      { id: "paint", name: "Paint", durationMinutes: 2 * DAY },
      { id: "open", name: "Open", kind: "milestone", deadline: "2026-03-20" },
      { id: "aside", name: "Aside", durationMinutes: DAY },
    ],
    [
      { from: "permit", to: "dig" },
      { from: "dig", to: "pour" },
      { from: "dig", to: "paint", type: "SS" },
      { from: "pour", to: "open" },
      { from: "paint", to: "open" },
    ],
  ),
});

describe("the ways from a block", () => {
  it("name what comes before, what comes after with the days it moves, and the deadlines at stake (worked by hand)", () => {
    const ways = blockedWays(plan, "dig", 5);
    expect(ways.upstream).toEqual([expect.objectContaining({ name: "Permit", finish: "2026-03-02", movesDays: 0 })]);
    expect(ways.downstream.map(({ name, movesDays }) => [name, movesDays])).toEqual([
      ["Pour", 5],
      ["Paint", 0],
      ["Open", 5],
    ]);
    expect(ways.deadlines).toEqual([
      expect.objectContaining({
        name: "Open",
        now: expect.objectContaining({ marginDays: 2, state: "tight" }),
        then: expect.objectContaining({ marginDays: -3, state: "willBreach" }),
      }),
    ]);
    expect(ways.finishDays).toBe(5);
  });

  it("leave out what is done and what no link leads to", () => {
    const done = {
      ...plan,
      project: { ...plan.project, dataDate: "2026-03-02" },
      activities: new Map(plan.activities).set("permit", {
        ...plan.activities.get("permit")!,
        actualStart: "2026-03-02",
        actualFinish: "2026-03-02",
      }),
    };
    expect(blockedWays(done, "dig", 5).upstream).toEqual([]);
    expect(blockedWays(plan, "aside", 5)).toMatchObject({ upstream: [], downstream: [], deadlines: [], finishDays: 0 });
  });

  it("reach further by effort-driven work and work in progress", () => {
    const people = [{ id: "ann", name: "Ann" }];
    const effort = fromBundle(
      planOf(
        [
          { id: "dig", name: "Dig", driver: "effort" },
          { id: "open", name: "Open", kind: "milestone" },
        ],
        [{ from: "dig", to: "open" }],
        { people, assignments: [{ activity: "dig", person: "ann", plannedMinutes: DAY }] },
      ),
    );
    expect(blockedWays(effort, "dig", 2).downstream).toEqual([expect.objectContaining({ name: "Open", movesDays: 2 })]);
    const begun = fromBundle(
      planOf(
        [
          { id: "dig", name: "Dig", durationMinutes: 4 * DAY, actualStart: "2026-03-02", percent: 50 },
          { id: "open", name: "Open", kind: "milestone" },
        ],
        [{ from: "dig", to: "open" }],
        { project: { ...planOf([]).project, dataDate: "2026-03-03" } },
      ),
    );
    expect(blockedWays(begun, "dig", 3).finishDays).toBe(3);
  });
});
