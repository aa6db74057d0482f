import { addBusinessDays, isWeekend } from "date-fns";
import fc from "fast-check";
import { explainActivity } from "../network/explain.ts";
import { schedulePlan } from "../network/schedule.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import { checkWholePlan } from "../plan/check/checkOwnTables.ts";
import { differencesTo } from "../plan/differences/difference.ts";
import { parseBundle } from "../plan/check/parseBundle.ts";
import type { Change } from "../plan/change.ts";
import { fromBundle, toBundle, type Plan } from "../plan/plan.ts";
import { addDays, formatDate, parseDate } from "../time/instant.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { networks, planOf } from "../testing/plans.ts";
import { boxAfter, boxesInOrder, boxMoved, boxRemoved, boxSeries, carriedOver, placedIn, standingIn } from "./boxes.ts";

const ids = (): (() => string) => {
  let next = 0;
  return () => `box${++next}`;
};
const done = (plan: Plan, ...changes: Change[]): Plan => applyChanges(plan, changes).plan;
const SERIES = { name: "Fortnight", number: 1, branch: null, count: 3, length: { count: 2, unit: "weeks" } } as const;
const names = (plan: Plan, box: string | null): string[] => standingIn(plan, box).map(({ id }) => id);

const start = (): Plan => {
  const plan = fromBundle(
    planOf(
      [
        { id: "A", name: "A", durationMinutes: 480 },
        { id: "B", name: "B" },
        { id: "C", name: "C", durationMinutes: 480, actualStart: "2026-03-02", actualFinish: "2026-03-02" },
        { id: "S", name: "S", kind: "summary" },
        { id: "D", name: "D", parent: "S", kind: "milestone" },
      ],
      [],
      { project: { ...planOf([]).project, dataDate: "2026-03-02" } },
    ),
  );
  return done(plan, ...boxSeries(plan, { ...SERIES, first: "2026-03-02" }, ids()));
};

describe("a series of timeboxes", () => {
  it("has boxes of some weeks that begin and end on worked days", () => {
    expect(boxesInOrder(start()).map(({ name, first, last }) => [name, first, last])).toEqual([
      ["Fortnight 1", "2026-03-02", "2026-03-13"],
      ["Fortnight 2", "2026-03-16", "2026-03-27"],
      ["Fortnight 3", "2026-03-30", "2026-04-10"],
    ]);
  });

  it("of days of work ends where a date library counts to", () => {
    const days = fc.integer({ min: 0, max: 700 });
    fc.assert(
      fc.property(days, fc.integer({ min: 1, max: 30 }), fc.integer({ min: 1, max: 6 }), (day, count, boxes) => {
        const plan = fromBundle(planOf([]));
        const first = formatDate(addDays(parseDate("2026-03-02")!, day));
        const length = { count, unit: "days" } as const;
        const made = boxesInOrder(done(plan, ...boxSeries(plan, { ...SERIES, first, length, count: boxes }, ids())));
        let begin = new Date(`${first}T12:00:00Z`);
        while (isWeekend(begin)) begin = new Date(begin.getTime() + 86_400_000);
        for (const box of made) {
          const end = addBusinessDays(begin, count - 1);
          expect([box.first, box.last]).toEqual([begin, end].map((at) => at.toISOString().slice(0, 10)));
          begin = addBusinessDays(end, 1);
        }
        expect(made).toHaveLength(boxes);
      }),
      { numRuns: 60 },
    );
  });

  it("leaves out weeks in which nobody works, and says where it would leave the horizon", () => {
    const closed = { from: "2026-03-16", to: "2026-03-29", shifts: [] };
    const plan = fromBundle(planOf([], [], { calendars: [{ ...planOf([]).calendars[0]!, exceptions: [closed] }] }));
    const made = boxesInOrder(done(plan, ...boxSeries(plan, { ...SERIES, first: "2026-03-02" }, ids())));
    expect(made.map(({ name, first }) => [name, first])).toEqual([
      ["Fortnight 1", "2026-03-02"],
      ["Fortnight 2", "2026-03-30"],
      ["Fortnight 3", "2026-04-13"],
    ]);
    expect(() => boxSeries(plan, { ...SERIES, first: "2099-12-20" }, ids())).toThrow(/1990 to 2099/);
  });

  it("goes along where a box is made longer, its lengths kept, or stays", () => {
    const longer = { first: "2026-03-02", last: "2026-03-16" };
    const along = boxesInOrder(done(start(), ...boxMoved(start(), "box1", longer, true)));
    expect(along.map(({ first, last }) => [first, last])).toEqual([
      ["2026-03-02", "2026-03-16"],
      ["2026-03-17", "2026-03-30"],
      ["2026-03-31", "2026-04-13"],
    ]);
    expect(boxMoved(start(), "box1", longer, false)).toHaveLength(1);
    expect(boxAfter(start(), start().timeboxes.get("box1")!)?.id).toBe("box2");
    expect(boxAfter(start(), start().timeboxes.get("box3")!)).toBeNull();
  });
});

describe("the order in a timebox", () => {
  it("is the plan's until somebody puts it otherwise, what has not been put in order last", () => {
    expect(names(start(), null)).toEqual(["A", "B", "C", "D"]);
    const plan = done(start(), ...placedIn(start(), ["D"], null, "A"));
    expect(names(plan, null)).toEqual(["D", "A", "B", "C"]);
    expect(names(done(plan, ...placedIn(plan, ["A"], null, "C")), null)).toEqual(["D", "B", "A", "C"]);
  });

  it("puts what is placed before what it is put before, keeps the rest, and is undone exactly", () => {
    const many = fromBundle(
      planOf(Array.from({ length: 9 }, (_, i) => ({ id: `n${i}`, name: `n${i}`, durationMinutes: 60 }))),
    );
    const boxed = done(many, ...boxSeries(many, { ...SERIES, first: "2026-03-02" }, ids()));
    const step = fc.record({
      moved: fc.uniqueArray(fc.integer({ min: 0, max: 8 }), { minLength: 1, maxLength: 4 }),
      box: fc.constantFrom(null, "box1", "box2"),
      before: fc.integer({ min: 0, max: 9 }),
    });
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 25 }), (steps) => {
        let plan = boxed;
        for (const { moved, box, before } of steps) {
          const going = moved.map((n) => `n${n}`);
          const there = names(plan, box).filter((id) => !going.includes(id));
          const at = there.includes(`n${before}`) ? there.indexOf(`n${before}`) : there.length;
          const { plan: next, inverse } = applyChanges(plan, placedIn(plan, going, box, `n${before}`));
          expect(names(next, box)).toEqual([...there.slice(0, at), ...going, ...there.slice(at)]);
          expect(applyChanges(next, inverse!).plan).toEqual(plan);
          plan = next;
        }
        expect([null, "box1", "box2"].flatMap((box) => names(plan, box)).sort()).toEqual([...plan.activities.keys()]);
      }),
      { numRuns: 60 },
    );
  });

  it("writes the place alone of what stays in its box, so that others may move it meanwhile", () => {
    const plan = done(start(), ...placedIn(start(), ["A", "B", "C", "D"], "box1", null));
    for (const change of placedIn(plan, ["D"], "box1", "A"))
      expect(Object.keys((change as { set: object }).set)).toEqual(["rank"]);
  });

  it("carries over what was not finished, before what stands in the next, in one list", () => {
    let plan = done(start(), ...placedIn(start(), ["C", "B", "A"], "box1", null));
    plan = done(plan, ...placedIn(plan, ["D"], "box2", null));
    const next = done(plan, ...carriedOver(plan, "box1", "box2"));
    expect([names(next, "box1"), names(next, "box2")]).toEqual([["C"], ["B", "A", "D"]]);
    expect(carriedOver(next, "box1", "box2")).toEqual([]);
  });

  it("lets what stood in a box that is taken out wait, before the rest", () => {
    const plan = done(start(), ...placedIn(start(), ["D", "B"], "box1", null));
    const { plan: without, inverse } = applyChanges(plan, boxRemoved(plan, "box1"));
    expect(names(without, null)).toEqual(["D", "B", "A", "C"]);
    expect([...without.timeboxes.keys()]).toEqual(["box2", "box3"]);
    expect(applyChanges(without, inverse!).plan).toEqual(plan);
  });
});

describe("work in a timebox", () => {
  const inBox = (id: string, box: string): Plan => done(start(), ...placedIn(start(), [id], box, null));
  const rowOf = (plan: Plan, id: string) => {
    const bundle = toBundle(plan);
    return schedulePlan(bundle).rows[bundle.activities.findIndex((each) => each.id === id)]!;
  };

  it("takes its dates from it, lasts all of it where it has neither duration nor hours, and says why", () => {
    const plan = inBox("B", "box2");
    const { startDay, finishDay } = rowOf(plan, "B");
    expect([startDay, finishDay].map(formatDate)).toEqual(["2026-03-16", "2026-03-27"]);
    expect(formatDate(rowOf(inBox("A", "box2"), "A").finishDay)).toBe("2026-03-16");
    expect(explainActivity(toBundle(plan), "B")!.reasons).toContainEqual({
      ...{ kind: "wish", type: "startNotBefore", date: "2026-03-16", reason: "timebox “Fortnight 2”", decides: true },
    });
    // The plan itself has no such wish: it goes with the box.
    expect(plan.activities.get("B")).toEqual({ id: "B", name: "B" });
  });

  it("bounds nothing once the data date has come to its first day: no date lies otherwise, no wish in the past", () => {
    const at = (date: string): Plan => done(inBox("A", "box2"), { type: "setDataDate", date });
    expect(toBundle(at("2026-03-15")).activities.find(({ id }) => id === "A")!.wish).toBeDefined();
    for (const date of ["2026-03-16", "2026-03-24"]) {
      expect(toBundle(at(date)).activities.find(({ id }) => id === "A")!.wish).toBeUndefined();
      const free = done(at(date), ...placedIn(at(date), ["A"], null, null));
      expect(schedulePlan(toBundle(at(date))).rows).toEqual(schedulePlan(toBundle(free)).rows);
    }
  });

  it("keeps a later date wish of its own, and is refused where it begins by another one", () => {
    const wished = (type: "startNotBefore" | "startOn", date: string): Plan =>
      done(inBox("A", "box2"), { type: "setWish", activity: "A", wish: { type, date, reason: "crane" } });
    expect(formatDate(rowOf(wished("startNotBefore", "2026-03-20"), "A").startDay)).toBe("2026-03-20");
    expect(formatDate(rowOf(wished("startNotBefore", "2026-03-03"), "A").startDay)).toBe("2026-03-16");
    expect(checkWholePlan(wished("startOn", "2026-03-20")).map(({ message }) => message)).toEqual([
      `"A" stands in the timebox "Fortnight 2", which says when it begins; take its other date wish (start on 20 Mar 2026: crane) away, or leave it outside`,
    ]);
  });

  it("is neither a branch nor of a branch that is gone; days of a box are in order", () => {
    expect(checkWholePlan(inBox("S", "box1")).map(({ message }) => message)).toEqual([
      `"S" is neither work nor a milestone, so it cannot stand in a timebox`,
    ]);
    // Begun, it is moved by what holds it alone, and another wish stands in nobody's way.
    const begun: Change = { type: "reportProgress", activity: "A", actualStart: "2026-03-02" };
    const held: Change = { type: "setWish", activity: "A", wish: { type: "finishNotBefore", date: "2026-03-20" } };
    expect(checkWholePlan(done(inBox("A", "box1"), begun, held))).toEqual([]);
    const edited = (set: object): Plan =>
      done(start(), { type: "editRow", table: "timeboxes", key: "box1", set } as Change);
    expect(checkWholePlan(edited({ branch: "gone" }))[0]!.message).toMatch(/no branch "gone"/);
    expect(checkWholePlan(edited({ last: "2026-03-01" }))[0]!.message).toMatch(/ends before it begins/);
  });

  it("comes back from a file as it left, with no wish of its own; what the file changed is found", () => {
    const plan = done(inBox("A", "box2"), ...placedIn(start(), ["B"], "box1", null));
    const file = toBundle(plan);
    for (const base of [null, file]) {
      expect(differencesTo(plan, file, ids(), base)).toEqual([]);
      const changed = {
        ...file,
        activities: file.activities.map((each) => (each.id === "A" ? { ...each, durationMinutes: 960 } : each)),
      };
      expect(differencesTo(plan, changed, ids(), base).flatMap(({ changes }) => changes)).toEqual([
        { type: "setDuration", activity: "A", minutes: 960 },
      ]);
    }
  });

  const random = fc.record({
    bundle: networks({ calendars: ["std", "seven", "nights"] }),
    boxes: fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 14, maxLength: 14 }),
    begun: fc.array(fc.boolean(), { minLength: 14, maxLength: 14 }),
  });

  it("keeps the laws of the network among random plans, and the open format says the same", () => {
    fc.assert(
      fc.property(random, ({ bundle, boxes }) => {
        let plan = fromBundle({
          ...bundle,
          activities: bundle.activities.map(({ wish, ...rest }) => ({
            ...rest,
            ...(wish?.type === "startNotBefore" ? { wish } : {}),
          })),
        });
        const free = schedulePlan(toBundle(plan));
        plan = done(plan, ...boxSeries(plan, { ...SERIES, first: "2026-03-02" }, ids()));
        for (const [i, id] of [...plan.activities.keys()].entries())
          if (boxes[i]! > 0) plan = done(plan, ...placedIn(plan, [id], `box${boxes[i]}`, null));
        expect(checkWholePlan(plan)).toEqual([]);
        const bound = toBundle(plan);
        const schedule = schedulePlan(bound);
        schedule.rows.forEach((row, i) => {
          if (row === null) return;
          const box = plan.timeboxes.get(plan.boxed.get(bound.activities[i]!.id)?.box ?? "");
          if (box !== undefined) expect(formatDate(row.startDay) >= box.first).toBe(true);
          // Nothing lies earlier for it, and a box caps nothing: without a cap float is never negative.
          expect(row.start).toBeGreaterThanOrEqual(free.rows[i]!.start);
          expect(row.totalFloat ?? 0).toBeGreaterThanOrEqual(0);
        });
        const read = parseBundle(JSON.parse(JSON.stringify(bound)));
        expect(read).toMatchObject({ ok: true, bundle: bound });
        expect(schedulePlan((read as { bundle: PlanBundle }).bundle).rows).toEqual(schedule.rows);
      }),
      { numRuns: 150 },
    );
  });

  /** Something that is done with boxes or with what stands in them, as numbers say. */
  const acts = fc.array(
    fc.record({
      what: fc.constantFrom("put", "wait", "stretch", "move", "carry", "remove", "finish", "begin", "park", "wake"),
      at: fc.nat(13),
      box: fc.integer({ min: 1, max: 3 }),
      days: fc.integer({ min: -4, max: 10 }),
    }),
    { maxLength: 12 },
  );

  /** The changes of one of them, where it can be done. */
  function changesOf(
    plan: Plan,
    { what, at, box, days }: { what: string; at: number; box: number; days: number },
  ): Change[] {
    const id = [...plan.activities.keys()][at % plan.activities.size]!;
    const activity = plan.activities.get(id)!;
    const boxId = `box${box}`;
    const row = plan.timeboxes.get(boxId);
    const later = (date: string): string => formatDate(addDays(parseDate(date)!, days));
    const isWork = activity.kind !== "milestone" && activity.actualFinish === undefined && activity.parked !== true;
    switch (what) {
      case "put":
        return row === undefined ? [] : placedIn(plan, [id], boxId, null);
      case "wait":
        return placedIn(plan, [id], null, null);
      case "stretch":
        return row === undefined || later(row.last) < row.first
          ? []
          : boxMoved(plan, boxId, { first: row.first, last: later(row.last) }, true);
      case "move":
        return row === undefined
          ? []
          : boxMoved(plan, boxId, { first: later(row.first), last: later(row.last) }, false);
      case "carry":
        return row === undefined ? [] : carriedOver(plan, boxId, boxAfter(plan, row)?.id ?? null);
      case "remove":
        return row === undefined ? [] : boxRemoved(plan, boxId);
      case "finish":
        return isWork
          ? [
              {
                type: "reportProgress",
                activity: id,
                actualStart: activity.actualStart ?? "2026-03-02",
                actualFinish: "2026-03-03",
                percent: 100,
              },
            ]
          : [];
      case "begin":
        return isWork ? [{ type: "reportProgress", activity: id, actualStart: "2026-03-02", percent: 20 }] : [];
      case "park":
        return activity.actualStart === undefined ? [{ type: "setParked", activity: id, parked: true }] : [];
      default:
        return activity.parked === true ? [{ type: "setParked", activity: id, parked: false }] : [];
    }
  }

  it("keeps the laws through whatever is done with it, step by step, and is undone exactly", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std", "seven", "nights"] }), acts, (bundle, all) => {
        let plan = fromBundle({
          ...bundle,
          project: { ...bundle.project, dataDate: "2026-03-04" },
          activities: bundle.activities.map(({ wish: _wish, ...rest }) => rest),
        });
        plan = done(plan, ...boxSeries(plan, { ...SERIES, first: "2026-03-02" }, ids()));
        for (const act of all) {
          const { plan: next, inverse } = applyChanges(plan, changesOf(plan, act));
          expect(checkWholePlan(next)).toEqual([]);
          const bound = toBundle(next);
          const { rows } = schedulePlan(bound);
          rows.forEach((row, i) => {
            if (row === null) return;
            const box = next.timeboxes.get(next.boxed.get(bound.activities[i]!.id)?.box ?? "");
            if (row.state === "notStarted" && box !== undefined && box.first > "2026-03-04")
              expect(formatDate(row.startDay) >= box.first).toBe(true);
            expect(row.totalFloat ?? 0).toBeGreaterThanOrEqual(0);
          });
          const read = parseBundle(JSON.parse(JSON.stringify(bound)));
          expect(schedulePlan((read as { bundle: PlanBundle }).bundle).rows).toEqual(rows);
          const back = applyChanges(next, inverse ?? []).plan;
          expect([[...back.timeboxes.values()], [...back.boxed], toBundle(back)]).toEqual([
            [...plan.timeboxes.values()],
            [...plan.boxed],
            toBundle(plan),
          ]);
          plan = next;
        }
      }),
      { numRuns: 120 },
    );
  });

  it("once begun is moved by progress and links alone, whichever box it stands in", () => {
    fc.assert(
      fc.property(random, ({ bundle, boxes, begun }) => {
        const plan = fromBundle({
          ...bundle,
          project: { ...bundle.project, dataDate: "2026-03-04" },
          activities: bundle.activities.map(({ wish: _wish, ...rest }, i) =>
            begun[i] === true && rest.kind !== "milestone" ? { ...rest, actualStart: "2026-03-02", percent: 20 } : rest,
          ),
        });
        const boxed = done(plan, ...boxSeries(plan, { ...SERIES, first: "2026-03-02" }, ids()));
        const started = [...boxed.activities.values()].filter(({ actualStart }) => actualStart !== undefined);
        const moved = started.reduce(
          (at, { id }, i) => done(at, ...placedIn(at, [id], `box${(boxes[i]! % 3) + 1}`, null)),
          boxed,
        );
        expect(schedulePlan(toBundle(moved)).rows).toEqual(schedulePlan(toBundle(boxed)).rows);
      }),
      { numRuns: 80 },
    );
  });
});
