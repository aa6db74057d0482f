import fc from "fast-check";
import {
  applyChanges,
  computePlan,
  fromBundle,
  openOf,
  parseDate,
  toBundle,
  type Change,
  type PlanBundle,
} from "@chronometra/core";
import { colouringBy } from "./chart/colours.ts";
import { instantAt, xOf } from "./chart/scale.ts";
import { dragged, type Gesture } from "./engine/dragged.ts";
import { placesOfKey } from "./chart/ChartKey.tsx";
import { layOutSheet } from "./engine/layOutSheet.ts";
import { PlanEngine } from "./engine/planEngine.ts";
import { layOutPages, PAGE_NUMBER, PAPERS, rowsOnPage } from "./print/pages.ts";
import { patched, patchOf } from "./engine/sheetPatch.ts";
import { slipway, viewOf } from "./testing/plans.ts";
import { dropAt } from "./grid/panes/useRowDrag.ts";

const sheetOf = (plan: PlanBundle) => layOutSheet(fromBundle(plan), plan, computePlan(plan));
const at = (date: string, hour = 0): number => openOf(parseDate(date)!) + hour * 60;
const plan = slipway();

describe("what is dragged in the chart", () => {
  const meant = (gesture: Gesture, of = plan) => dragged(fromBundle(of), computePlan(of), gesture);

  it("moved, becomes a date wish on the nearest day, and says so", () => {
    expect(meant({ what: "move", activity: "dig", to: at("2026-03-05", 9) })).toEqual({
      changes: [{ type: "setWish", activity: "dig", wish: { type: "startNotBefore", date: "2026-03-05" } }],
      words: "A date wish: Dig not before 5 Mar 2026",
    });
  });

  it("moved within its day, stays; work that begins after noon is put by whole days and no further", () => {
    const start = (id: string, of = plan) =>
      computePlan(of).schedule.rows[of.activities.findIndex((each) => each.id === id)]!.start;
    expect(meant({ what: "move", activity: "dig", to: start("dig") + 300 })).toEqual({
      changes: [],
      words: "Dig stays on 2 Mar 2026",
    });
    const half = slipway((activities) =>
      activities.map((each) => (each.id === "dig" ? { ...each, durationMinutes: 240 } : each)),
    );
    const noon = start("pour", half);
    expect(noon % 1440).toBeGreaterThanOrEqual(12 * 60);
    expect(meant({ what: "move", activity: "pour", to: noon }, half)).toMatchObject({ changes: [] });
    expect(meant({ what: "move", activity: "pour", to: noon + 1440 }, half)).toMatchObject({
      changes: [{ wish: { type: "startNotBefore", date: "2026-03-03" } }],
    });
  });

  it("a milestone is put on the day it is dropped on, in its own sense", () => {
    const row = computePlan(plan).schedule.rows[plan.activities.findIndex(({ id }) => id === "open")]!;
    const to = meant({ what: "move", activity: "open", to: row.start + 2 * 1440 });
    if (!("changes" in to)) throw new Error(to.fault);
    const after = toBundle(applyChanges(fromBundle(plan), to.changes).plan);
    const moved = computePlan(after).schedule.rows[plan.activities.findIndex(({ id }) => id === "open")]!;
    expect(moved.finishDay - row.finishDay).toBe(2);
    expect(to.changes).toMatchObject([{ wish: { type: "finishNotBefore" } }]);
  });

  it("in the place of a wish that someone meant says so, and takes no reason over; an earlier drag is no such wish", () => {
    const wished = (wish: object) =>
      slipway((activities) => activities.map((each) => (each.id === "dig" ? { ...each, wish: wish as never } : each)));
    const to = at("2026-03-20", 9);
    expect(
      meant(
        { what: "move", activity: "dig", to },
        wished({ type: "finishOn", date: "2026-03-06", reason: "contract" }),
      ),
    ).toMatchObject({ changes: [{ wish: { type: "startNotBefore" } }], replaces: "finish on 6 Mar 2026: contract" });
    const reasoned = meant(
      { what: "move", activity: "dig", to },
      wished({ type: "startNotBefore", date: "2026-03-04", reason: "crane" }),
    );
    expect(reasoned).toMatchObject({ replaces: "not before 4 Mar 2026: crane" });
    expect("changes" in reasoned && reasoned.changes[0]).not.toHaveProperty("wish.reason");
    expect(
      meant({ what: "move", activity: "dig", to }, wished({ type: "startNotBefore", date: "2026-03-04" })),
    ).not.toHaveProperty("replaces");
  });

  it("stretched, takes the working time up to there: whole days, or hours when drawn large", () => {
    expect(meant({ what: "stretch", activity: "dig", to: at("2026-03-10", 11), fine: false })).toMatchObject({
      changes: [{ minutes: 7 * 480 }],
      words: "Dig takes 7 d",
    });
    expect(meant({ what: "stretch", activity: "dig", to: at("2026-03-10", 11), fine: true })).toMatchObject({
      changes: [{ minutes: 6 * 480 + 180 }],
    });
    // Over a weekend nothing is added.
    expect(meant({ what: "stretch", activity: "dig", to: at("2026-03-08", 11), fine: false })).toMatchObject({
      changes: [{ minutes: 5 * 480 }],
    });
    expect(meant({ what: "stretch", activity: "dig", to: at("2026-02-01"), fine: false })).toEqual({
      fault: "It cannot finish before it starts.",
    });
  });

  it("of work under way, what is left is stretched, from the data date on", () => {
    const begun = slipway(
      (activities) =>
        activities.map((activity) =>
          activity.id === "dig" ? { ...activity, actualStart: "2026-03-02", percent: 20 } : activity,
        ),
      "2026-03-04",
    );
    expect(meant({ what: "stretch", activity: "dig", to: at("2026-03-09", 12), fine: false }, begun)).toMatchObject({
      changes: [{ type: "reportProgress", remainingMinutes: 3 * 480 }],
    });
    expect(meant({ what: "move", activity: "dig", to: at("2026-03-09") }, begun)).toHaveProperty("fault");
  });

  it.each<["start" | "finish", "start" | "finish", string | undefined, string]>([
    ["finish", "start", undefined, "Paint starts after Dig finishes"],
    ["start", "start", "SS", "Paint starts no earlier than Dig"],
    ["finish", "finish", "FF", "Paint finishes no earlier than Dig"],
    ["start", "finish", "SF", "Paint finishes no earlier than Dig starts"],
  ])("drawn from %s to %s, is a link of that kind", (fromEnd, toEnd, type, words) => {
    const row = { from: "dig", to: "paint", ...(type === undefined ? {} : { type }) };
    expect(meant({ what: "link", from: "dig", fromEnd, to: "paint", toEnd, key: "k" })).toEqual({
      changes: [{ type: "addRow", table: "links", key: "k", row }],
      words,
    });
  });

  it("what cannot be is said: a link there is already, to a summary, a duration of a milestone", () => {
    expect(meant({ what: "link", from: "dig", fromEnd: "finish", to: "pour", toEnd: "start", key: "k" })).toEqual({
      fault: "They are linked like this already.",
    });
    expect(meant({ what: "link", from: "dig", fromEnd: "finish", to: "works", toEnd: "start", key: "k" })).toEqual({
      fault: expect.stringContaining("is a summary") as string,
    });
    expect(meant({ what: "stretch", activity: "open", to: at("2026-03-20"), fine: false })).toEqual({
      fault: "Only work has a duration.",
    });
  });

  it("is previewed with where everything that moves would lie, nothing being kept; a loop is told by its names", () => {
    const engine = new PlanEngine();
    const before = patched(null, engine.open(viewOf(plan)));
    const preview = engine.preview([{ type: "setDuration", activity: "dig", minutes: 3360 }]);
    if (!("ghosts" in preview)) throw new Error("no preview");
    expect([...preview.ghosts.keys()].sort()).toEqual(["dig", "open", "pour", "works"]);
    expect(preview.effect.finish).toMatchObject({ days: 2 });
    expect(
      engine.preview([{ type: "addRow", table: "links", key: "x", row: { from: "pour", to: "dig" } }]),
    ).toMatchObject({ problems: [{ message: expect.stringContaining("Dig → Pour → Dig") as string }] });
    expect(patched(before, engine.advance([]))).toEqual(before);
  });
});

describe("rows dragged", () => {
  const { rows } = sheetOf(plan);
  it.each<[number, ReturnType<typeof dropAt>]>([
    [0.1, { line: 0, depth: 0, parent: null, before: "open" }],
    [0.5, { line: 1, depth: 1, parent: "open", before: null }],
    [0.9, { line: 1, depth: 0, parent: null, before: "works" }],
    [1.9, { line: 2, depth: 1, parent: "works", before: "pour" }],
    [3.1, { line: 3, depth: 1, parent: "works", before: "dig" }],
    [5.9, { line: 6, depth: 1, parent: "works", before: null }],
    [40, { line: 6, depth: 1, parent: "works", before: null }],
  ])("let go at %p rows stand there", (height, drop) => expect(dropAt(rows, height)).toEqual(drop));
});

describe("a sheet sent as what changed", () => {
  it("puts together what it was taken apart from, rows that stay being the same objects, for any changes", () => {
    const change = fc.oneof(
      fc.record({
        type: fc.constant("setDuration" as const),
        activity: fc.constantFrom("dig", "pour", "paint"),
        minutes: fc.integer({ min: 1, max: 9000 }),
      }),
      fc.record({
        type: fc.constant("setName" as const),
        activity: fc.constantFrom("dig", "works", "open"),
        name: fc.constantFrom("X", "Y"),
      }),
      fc.record({
        type: fc.constant("moveBranch" as const),
        activity: fc.constantFrom("dig", "paint"),
        parent: fc.constantFrom("works", null),
        before: fc.constantFrom("pour", "open", null),
      }),
    ) as fc.Arbitrary<Change>;
    fc.assert(
      fc.property(fc.array(change, { maxLength: 6 }), (changes) => {
        const was = sheetOf(plan);
        const after = applyChanges(fromBundle(plan), changes).plan;
        const will = layOutSheet(after, toBundle(after), computePlan(toBundle(after)));
        const patch = structuredClone(patchOf(was, will));
        const sheet = patched(was, patch);
        expect(sheet).toEqual(will);
        for (const row of sheet.rows) {
          const former = was.rows.find(({ id }) => id === row.id)!;
          if (JSON.stringify(former) === JSON.stringify(row)) expect(row).toBe(former);
        }
      }),
    );
  });
});

describe("colouring by a field", () => {
  const row = (value: string | undefined) => ({
    ...sheetOf(plan).rows[0]!,
    values: value === undefined ? {} : { f: value },
  });
  it("gives choices their own order, other values by how often they come, and the rest one colour together", () => {
    const choice = colouringBy({ id: "f", name: "Zone", type: "choice", choices: ["S", "N"] }, [row("N")]);
    expect(choice.legend.map(({ value }) => value)).toEqual(["S", "N"]);
    const text = colouringBy({ id: "f", name: "Zone", type: "text" }, ["b", "a", "a", ..."cdefghij"].map(row));
    expect(text.legend.map(({ value }) => value)).toEqual(["a", "b", "c", "d", "e", "f", "g", "h", "other"]);
    expect(new Set(text.legend.map(({ colour }) => colour)).size).toBe(9);
    expect([text.of(row("j"))!.colour, text.of(row(undefined))]).toEqual([text.legend.at(-1)!.colour, null]);
  });
});

describe("the plan on paper", () => {
  const many = Array.from({ length: 95 }, (_, i) => ({ ...sheetOf(plan).rows[3]!, id: `r${i}` }));
  it("has every row on as many pages as the time is wide, in order, and the time goes on where the page before ends", () => {
    fc.assert(
      fc.property(
        fc.constantFrom("a4" as const, "a3" as const, "letter" as const),
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 0, max: 95 }),
        (paper, wide, count) => {
          const pages = layOutPages({
            start: "2026-03-02",
            rows: many.slice(0, count),
            dataDate: "2026-03-20",
            paper,
            wide,
            columns: [
              { id: "name", width: 230 },
              { id: "finish", width: 270 },
            ],
          });
          expect(pages).toHaveLength(wide * Math.max(1, Math.ceil(count / rowsOnPage(paper))));
          expect(pages.filter(({ across }) => across === 0).flatMap(({ rows }) => rows.map(({ id }) => id))).toEqual(
            many.slice(0, count).map(({ id }) => id),
          );
          pages.forEach((page, i) => page.across > 0 && expect(page.scale!.from).toBe(pages[i - 1]!.scale!.to));
          const last = pages[wide - 1]!.scale!;
          expect(last.to).toBeGreaterThanOrEqual(at("2026-03-21"));
          expect(instantAt(last, xOf(last, last.to))).toBeCloseTo(last.to, 3);
        },
      ),
    );
  });

  it("has room for the whole key beside the page's number, on every paper", () => {
    for (const { width } of Object.values(PAPERS))
      expect(placesOfKey().at(-1)!).toBeLessThanOrEqual(width - PAGE_NUMBER);
  });

  it("has every column on one page beside the name, however many and wide there are, none over its edge, and the time in no less than three tenths of one", () => {
    const widths = fc.array(fc.integer({ min: 30, max: 900 }), { minLength: 1, maxLength: 25 });
    fc.assert(
      fc.property(
        fc.constantFrom("a4" as const, "a3" as const, "letter" as const),
        fc.integer({ min: 1, max: 3 }),
        widths,
        (paper, wide, all) => {
          const columns = all.map((width, i) => ({ id: i === 0 ? "name" : `c${i}`, width }));
          const pages = layOutPages({
            start: "2026-03-02",
            rows: many.slice(0, 1),
            dataDate: null,
            paper,
            wide,
            columns,
          });
          expect(pages.flatMap((page) => page.columns.slice(1).map(({ id }) => id))).toEqual(
            columns.slice(1).map(({ id }) => id),
          );
          for (const page of pages) {
            expect(page.columns[0]!.id).toBe("name");
            expect(page.columns.reduce((sum, { width }) => sum + width, 0)).toBeLessThanOrEqual(PAPERS[paper].width);
            if (page.scale !== null) expect(page.left).toBeLessThanOrEqual(PAPERS[paper].width * 0.7);
          }
          expect(pages.filter(({ scale }) => scale !== null)).toHaveLength(wide);
          expect(pages.slice(-wide).every(({ scale }) => scale !== null)).toBe(true);
        },
      ),
    );
  });
});
