import fc from "fast-check";
import type { Activity, Link, PlanBundle } from "../plan/schema.ts";
import { networks, planOf } from "../testing/plans.ts";
import { decidingChain, explainActivity, type Reason } from "./explain.ts";
import { schedulePlan } from "./schedule.ts";

const work = (id: string, days: number, rest: Partial<Activity> = {}): Activity => ({
  id,
  name: id.toUpperCase(),
  durationMinutes: days * 480,
  ...rest,
});
const deciding = (plan: PlanBundle, id: string): Reason[] =>
  explainActivity(plan, id)!.reasons.filter(({ decides }) => decides);
const LINKS: Link[] = [
  { from: "a", to: "b" },
  { from: "b", to: "c", lagMinutes: 960 },
  { from: "x", to: "c", type: "SS" },
  { from: "c", to: "m" },
];
const PLAN = planOf(
  [work("a", 2), work("b", 3), work("x", 1), work("c", 1), { id: "m", name: "M", kind: "milestone" }],
  LINKS,
);

describe("why an activity lies where it does", () => {
  it("the project's start holds what nothing else does", () => {
    expect(deciding(PLAN, "a")).toEqual([{ kind: "projectStart", date: "2026-03-02", decides: true }]);
  });

  it("the link that decides is told with its lag and the lag's calendar, one that does not is told too", () => {
    expect(explainActivity(PLAN, "c")!.reasons.filter(({ kind }) => kind === "link")).toEqual([
      {
        kind: "link",
        decides: true,
        id: "b",
        name: "B",
        type: "FS",
        lagMinutes: 960,
        elapsed: false,
        calendar: "Standard",
        dayMinutes: 480,
        on: "2026-03-06",
      },
      {
        kind: "link",
        decides: false,
        id: "x",
        name: "X",
        type: "SS",
        lagMinutes: 0,
        elapsed: false,
        calendar: "Standard",
        dayMinutes: 480,
        on: "2026-03-02",
      },
    ]);
  });

  it("the chain goes back as far as links decide, and what is held is named all the way", () => {
    expect(explainActivity(PLAN, "c")!.chain.map(({ id }) => id)).toEqual(["a", "b"]);
    expect(["a", "x", "m"].map((id) => explainActivity(PLAN, id)!.heldAllTheWay.map(({ name }) => name))).toEqual([
      ["B", "C", "M"],
      [],
      [],
    ]);
    expect(explainActivity(PLAN, "b")!.holds).toEqual([
      expect.objectContaining({ id: "c", decides: true, lagMinutes: 960 }),
    ]);
    expect(explainActivity(PLAN, "x")!.holds).toEqual([expect.objectContaining({ id: "c", decides: false })]);
  });

  it("a date wish decides with its reason, a data date holds what has not begun, actual dates decide by themselves", () => {
    const wished = planOf([work("a", 2, { wish: { type: "finishNotBefore", date: "2026-03-12", reason: "crane" } })]);
    expect(deciding(wished, "a")).toEqual([
      { kind: "wish", type: "finishNotBefore", date: "2026-03-12", reason: "crane", decides: true },
    ]);
    const at = (rest: Partial<Activity>): PlanBundle =>
      planOf([work("a", 2, rest)], [], {
        project: {
          code: "P",
          name: "P",
          currency: "EUR",
          start: "2026-03-02",
          calendar: "std",
          dataDate: "2026-03-13",
        },
      });
    expect(deciding(at({}), "a")).toEqual([{ kind: "dataDate", date: "2026-03-13", decides: true }]);
    expect(deciding(at({ actualStart: "2026-03-04", percent: 100 }), "a")).toEqual([
      { kind: "actual", date: "2026-03-04", decides: true },
      { kind: "nothingLeft", date: "2026-03-13", decides: true },
    ]);
    expect(deciding(at({ actualStart: "2026-03-04", percent: 50 }), "a")).toEqual([
      { kind: "actual", date: "2026-03-04", decides: true },
      { kind: "dataDate", date: "2026-03-13", decides: true },
    ]);
    expect(
      deciding(at({ actualStart: "2026-03-04", actualFinish: "2026-03-06" }), "a").map(({ kind }) => kind),
    ).toEqual(["actual", "actual"]);
  });

  it("summaries, parked and unscheduled work are placed by nothing of their own", () => {
    const plan = planOf([
      { id: "s", name: "S", kind: "summary" },
      work("a", 1, { parent: "s" }),
      work("p", 1, { parked: true }),
      { id: "u", name: "U" },
    ]);
    expect(["s", "p", "u", "ghost"].map((id) => explainActivity(plan, id))).toEqual([null, null, null, null]);
  });

  it("the deciding chain to a milestone is the longest path when it finishes last, and takes in every branch that decides", () => {
    expect(decidingChain(PLAN, "m")).toEqual(["a", "b", "c", "m"]);
    const tied = planOf(
      [work("a", 2), work("b", 2), work("c", 1)],
      [
        { from: "a", to: "c" },
        { from: "b", to: "c" },
      ],
    );
    expect(decidingChain(tied, "c")).toEqual(["a", "b", "c"]);
    fc.assert(
      fc.property(networks({ calendars: ["std", "seven"] }), (plan) => {
        const schedule = schedulePlan(plan);
        const last = plan.activities.filter((_row, i) => schedule.rows[i]!.finish === schedule.finish);
        const chains = new Set(last.flatMap(({ id }) => decidingChain(plan, id)));
        expect(chains).toEqual(
          new Set(plan.activities.filter((_row, i) => schedule.rows[i]!.longestPath).map(({ id }) => id)),
        );
      }),
      { numRuns: 200 },
    );
  });

  it("laws: something always decides, and without a deciding link nothing moves", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std", "seven", "nights"] }), fc.nat(), (plan, which) => {
        const { id } = plan.activities[which % plan.activities.length]!;
        const { reasons } = explainActivity(plan, id)!;
        expect(reasons.some(({ decides }) => decides)).toBe(true);
        // Taking away a link that does not decide leaves the activity where it is.
        const idle = reasons.find((reason) => reason.kind === "link" && !reason.decides);
        if (idle === undefined || idle.kind !== "link") return;
        const fewer = {
          ...plan,
          links: (plan.links ?? []).filter(
            (link) =>
              !(
                link.to === id &&
                link.from === idle.id &&
                (link.type ?? "FS") === idle.type &&
                (link.lagMinutes ?? 0) === idle.lagMinutes
              ),
          ),
        };
        const at = (of: PlanBundle): number =>
          schedulePlan(of).rows[of.activities.findIndex((each) => each.id === id)]!.start;
        expect(at(fewer)).toBe(at(plan));
      }),
      { numRuns: 300 },
    );
  });
});
