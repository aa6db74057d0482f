import { conditionSchema, type Condition } from "./conditionSchema.ts";
import { conditionWords, holdCondition, stageAt, type GateFacts } from "./conditions.ts";

const FACTS: GateFacts = {
  baseline: 2,
  fitness: "mend",
  broken: [],
  deadlines: 2,
  budgetMinor: 100_000,
  estimateMinor: 104_000,
  driftDays: 3,
  deliverables: [
    { name: "Drawings", accepted: true },
    { name: "Permit", accepted: false },
  ],
  blocked: [],
  openPeriod: 9,
  issuedPeriod: 9,
  severities: [
    { id: "s", name: "small" },
    { id: "m", name: "serious" },
    { id: "g", name: "grave" },
  ],
  issues: [],
  confirmed: {},
};
const held = (condition: object, facts: Partial<GateFacts> = {}) =>
  holdCondition(conditionSchema.parse({ id: "c", ...condition }), { ...FACTS, ...facts });

describe("a condition of a gate", () => {
  it("asks for an approved plan that is fit enough", () => {
    expect(held({ kind: "baseline" })).toEqual({ met: true, says: "Baseline 2 is in force." });
    expect(held({ kind: "baseline" }, { baseline: null }).met).toBe(false);
    expect(held({ kind: "plan", fitness: "mend" })).toEqual({ met: true, says: "Fit with mends." });
    expect(held({ kind: "plan", fitness: "fit" }).met).toBe(false);
    expect(held({ kind: "plan", fitness: "fit" }, { fitness: "fit" }).met).toBe(true);
    expect(held({ kind: "plan", fitness: "mend" }, { fitness: "unfit" }).met).toBe(false);
  });

  it("holds the estimate against the budget, exactly at its limit too", () => {
    expect(held({ kind: "cost", percent: 4 })).toEqual({ met: true, says: "The estimate is 4% over it." });
    expect(held({ kind: "cost", percent: 3.9 }).met).toBe(false);
    expect(held({ kind: "cost", percent: 0 }, { estimateMinor: 100_000 })).toEqual({
      met: true,
      says: "The estimate is the budget.",
    });
    expect(held({ kind: "cost", percent: 0 }, { estimateMinor: 90_000 }).says).toBe("The estimate is 10% below it.");
  });

  it("is neither met nor missed where there is nothing to hold it against", () => {
    expect(held({ kind: "cost", percent: 0 }, { budgetMinor: null }).met).toBeNull();
    expect(held({ kind: "cost", percent: 0 }, { budgetMinor: 0 }).met).toBeNull();
    expect(held({ kind: "cost", percent: 0 }, { estimateMinor: null }).met).toBeNull();
    expect(held({ kind: "drift", days: 0 }, { driftDays: null }).met).toBeNull();
    expect(held({ kind: "deadlines" }, { deadlines: 0 }).met).toBeNull();
    expect(held({ kind: "deliverables" }, { deliverables: [] }).met).toBeNull();
    expect(held({ kind: "issued" }, { openPeriod: null }).met).toBeNull();
  });

  it("finds open issues at a step of the scale and above, and those of which nobody has said how severe they are", () => {
    const issue = (title: string, severity: string | null) => ({ title, severity });
    const of = (...issues: GateFacts["issues"]) => held({ kind: "issues", severity: "m" }, { issues });
    expect(of()).toEqual({ met: true, says: "None is open." });
    expect(of(issue("Rust", "s"))).toEqual({ met: true, says: "1 open, none of them." });
    expect(of(issue("Rust", "s"), issue("Crack", "m"))).toEqual({ met: false, says: "1: “Crack”." });
    expect(of(issue("Crack", "g")).met).toBe(false);
    expect(of(issue("Noise", null))).toEqual({ met: false, says: "1: “Noise”." });
    expect(of(issue("Noise", "gone")).met).toBe(false);
    expect(held({ kind: "issues", severity: "gone" }).met).toBeNull();
  });

  it("counts days late, and none for early", () => {
    expect(held({ kind: "drift", days: 3 })).toEqual({ met: true, says: "The finish is 3 d late." });
    expect(held({ kind: "drift", days: 2.9 }).met).toBe(false);
    expect(held({ kind: "drift", days: 0 }, { driftDays: -4 })).toEqual({
      met: true,
      says: "The finish is 4 d early.",
    });
    expect(held({ kind: "drift", days: 0 }, { driftDays: 0 }).says).toBe("The finish is as approved.");
  });

  it("names what stands against it, the first few", () => {
    expect(held({ kind: "deliverables" })).toEqual({ met: false, says: "1 of 2 not accepted: “Permit”." });
    expect(held({ kind: "deadlines" }, { broken: ["Slack tide"] })).toEqual({
      met: false,
      says: "1 of 2: “Slack tide”.",
    });
    expect(held({ kind: "unblocked" }, { blocked: ["a", "b", "c", "d", "e"] })).toEqual({
      met: false,
      says: "5: “a”, “b”, “c” and 2 more.",
    });
    expect(held({ kind: "issued" }, { issuedPeriod: 8 }).met).toBe(false);
  });

  it("is met by whoever confirms it, each for itself", () => {
    const condition = { kind: "confirmed", text: "The permit is here" };
    expect(held(condition).met).toBe(false);
    expect(held(condition, { confirmed: { other: "Ines, 3 Nov 2026" } }).met).toBe(false);
    expect(held(condition, { confirmed: { c: "Ines, 3 Nov 2026" } })).toEqual({ met: true, says: "Ines, 3 Nov 2026" });
  });

  it("is said in words, each in its own", () => {
    const all: Condition[] = [
      { id: "1", kind: "baseline" },
      { id: "2", kind: "plan", fitness: "fit" },
      { id: "3", kind: "plan", fitness: "mend" },
      { id: "4", kind: "deadlines" },
      { id: "5", kind: "cost", percent: 2.5 },
      { id: "6", kind: "cost", percent: 0 },
      { id: "7", kind: "drift", days: 10 },
      { id: "8", kind: "drift", days: 0 },
      { id: "9", kind: "deliverables" },
      { id: "10", kind: "unblocked" },
      { id: "11", kind: "issued" },
      { id: "13", kind: "issues", severity: "m" },
      { id: "12", kind: "confirmed", text: "The permit is here" },
    ];
    const words = all.map((each) => conditionWords(each));
    expect(new Set(words).size).toBe(all.length);
    expect(words[4]).toBe("The estimate at completion is at most 2.5% over the budget");
  });
});

describe("the stage of a project", () => {
  const stages = [{ id: "a" }, { id: "b" }, { id: "c" }];
  it("is the first whose gate is not passed, in whichever order the stages stand", () => {
    expect(stageAt(stages, [])?.id).toBe("a");
    expect(stageAt(stages, ["a"])?.id).toBe("b");
    expect(stageAt(stages.toReversed(), ["a", "c"])?.id).toBe("b");
    expect(stageAt(stages, ["c", "b", "a"])).toBeNull();
    expect(stageAt([], [])).toBeNull();
  });
});
