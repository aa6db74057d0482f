import { fromBundle, type Credit, type PlanBundle } from "@chronometra/core";
import { slipway } from "../plan/testing/plans.ts";
import { stepsPercent, tracksOf, withStage, withStep } from "./tracks.ts";

const staged: Credit = {
  rule: "stages",
  stage: "Ordered",
  stages: [
    { name: "Made", credit: 60 },
    { name: "Ordered", credit: 10 },
    { name: "Tested", credit: 100 },
  ],
};
const stepped: Credit = {
  rule: "steps",
  steps: [
    { name: "Cut", weight: 1 },
    { name: "Weld", weight: 3, doneOn: "2026-03-03" },
  ],
};

/** The slipway with rules of credit on its first pieces of work. */
function plan(...credits: Credit[]) {
  const bundle: PlanBundle = slipway();
  let next = 0;
  return fromBundle({
    ...bundle,
    activities: bundle.activities.map((activity) =>
      activity.kind === undefined && next < credits.length ? { ...activity, credit: credits[next++]! } : activity,
    ),
  });
}

describe("the board", () => {
  it("puts activities of the same stages together, in the order of their credit, and steps last", () => {
    const tracks = tracksOf(plan(stepped, staged));
    expect(tracks.map(({ stages }) => stages?.map(({ name }) => name) ?? null)).toEqual([
      ["Ordered", "Made", "Tested"],
      null,
    ]);
    expect(tracksOf(plan())).toEqual([]);
  });

  it("moves along the stages, and ticks steps off and open again", () => {
    expect(withStage(staged, "Made").stage).toBe("Made");
    expect(stepsPercent(stepped)).toBe(75);
    const all = withStep(stepped, 0, "2026-03-04");
    expect([stepsPercent(all), withStep(all, 0, null)]).toEqual([100, stepped]);
    expect(stepsPercent({ rule: "steps" })).toBe(0);
  });
});
