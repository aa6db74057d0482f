import fc from "fast-check";
import { computePlan, type Computed } from "./analyse.ts";
import { applyChanges } from "./plan/applyChanges.ts";
import { checkWholePlan } from "./plan/check/checkOwnTables.ts";
import { fromBundle, toBundle, type Plan } from "./plan/plan.ts";
import { PlanProblems } from "./plan/problem.ts";
import { findAll } from "./quality/findAll.ts";
import { groundOf } from "./quality/ground/ground.ts";
import { measureChecks } from "./quality/measureChecks.ts";
import { planOf } from "./testing/plans.ts";
import { livedPlans } from "./testing/livedPlans.ts";
import { stepOf, walks } from "./testing/walks.ts";

/** What can be told of a plan; where it cannot be computed, why. */
function told<T>(compute: () => T): T | string {
  try {
    return compute();
  } catch (error) {
    if (!(error instanceof PlanProblems)) throw error;
    return `${error.problems.map(({ table, field }) => `${table} ${field}`).join()}`;
  }
}

/** What of a computed plan may not depend on how it was come by: node numbers may. */
const outcome = ({ plan, schedule, performance }: Computed) => ({
  rows: schedule.rows,
  finish: schedule.finish,
  unscheduled: schedule.unscheduled,
  tree: schedule.tree,
  restarts: plan.activities.map((_, at) => schedule.early.restartAt[schedule.network.nodeOf[at]!] ?? null),
  performance,
  findings: findAll(groundOf(plan, schedule, plan.baselines?.[0] ?? null), { periods: [], silentDays: 14 }).map(
    ({ finding: { key }, offences }) => [key, offences.map((each) => `${each.at} ${each.words()}`)],
  ),
  checks: measureChecks(groundOf(plan, schedule, plan.baselines?.[0] ?? null)).map(
    ({ check: { number }, count, outOf, value, passes, offences }) => ({
      number,
      count,
      outOf,
      value,
      passes,
      offences: offences.map((each) => `${each.at} ${each.words()}`),
    }),
  ),
});

/** The plan after the next change of a walk, where it holds; else the plan itself. */
function walked(plan: Plan, step: ReturnType<typeof stepOf>): Plan {
  if (step === undefined) return plan;
  const after = told(() => applyChanges(plan, [step]).plan);
  if (typeof after === "string") return plan;
  expect(checkWholePlan(after, plan)).toEqual(checkWholePlan(after));
  return checkWholePlan(after).length === 0 ? after : plan;
}

describe("a plan computed of one that it came of", () => {
  it("frees what comes before work that begins just when it was to begin, where begun work waits for nothing", () => {
    // Nothing of the work that begins moves: all that changes is what it asks of others.
    const plan = planOf(
      [
        { id: "dig", name: "Dig", durationMinutes: 480 },
        {
          id: "pour",
          name: "Pour",
          durationMinutes: 480,
          wish: { type: "startNotBefore", date: "2026-03-12" },
          deadline: "2026-03-12",
        },
        { id: "long", name: "Long", durationMinutes: 9600 },
      ],
      [{ from: "dig", to: "pour" }],
      { project: { dataDate: "2026-03-04", logic: "override" } as never },
    );
    const begun = fromBundle(plan);
    const before = computePlan(toBundle(begun));
    const after = toBundle(
      applyChanges(begun, [{ type: "reportProgress", activity: "pour", actualStart: "2026-03-12T08:00", percent: 0 }])
        .plan,
    );
    const [was, now] = [before.schedule.rows, computePlan(after, {}, before).schedule.rows];
    expect(now[1]!.start).toBe(was[1]!.start);
    expect(now).toEqual(computePlan(after).schedule.rows);
    expect(now[0]!.totalFloat).toBeGreaterThan(was[0]!.totalFloat!);
  });

  it("comes to what it comes to from nothing, whatever was changed, change after change", () => {
    const seen = new Map<string, number>();
    fc.assert(
      fc.property(livedPlans, fc.constantFrom("retained", "override"), walks, (lived, logic, dice) => {
        const bundle = { ...lived, project: { ...lived.project, logic } };
        let plan = fromBundle(bundle);
        let computed = computePlan(toBundle(plan));
        for (const each of dice) {
          const step = stepOf(plan, each);
          const next = walked(plan, step);
          if (next === plan) continue;
          const renewed = told(() => computePlan(toBundle(next), {}, computed));
          const anew = told(() => computePlan(toBundle(next)));
          if (typeof renewed === "string" || typeof anew === "string") {
            expect(renewed).toEqual(anew);
            continue;
          }
          expect(outcome(renewed)).toEqual(outcome(anew));
          seen.set(step!.type, (seen.get(step!.type) ?? 0) + 1);
          [plan, computed] = [next, renewed];
        }
      }),
      { numRuns: 400 },
    );
    expect(
      [...seen]
        .filter(([, times]) => times > 3)
        .map(([type]) => type)
        .sort(),
    ).toEqual([
      "addRow",
      "editRow",
      "moveBranch",
      "postCost",
      "postTime",
      "removeRow",
      "reportProgress",
      "setCredit",
      "setDataDate",
      "setDeadline",
      "setDuration",
      "setKind",
      "setName",
      "setParked",
      "setProject",
      "setRemainingWork",
      "setWish",
      "setWorking",
    ]);
  });
});
