import { computePlan } from "../analyse.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import { arrange } from "../plan/acts/arrange.ts";
import { checkWholePlan } from "../plan/check/checkOwnTables.ts";
import { fromBundle, toBundle, type Plan } from "../plan/plan.ts";
import { planOf } from "../testing/plans.ts";
import { boxedWork } from "./boxFigures.ts";
import { gather, gatheredBy, gatheredSums, gatheredTrend } from "./gathered.ts";

const bare = fromBundle(
  planOf(
    [
      { id: "S", name: "S", kind: "summary" },
      { id: "A", name: "A", parent: "S", durationMinutes: 480, actualStart: "2026-03-02", actualFinish: "2026-03-04" },
      { id: "B", name: "B", parent: "S", durationMinutes: 480, actualStart: "2026-03-09", percent: 50 },
      { id: "C", name: "C", durationMinutes: 480 },
      { id: "P", name: "P", durationMinutes: 480, parked: true },
      { id: "M", name: "M", kind: "milestone" },
      { id: "N", name: "N", kind: "milestone" },
      { id: "L", name: "L", kind: "levelOfEffort" },
    ],
    [{ from: "A", to: "M" }],
    {
      project: { ...planOf([]).project, dataDate: "2026-03-10" },
      people: [{ id: "ann", name: "Ann" }],
      assignments: [
        { activity: "A", person: "ann", plannedMinutes: 480 },
        { activity: "B", person: "ann", plannedMinutes: 600 },
        { activity: "P", person: "ann", plannedMinutes: 999 },
      ],
      timeEntries: [
        { activity: "A", person: "ann", date: "2026-03-03", minutes: 300, state: "posted" },
        { activity: "B", person: "ann", date: "2026-03-09", minutes: 60, state: "posted" },
        { activity: "C", person: "ann", date: "2026-03-09", minutes: 45, state: "draft" },
      ],
    },
  ),
);
let next = 0;
const done = (plan: Plan, ids: string[], withLinks = false): Plan =>
  applyChanges(
    plan,
    gather(plan, "M", ids, withLinks, () => `new${++next}`),
  ).plan;
const gathered = done(bare, ["A", "B", "C", "P"]);
const worksOf = (plan: Plan) => {
  const bundle = toBundle(plan);
  const works = boxedWork(plan, bundle, computePlan(bundle).schedule);
  return gatheredBy(plan, "M").map((id) => works.get(id)!);
};

describe("a milestone that gathers", () => {
  it("counts its parts by state and adds up their hours, parked work apart", () => {
    expect(gatheredSums(worksOf(gathered))).toEqual({
      ...{ count: 3, notStarted: 1, inProgress: 1, complete: 1, parked: 1 },
      ...{ plannedMinutes: 1080, bookedMinutes: 360, leftMinutes: 300 },
    });
  });

  it("may have parts that span others or are milestones themselves", () => {
    expect(gatheredSums(worksOf(done(bare, ["L", "N"])))).toMatchObject({ count: 2, notStarted: 2, leftMinutes: 0 });
  });

  it("moves no date unless links are asked for, which are made where there is none", () => {
    const finishOf = (plan: Plan) => computePlan(toBundle(plan)).schedule.rows;
    expect(finishOf(gathered)).toEqual(finishOf(bare));
    const linked = done(bare, ["A", "C"], true);
    expect([...linked.links.values()].map(({ from, to }) => `${from}-${to}`)).toEqual(["A-M", "C-M"]);
  });

  it("tells week by week how far it had come", () => {
    expect(gatheredTrend(toBundle(gathered), worksOf(gathered), "2026-03-17")).toEqual([
      { until: "2026-03-08", complete: 1, bookedMinutes: 300 },
      { until: "2026-03-15", complete: 1, bookedMinutes: 360 },
      { until: "2026-03-22", complete: 1, bookedMinutes: 360 },
    ]);
    expect(gatheredTrend(toBundle(gathered), worksOf(gathered), "2026-02-27")).toEqual([]);
  });

  it("gathers each from one milestone alone, no branch, not itself; both ends can go", () => {
    const moved = applyChanges(
      gathered,
      gather(gathered, "N", ["A"], false, () => "x"),
    ).plan;
    expect([gatheredBy(moved, "M"), gatheredBy(moved, "N")]).toEqual([["B", "C", "P"], ["A"]]);
    const faults = (key: string, milestone: string): string[] =>
      checkWholePlan({ ...bare, gathered: new Map([[key, { milestone }]]) }).map(({ message }) => message);
    expect(faults("S", "M")).toEqual([`"S" is a branch; gather the work in it`]);
    expect(faults("M", "M")).toEqual([`"M" can be gathered by another milestone alone`]);
    expect(faults("A", "C")).toEqual([`"A" can be gathered by another milestone alone`]);
    const { plan: without, inverse } = applyChanges(gathered, arrange(gathered, { verb: "remove", ids: ["A", "M"] }));
    expect(without.gathered.size).toBe(0);
    expect(applyChanges(without, inverse!).plan.gathered).toEqual(gathered.gathered);
  });
});
