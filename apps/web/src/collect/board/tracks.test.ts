import { fromBundle, type Credit, type PlanBundle } from "@chronometra/core";
import { slipway } from "../../plan/testing/plans.ts";
import {
  askedTracks,
  stageBeside,
  stepsPercent,
  tracksOf,
  withStage,
  withStep,
  workersByActivity,
  type BoardAsked,
} from "./tracks.ts";

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
      null,
    ]);
    expect(tracks.map(({ kind }) => kind)).toEqual(["stages", "steps", "other"]);
    expect(tracksOf(plan()).map(({ kind }) => kind)).toEqual(["other"]);
  });

  it("stands together by the timebox, what stands in none first", () => {
    const staged2 = plan(staged, staged);
    const [first] = tracksOf(staged2)[0]!.rows;
    const boxed = {
      ...staged2,
      timeboxes: new Map([["b", { id: "b", name: "Fortnight 1", first: "2026-03-02", last: "2026-03-13" }]]),
      boxed: new Map([[first!.activity.id, { box: "b", rank: 1 }]]),
    };
    const asked = { person: "", team: null, words: "", done: true, by: "box" } as const;
    const [found] = askedTracks(tracksOf(boxed), workersByActivity(boxed), asked);
    expect(found!.parts.map(({ name }) => name)).toEqual(["", "Fortnight 1"]);
  });

  it("shows all other work by its state, and the work of a team", () => {
    const of = plan(staged);
    const [first] = tracksOf(of).find(({ kind }) => kind === "other")!.rows;
    const begun = new Map(of.activities);
    begun.set(first!.activity.id, { ...first!.activity, actualStart: "2026-03-02" });
    const now = { ...of, activities: begun };
    const asked = { person: "", team: null, words: "", done: true, by: "state" } as const;
    const parts = askedTracks(tracksOf(now), workersByActivity(now), asked).at(-1)!.parts;
    expect(parts.map(({ name }) => name)).toEqual(["notStarted", "inProgress"]);
    expect(parts[1]!.rows.map(({ activity }) => activity.id)).toEqual([first!.activity.id]);
    const workers = new Map([[first!.activity.id, [{ id: "ann", name: "Ann" }]]]);
    const ofTeam = (...team: string[]) =>
      askedTracks(tracksOf(of), workers, { ...asked, team: new Set(team) }).flatMap(({ parts: all }) =>
        all.flatMap(({ rows }) => rows.map(({ activity }) => activity.id)),
      );
    expect([ofTeam("ann", "bo"), ofTeam("bo"), ofTeam()]).toEqual([[first!.activity.id], [], []]);
  });

  it("moves along the stages, and ticks steps off and open again", () => {
    expect(withStage(staged, "Made").stage).toBe("Made");
    expect(stepsPercent(stepped)).toBe(75);
    const all = withStep(stepped, 0, "2026-03-04");
    expect([stepsPercent(all), withStep(all, 0, null)]).toEqual([100, stepped]);
    expect(stepsPercent({ rule: "steps" })).toBe(0);
  });

  it("shows whose work, which words and what is open are asked for, together by person or branch", () => {
    const of = plan(staged, stepped, staged);
    const [tracks, workers] = [tracksOf(of), workersByActivity(of)];
    const all: BoardAsked = { person: "", team: null, words: "", done: true, by: "stage" };
    const ids = (asked: Partial<BoardAsked>): string[][] =>
      askedTracks(tracks, workers, { ...all, ...asked }).flatMap(({ parts }) =>
        parts.map(({ name, rows }) => [...(name === null ? [] : [name]), ...rows.map(({ activity }) => activity.id)]),
      );
    const whole = ids({}).flat().sort();
    expect(whole).toHaveLength(3);
    for (const id of whole) {
      const { name } = of.activities.get(id)!;
      expect(ids({ words: name.toUpperCase() }).flat()).toContain(id);
      for (const { id: person, name: who } of workers.get(id) ?? []) {
        expect(ids({ person }).flat()).toContain(id);
        expect(ids({ person, by: "person" }).every(([first]) => first === who)).toBe(true);
      }
    }
    // By person each activity stands with each of its people, by branch once.
    const times = (parts: string[][], id: string): number => parts.flat().filter((each) => each === id).length;
    for (const id of whole) {
      expect(times(ids({ by: "person" }), id)).toBe(Math.max(1, workers.get(id)?.length ?? 0));
      expect(times(ids({ by: "branch" }), id)).toBe(1);
    }
    expect(ids({ words: "no such thing" })).toEqual([]);
    expect(ids({ person: "nobody" })).toEqual([]);
    expect(
      ids({ done: false })
        .flat()
        .every((id) => of.activities.get(id)!.actualFinish === undefined),
    ).toBe(true);
  });

  it("goes to the stage beside, and no further than the ends", () => {
    expect(stageBeside(staged, 1)).toBe("Made");
    expect(stageBeside(staged, -1)).toBeNull();
    expect(stageBeside({ ...staged, stage: "Tested" }, 1)).toBeNull();
    const { stage: _none, ...unset } = staged;
    expect([stageBeside(unset, 1), stageBeside(unset, -1)]).toEqual(["Ordered", null]);
  });
});
