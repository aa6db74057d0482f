import { fromBundle, PlanProblems } from "@chronometra/core";
import { Failure } from "../../shared/failure.ts";
import { smallPlan } from "../../testing/testWorld.ts";
import type { HeldPlan } from "./heldPlan.ts";
import { answering, type PlanAnswer, type PlanJob } from "./planThread.ts";

const plan = fromBundle(smallPlan());
const answer = answering({
  finish: ({ whole }: HeldPlan) => whole.computed.schedule.finish,
  same: (held: HeldPlan, before: HeldPlan) => held === before,
  fails: (_held: HeldPlan, how: string) => {
    if (how === "problems") throw new PlanProblems([{ table: "links", row: "a -> b", field: "", message: "no" }]);
    if (how === "failure") throw new Failure("conflict", "someone was faster", { retryAfterSeconds: 3 });
    throw new TypeError("a fault of ours");
  },
});
let lastTag = 1000;
const ask = (job: Partial<PlanJob>): PlanAnswer => answer({ tag: ++lastTag, work: "finish", asked: undefined, ...job });

describe("a thread for plans", () => {
  it("asks for a plan that it does not hold, and holds what it was sent", () => {
    const tag = ++lastTag;
    expect(ask({ tag })).toEqual({ is: "missing" });
    const first = ask({ tag, plan });
    expect(first).toEqual({ is: "result", result: expect.any(Number) });
    expect(ask({ tag })).toEqual(first);
    expect(ask({ tag: ++lastTag })).toEqual({ is: "missing" });
  });

  it("lets go of the oldest where it holds too many, and never of the one that is asked about", () => {
    const many = fromBundle({
      ...smallPlan(),
      activities: Array.from({ length: 12_000 }, (_, i) => ({ id: `a${i}`, name: `A ${i}`, durationMinutes: 480 })),
      links: [],
      assignments: [],
      costs: [],
    });
    const [small, large, larger] = [++lastTag, ++lastTag, ++lastTag];
    ask({ tag: small, plan });
    ask({ tag: large, plan: many });
    expect(ask({ tag: small }).is).toBe("result");
    ask({ tag: larger, plan: many });
    expect([small, large, larger].map((tag) => ask({ tag }).is)).toEqual(["result", "missing", "result"]);
  });

  it("hands on what was thrown as it was thrown, and faults of its own as such", () => {
    expect(ask({ plan, work: "fails", asked: "problems" })).toEqual({
      is: "problems",
      problems: [{ table: "links", row: "a -> b", field: "", message: "no" }],
    });
    expect(ask({ plan, work: "fails", asked: "failure" })).toEqual({
      is: "failure",
      failure: { code: "conflict", message: "someone was faster", details: { retryAfterSeconds: 3 } },
    });
    expect(() => ask({ plan, work: "fails", asked: "else" })).toThrow("a fault of ours");
  });
});
