import fc from "fast-check";
import { planOf } from "../../testing/plans.ts";
import { applyChanges } from "../applyChanges.ts";
import { checkWholePlan } from "../check/checkOwnTables.ts";
import { fromBundle, type Plan } from "../plan.ts";
import { stageChanges, stagesFault, type StageEdit } from "./stages.ts";

const STAGES = [
  { name: "Ordered", credit: 10 },
  { name: "Made", credit: 60 },
  { name: "Tested", credit: 100 },
];
const plan = fromBundle(
  planOf(
    [
      { id: "A", name: "A", durationMinutes: 480, credit: { rule: "stages", stages: STAGES, stage: "Made" } },
      { id: "B", name: "B", durationMinutes: 480 },
      { id: "C", name: "C", durationMinutes: 480, actualStart: "2026-03-02", actualFinish: "2026-03-02" },
    ],
    [],
    { project: { ...planOf([]).project, dataDate: "2026-03-02" } },
  ),
);
const edits = (...of: [string | null, string, number][]): StageEdit[] =>
  of.map(([was, name, credit]) => ({ was, name, credit }));
const at = (of: Plan, id: string) => of.activities.get(id)!.credit;
const done = (stages: readonly StageEdit[], ids = ["A", "B", "C"]): Plan =>
  applyChanges(plan, stageChanges(plan, ids, stages)).plan;

describe("stages of a project", () => {
  it("are renamed, and what stands at one stays at it; others begin at the first or stand at the last", () => {
    const next = done(edits(["Tested", "Proven", 100], ["Made", "Built ", 70], ["Ordered", "Ordered", 10]));
    expect([at(next, "A")!.stage, at(next, "B")!.stage, at(next, "C")!.stage]).toEqual(["Built", "Ordered", "Proven"]);
    expect(at(next, "B")!.stages!.map(({ name, credit }) => `${name} ${credit}`)).toEqual([
      "Ordered 10",
      "Built 70",
      "Proven 100",
    ]);
    expect(checkWholePlan(next)).toEqual([]);
  });

  it("that go leave what stood there at what earns no more", () => {
    expect(at(done(edits(["Ordered", "Ordered", 10], [null, "Cut", 40], ["Tested", "Tested", 100])), "A")!.stage).toBe(
      "Cut",
    );
    expect(at(done(edits([null, "Welded", 80], ["Tested", "Tested", 100])), "A")!.stage).toBe("Welded");
  });

  it("change nothing where they are as they were, and pass over what is gone", () => {
    expect(
      stageChanges(
        plan,
        ["A", "gone"],
        STAGES.map((stage) => ({ was: stage.name, ...stage })),
      ),
    ).toEqual([]);
  });

  it("have names that differ and earn 0 to 100%", () => {
    expect(stagesFault([])).toMatch(/no stage/);
    expect(stagesFault(edits([null, " ", 5]))).toMatch(/no name/);
    expect(stagesFault(edits([null, "Cut", 5], [null, "Cut ", 9]))).toBe("Two stages are called “Cut”.");
    expect(stagesFault(edits([null, "Cut", 101]))).toMatch(/0 to 100/);
    expect(stagesFault(edits([null, "Cut", 100]))).toBeNull();
  });

  it("always leave a plan that holds, and are undone exactly", () => {
    const stage = fc.record({
      was: fc.constantFrom(null, "Ordered", "Made", "Tested"),
      name: fc.constantFrom("Cut", "Made", "Ordered", "Weld", "Tested"),
      credit: fc.integer({ min: 0, max: 100 }),
    });
    fc.assert(
      fc.property(fc.uniqueArray(stage, { minLength: 1, maxLength: 5, selector: ({ name }) => name }), (stages) => {
        const { plan: next, inverse } = applyChanges(plan, stageChanges(plan, ["A", "B", "C"], stages));
        expect(checkWholePlan(next)).toEqual([]);
        expect(applyChanges(next, inverse!).plan).toEqual(plan);
      }),
    );
  });
});
