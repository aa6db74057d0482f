import type { Box, BoxedRow, Boxes } from "@chronometra/contract";
import { applyChanges, fromBundle, placedIn, standingIn, type Change, type Plan } from "@chronometra/core";
import fc from "fast-check";
import { slipway } from "../plan/testing/plans.ts";
import { shownBoxes, stepped } from "./standing.ts";

const box = (id: string, first: string, last: string, more: object = {}): Change => ({
  ...{ type: "addRow", table: "timeboxes", key: id, row: { id, name: id, first, last, ...more } },
});
const plan = ((): Plan => {
  const bare = fromBundle(slipway());
  const boxes = [box("one", "2026-03-02", "2026-03-13"), box("two", "2026-03-16", "2026-03-27")];
  return applyChanges(bare, boxes).plan;
})();
const work = [...plan.activities.values()].filter(({ kind = "work" }) => kind === "work").map(({ id }) => id);

const row = (id: string, over: Partial<BoxedRow> = {}): BoxedRow => ({
  ...{
    id,
    name: `Work ${id}`,
    path: "Works",
    branches: ["works"],
    milestone: false,
    state: "notStarted",
    parked: false,
  },
  ...{ plannedMinutes: 60, bookedMinutes: 0, leftMinutes: 60, start: null, finish: null, spillsDays: 0, people: [] },
  ...{ blockedBy: null },
  ...over,
});
const told = (waiting: BoxedRow[]): Boxes => ({
  ...{ revision: 1, mayEdit: true, today: "2026-03-10", boxes: [] as Box[], waiting, branches: [] },
});
const asked = { branch: "", words: "" };

describe("what the page of timeboxes shows", () => {
  it("is in the order that is about to be, with rows as they were counted last", () => {
    const moved = applyChanges(plan, placedIn(plan, [work[1]!, work[0]!], "two", null)).plan;
    const { boxes, waiting } = shownBoxes(moved, told(work.map((id) => row(id))), asked);
    expect(boxes.map(({ box: { id }, rows }) => [id, rows.map((each) => each.id)])).toEqual([
      ["one", []],
      ["two", [work[1], work[0]]],
    ]);
    expect(waiting.map(({ id }) => id)).toEqual(work.slice(2));
  });

  it("leaves what is finished or parked out of what waits, and what is not asked for", () => {
    const [a, b, c, ...rest] = work;
    const rows = [
      row(a!, { state: "complete" }),
      row(b!, { parked: true }),
      row(c!, { name: "Pour" }),
      ...rest.map((id) => row(id)),
    ];
    expect(shownBoxes(plan, told(rows), { ...asked, words: " pOur " }).waiting.map(({ id }) => id)).toEqual([c]);
    expect(shownBoxes(plan, told(rows), { ...asked, branch: "elsewhere" }).waiting).toEqual([]);
    expect(shownBoxes(plan, told(rows), asked).waiting.map(({ id }) => id)).toEqual([c, ...rest]);
  });
});

it("a step up and a step down again lead back, over the ends of timeboxes too", () => {
  const sectionsOf = (at: Plan) =>
    ["one", "two", null].map((id) => ({ box: id, ids: standingIn(at, id).map((each) => each.id) }));
  const step = (at: Plan, id: string, by: 1 | -1): Plan => {
    const to = stepped(sectionsOf(at), id, by);
    return to === null ? at : applyChanges(at, placedIn(at, [id], to.box, to.before)).plan;
  };
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom(...work), fc.constantFrom(1 as const, -1 as const)), { maxLength: 20 }),
      fc.constantFrom(...work),
      fc.constantFrom(1 as const, -1 as const),
      (steps, id, by) => {
        const at = steps.reduce((now, [each, way]) => step(now, each, way), plan);
        if (stepped(sectionsOf(at), id, by) === null) return;
        const order = (now: Plan): string[][] => sectionsOf(now).map(({ ids }) => ids);
        expect(order(step(step(at, id, by), id, by === 1 ? -1 : 1))).toEqual(order(at));
      },
    ),
    { numRuns: 60 },
  );
});
