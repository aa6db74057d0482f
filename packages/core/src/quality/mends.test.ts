import { computePlan } from "../analyse.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import { fromBundle, toBundle } from "../plan/plan.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { planOf } from "../testing/plans.ts";
import { looseEnds } from "./checks/missingLogic.ts";
import { groundOf } from "./ground/ground.ts";
import { mendMany, type Mend } from "./mends.ts";

const mended = (plan: PlanBundle, mend: Mend, ...ids: string[]) =>
  mendMany(fromBundle(plan), groundOf(plan, computePlan(plan).schedule, null), mend, new Set(ids));

describe("loose ends linked to both ends", () => {
  const plan = planOf(
    [
      { id: "alone", name: "Alone", durationMinutes: 480 },
      { id: "begin", name: "Begin", kind: "milestone" },
      { id: "dig", name: "Dig", durationMinutes: 2400 },
      { id: "handover", name: "Handed over", kind: "milestone" },
    ],
    [
      { from: "begin", to: "dig" },
      { from: "dig", to: "handover" },
    ],
  );

  it("follow the start milestone and lead to the last one; the milestone follows no loose work that begins with it", () => {
    const { changes, left } = mended(plan, "linkLooseEnds", "alone", "begin");
    expect(changes.map((change) => "row" in change && change.row)).toEqual([
      { from: "alone", to: "handover", type: "FS" },
      { from: "begin", to: "alone", type: "FS" },
    ]);
    expect(left).toEqual([]);
    const after = toBundle(applyChanges(fromBundle(plan), changes).plan);
    expect(computePlan(after).schedule.finish).toBe(computePlan(plan).schedule.finish);
    expect(looseEnds(groundOf(after, computePlan(after).schedule, null))).toEqual([]);
  });
});

describe("wishes softened", () => {
  const wished = (extra: object): PlanBundle =>
    planOf([
      { id: "dig", name: "Dig", durationMinutes: 480, wish: { type: "finishNotAfter", date: "2026-03-13" }, ...extra },
    ]);

  it("become a deadline where there is none; one that is earlier stays, and no promise is moved", () => {
    expect(mended(wished({}), "softenWishes", "dig").changes).toEqual([
      { type: "setWish", activity: "dig", wish: null },
      { type: "setDeadline", activity: "dig", date: "2026-03-13" },
    ]);
    expect(mended(wished({ deadline: "2026-03-10" }), "softenWishes", "dig").changes).toEqual([
      { type: "setWish", activity: "dig", wish: null },
    ]);
    expect(mended(wished({ deadline: "2026-03-20" }), "softenWishes", "dig")).toEqual({
      changes: [],
      left: [
        { id: "dig", name: "Dig", why: "it is promised for a later day already; say by hand which of the two holds" },
      ],
    });
  });

  it("lose no reason: a deadline has none, a softer wish keeps it", () => {
    const reasoned = { wish: { type: "finishNotAfter", date: "2026-03-13", reason: "contract" } };
    expect(mended(wished(reasoned), "softenWishes", "dig")).toMatchObject({
      changes: [],
      left: [{ why: "its reason “contract” would be lost; make it a deadline by hand" }],
    });
    expect(
      mended(wished({ wish: { type: "startOn", date: "2026-03-13", reason: "crane" } }), "softenWishes", "dig").changes,
    ).toEqual([
      { type: "setWish", activity: "dig", wish: { type: "startNotBefore", date: "2026-03-13", reason: "crane" } },
    ]);
  });
});
