import { fromBundle, type Activity, type Link, type Plan } from "@chronometra/core";
import { smallPlan } from "../../testing/testWorld.ts";
import { freed } from "./tellNext.ts";

const DONE = { actualStart: "2026-03-02", actualFinish: "2026-03-03", percent: 100 } as const;
const work = (id: string, more: Partial<Activity> = {}): Activity => ({
  id,
  name: id.toUpperCase(),
  durationMinutes: 480,
  ...more,
});

function plan(activities: Activity[], links: Link[], on: readonly [activity: string, person: string][] = []): Plan {
  const { assignments: _was, costs: _costs, ...bundle } = smallPlan();
  return fromBundle({
    ...bundle,
    project: { ...bundle.project, dataDate: "2026-03-06" },
    activities,
    links,
    people: [
      { id: "ann", name: "Ann" },
      { id: "bo", name: "Bo" },
    ],
    assignments: on.map(([activity, person]) => ({ activity, person, plannedMinutes: 60 })),
  });
}

/** What is freed where activities are done that were not. */
const freedBy = (activities: Activity[], links: Link[], done: readonly string[], on?: readonly [string, string][]) =>
  freed(
    plan(activities, links, on),
    plan(
      activities.map((each) => (done.includes(each.id) ? { ...each, ...DONE } : each)),
      links,
      on,
    ),
  ).map(({ id, people, because }) => [id, people, because]);

const FS = (from: string, to: string): Link => ({ from, to });

describe("what became free to begin", () => {
  it("is what waits for nothing else any more, with its own people, each once, and because of what", () => {
    const links = [FS("a", "c"), FS("b", "c"), FS("a", "d")];
    const all = [work("a"), work("b"), work("c"), work("d")];
    const on: [string, string][] = [
      ["c", "ann"],
      ["c", "bo"],
      ["d", "bo"],
    ];
    expect(freedBy(all, links, ["a"], on)).toEqual([["d", ["bo"], ["A"]]]);
    expect(freedBy(all, links, ["a", "b"], on)).toEqual([
      ["c", ["ann", "bo"], ["A", "B"]],
      ["d", ["bo"], ["A"]],
    ]);
    // What was done before is not why; nothing that is finished frees nothing.
    const before = [{ ...work("a"), ...DONE }, work("b"), work("c"), work("d")];
    expect(freedBy(before, links, ["b"], on)).toEqual([["c", ["ann", "bo"], ["B"]]]);
    expect(freedBy(all, links, [], on)).toEqual([]);
  });

  it("is nothing that has begun, is a milestone, is parked, or is linked in another way than from finish to start", () => {
    const free = (c: Partial<Activity>, link: Partial<Link> = {}) =>
      freedBy([work("a"), work("c", c)], [{ ...FS("a", "c"), ...link }], ["a"]);
    expect(free({})).toHaveLength(1);
    expect(free({ actualStart: "2026-03-02" })).toEqual([]);
    expect(free({ kind: "milestone", durationMinutes: undefined } as Partial<Activity>)).toEqual([]);
    expect(free({ parked: true })).toEqual([]);
    expect(free({}, { type: "SS" })).toEqual([]);
  });

  it("does not wait for what is parked", () => {
    const all = [work("a"), work("p", { parked: true }), work("c")];
    expect(freedBy(all, [FS("a", "c"), FS("p", "c")], ["a"])).toEqual([["c", [], ["A"]]]);
  });

  it("is not told again of an activity that came in done", () => {
    const links = [FS("a", "c")];
    const after = plan([{ ...work("a"), ...DONE }, work("c")], links);
    expect(freed(plan([work("c")], []), after)).toEqual([]);
  });
});
