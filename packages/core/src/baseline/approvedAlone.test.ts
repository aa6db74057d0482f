import fc from "fast-check";
import { applyChanges } from "../plan/applyChanges.ts";
import type { Change } from "../plan/change.ts";
import { fromBundle, toBundle, type Plan } from "../plan/plan.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { networks, planOf } from "../testing/plans.ts";
import { approvedAlone } from "./approvedAlone.ts";
import { freezePlan, withoutProgress } from "./freeze.ts";

const approved = planOf(
  [
    { id: "dig", name: "Dig", durationMinutes: 2400 },
    { id: "pour", name: "Pour", durationMinutes: 2400 },
    { id: "fence", name: "Fence", durationMinutes: 960 },
  ],
  [{ from: "dig", to: "pour" }],
  {
    people: [{ id: "ann", name: "Ann", rates: [{ from: "2026-01-01", perHourMinor: 6000 }] }],
    assignments: [
      { activity: "fence", person: "ann", plannedMinutes: 960 },
      { activity: "dig", person: "ann", plannedMinutes: 2400 },
    ],
  },
);

const after = (plan: Plan, ...changes: Change[]): Plan => applyChanges(plan, changes).plan;
/** The live plan: Fence is gone, and Ann on Dig has another place in the table; Dig takes twice as long. */
const live = after(
  fromBundle(approved),
  { type: "removeRow", table: "assignments", key: "1" },
  { type: "removeRow", table: "activities", key: "fence" },
  { type: "setDuration", activity: "dig", minutes: 4800 },
  { type: "setDataDate", date: "2026-03-06" },
  { type: "reportProgress", activity: "dig", actualStart: "2026-03-03", percent: 10 },
);

const alone = (plan: Plan, ...changes: Change[]): PlanBundle => {
  const result = approvedAlone(approved, plan, changes);
  if ("fault" in result) throw new Error(result.fault);
  return result.plan;
};
const rowsOf = (plan: PlanBundle) => new Map(freezePlan(plan).activities.map((row) => [row.id, row]));

describe("a change request approved alone", () => {
  it("leaves what moved or went since as it was approved, and what it touches is reckoned in the approved plan", () => {
    const rows = rowsOf(alone(live, { type: "setDuration", activity: "pour", minutes: 480 }));
    expect([...rows.keys()]).toEqual(["dig", "pour", "fence"]);
    expect(rows.get("dig")).toEqual(rowsOf(approved).get("dig"));
    expect(rows.get("fence")).toEqual(rowsOf(approved).get("fence"));
    // Dig ends on Friday 6 March as approved, not a week later.
    expect(rows.get("pour")).toMatchObject({ start: "2026-03-09T08:00", finish: "2026-03-09T17:00" });
  });

  it("finds people of an activity under the key that the live plan has for them", () => {
    const rows = rowsOf(alone(live, { type: "editRow", table: "assignments", key: "2", set: { plannedMinutes: 60 } }));
    expect([rows.get("dig")!.evenMinor, rows.get("fence")!.evenMinor]).toEqual([6_000, 96_000]);
  });

  it("takes no progress from the request, and nothing that it removes twice", () => {
    const bundle = alone(
      live,
      { type: "reportProgress", activity: "pour", percent: 50 },
      { type: "removeRow", table: "costs", key: "later" },
    );
    expect(bundle).toEqual(withoutProgress(alone(live)));
  });

  it("takes people and calendars that came since as the live plan has them", () => {
    const staffed = after(live, {
      type: "addRow",
      table: "people",
      key: "bo",
      row: { id: "bo", name: "Bo", rates: [{ from: "2026-01-01", perHourMinor: 3000 }] },
    });
    const bundle = alone(staffed, {
      type: "addRow",
      table: "assignments",
      key: "new",
      row: { activity: "pour", person: "bo", plannedMinutes: 120 },
    });
    expect(rowsOf(bundle).get("pour")!.evenMinor).toBe(6_000);
  });

  it("is impossible where it changes what came later, and names that", () => {
    const grown = after(live, {
      type: "addRow",
      table: "activities",
      key: "drain",
      row: { id: "drain", name: "Drain", durationMinutes: 480 },
    });
    const fault = { fault: "“Drain” came into the plan after that baseline was frozen, and the request changes it." };
    expect(approvedAlone(approved, grown, [{ type: "setDuration", activity: "drain", minutes: 960 }])).toEqual(fault);
    const linked = approvedAlone(approved, grown, [
      { type: "addRow", table: "links", key: "l", row: { from: "drain", to: "pour" } },
    ]);
    expect(linked).toEqual({ fault: expect.stringMatching(/does not hold: “.*Drain.*Pour”/) });
    const loop = approvedAlone(approved, live, [
      { type: "addRow", table: "links", key: "l", row: { from: "pour", to: "dig" } },
    ]);
    expect(loop).toEqual({ fault: expect.stringMatching(/does not hold/) });
  });

  it("is the plan with the request where nothing else has happened, whatever plan and request that is", () => {
    const durations = fc.array(fc.tuple(fc.nat(), fc.integer({ min: 1, max: 9600 })), { maxLength: 4 });
    fc.assert(
      fc.property(networks({ calendars: ["std", "seven"] }), durations, (random, wanted) => {
        const work = random.activities.filter(({ kind = "work" }) => kind === "work");
        const changes = wanted.flatMap(([at, minutes]): Change[] =>
          work.length === 0 ? [] : [{ type: "setDuration", activity: work[at % work.length]!.id, minutes }],
        );
        const whole = toBundle(after(fromBundle(random), ...changes));
        const result = approvedAlone(random, fromBundle(random), changes);
        expect("plan" in result && freezePlan(result.plan)).toEqual(freezePlan(whole));
      }),
      { numRuns: 60 },
    );
  });
});
