import fc from "fast-check";
import { computePlan } from "../analyse.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import type { Timebox } from "../plan/ownTables.ts";
import { fromBundle, toBundle, type Plan } from "../plan/plan.ts";
import { addDays, formatDate, parseDate } from "../time/instant.ts";
import { planOf } from "../testing/plans.ts";
import { boxedWork, boxSums, burntDown } from "./boxFigures.ts";
import { boxSeries, placedIn, standingIn } from "./boxes.ts";
import { lookBack, type BoxMove } from "./lookBack.ts";

const plan = ((): Plan => {
  const bare = fromBundle(
    planOf(
      [
        { id: "A", name: "A", driver: "effort" },
        { id: "B", name: "B", durationMinutes: 12 * 480 },
        { id: "C", name: "C", durationMinutes: 480, parked: true },
        { id: "D", name: "D" },
      ],
      [],
      {
        people: [
          { id: "ann", name: "Ann" },
          { id: "bob", name: "Bob", calendar: "seven" },
        ],
        assignments: [
          { activity: "A", person: "ann", plannedMinutes: 960 },
          { activity: "B", person: "bob", plannedMinutes: 600, remainingMinutes: 300 },
          { activity: "C", person: "bob", plannedMinutes: 6000 },
        ],
        timeEntries: [
          { activity: "A", person: "ann", date: "2026-03-02", minutes: 120, state: "posted" },
          { activity: "A", person: "ann", date: "2026-03-04", minutes: 60, state: "posted" },
          { activity: "A", person: "ann", date: "2026-03-04", minutes: 600, state: "draft" },
          { activity: "D", person: "ann", date: "2026-03-04", minutes: 45, state: "posted" },
        ],
      },
    ),
  );
  let next = 0;
  const series = { name: "Week", number: 1, first: "2026-03-02", branch: null, count: 2 };
  const boxes = boxSeries(bare, { ...series, length: { count: 1, unit: "weeks" } }, () => `w${++next}`);
  const boxed = applyChanges(bare, boxes).plan;
  return applyChanges(boxed, placedIn(boxed, ["A", "B", "C"], "w1", null)).plan;
})();
const bundle = toBundle(plan);
const { schedule } = computePlan(bundle);
const works = boxedWork(plan, bundle, schedule);
const box = plan.timeboxes.get("w1")!;
const inBox = standingIn(plan, "w1").map(({ id }) => works.get(id)!);

describe("what a timebox holds", () => {
  it("is counted in number and hours, parked work left out, against the hours of its people", () => {
    expect(boxSums(bundle, schedule, box, inBox, "2026-03-05")).toEqual({
      ...{ count: 2, done: 0, plannedMinutes: 1560, bookedMinutes: 180, leftMinutes: 1260, spills: 1, daysLeft: 2 },
      // Five days of eight hours each; what one of them works at the weekend lies after the box, which ends on a worked day.
      ...{ capacityMinutes: 2 * 5 * 480, capacityLeftMinutes: 2 * 2 * 480 },
    });
    expect(boxSums(bundle, schedule, box, inBox, "2026-03-09")).toMatchObject({ capacityLeftMinutes: 0, daysLeft: 0 });
    expect(boxSums(bundle, schedule, box, [], "2026-03-02")).toMatchObject({
      count: 0,
      capacityMinutes: 0,
      daysLeft: 5,
    });
  });

  it("says by how many working days something spills, and nothing of what has no dates", () => {
    expect([works.get("A")!.spillsDays, works.get("B")!.spillsDays]).toEqual([0, 7]);
    expect(works.get("D")).toMatchObject({ start: null, finish: null, spillsDays: 0, state: "notStarted" });
  });
});

describe("a burn-down", () => {
  it("ends on what is left, and falls each day by what was booked", () => {
    const days = burntDown(bundle, box, new Set(["A", "B"]), 1260, "2026-03-05");
    expect(days.map(({ date, leftMinutes }) => [date, leftMinutes])).toEqual([
      ["2026-03-01", 1440],
      ["2026-03-02", 1320],
      ["2026-03-03", 1320],
      ["2026-03-04", 1260],
      ["2026-03-05", 1260],
    ]);
    expect(burntDown(bundle, box, new Set(["A"]), 10, "2026-03-01")).toEqual([]);
    expect(burntDown(bundle, box, new Set(), 10, "2026-12-01").at(-1)!.date).toBe("2026-03-06");
  });
});

describe("looking back at a timebox", () => {
  const at = (day: number): string => formatDate(addDays(parseDate("2026-03-01")!, day));
  const one: Timebox = { id: "one", name: "One", first: at(1), last: at(5) };

  it("tells what was meant, came in, was finished, moved on and taken out", () => {
    const moves: BoxMove[] = [
      { activity: "old", on: null, box: "one" },
      { activity: "meant", on: at(0), box: "one" },
      { activity: "late", on: at(1), box: "one" },
      { activity: "gone", on: at(1), box: "one" },
      { activity: "gone", on: at(1), box: null },
      { activity: "in", on: at(3), box: "one" },
      { activity: "meant", on: at(6), box: "two" },
      { activity: "in", on: at(4), box: null },
    ];
    const finished = new Map([
      ["old", at(5)],
      ["late", at(6)],
    ]);
    expect(lookBack(one, moves, (id) => finished.get(id) ?? null)).toEqual([
      { activity: "old", meant: true, cameOn: null, fate: "finished", to: null },
      { activity: "meant", meant: true, cameOn: null, fate: "movedOn", to: "two" },
      { activity: "late", meant: true, cameOn: null, fate: "finishedLate", to: null },
      { activity: "in", meant: false, cameOn: at(3), fate: "takenOut", to: null },
    ]);
  });

  it("is what walking through the days says", () => {
    const move = fc.record({
      activity: fc.constantFrom("a", "b", "c"),
      day: fc.integer({ min: 0, max: 8 }),
      box: fc.constantFrom("one", "two", null),
    });
    fc.assert(
      fc.property(fc.array(move, { maxLength: 14 }), (raw) => {
        const moves = [...raw]
          .sort((x, y) => x.day - y.day)
          .map(({ activity, day, box: to }) => ({ activity, on: at(day), box: to }));
        const whereAt = (activity: string, date: string): string | null =>
          moves.filter((each) => each.activity === activity && each.on <= date).at(-1)?.box ?? null;
        const told = new Map(lookBack(one, moves, () => null).map((each) => [each.activity, each]));
        for (const activity of ["a", "b", "c"]) {
          const meant = whereAt(activity, one.first) === "one";
          const later = moves.some((each) => each.activity === activity && each.box === "one" && each.on > one.first);
          expect(told.has(activity)).toBe(meant || later);
          if (!told.has(activity)) continue;
          const now = whereAt(activity, at(99));
          expect(told.get(activity)).toMatchObject({
            meant,
            fate: now === "one" ? "open" : now === null && told.get(activity)!.to === null ? "takenOut" : "movedOn",
          });
        }
      }),
    );
  });
});
