import fc from "fast-check";
import { planOf } from "../../testing/plans.ts";
import { applyChanges } from "../applyChanges.ts";
import { arrange, type Arrangement } from "./arrange.ts";
import { checkPlan } from "../check/checkPlan.ts";
import { fromBundle, toBundle, type Plan } from "../plan.ts";
import { PLAN_TABLES } from "../tables.ts";
import type { Activity } from "../schema.ts";

const day = (id: string, parent?: string): Activity => ({
  id,
  name: id,
  durationMinutes: 480,
  ...(parent === undefined ? {} : { parent }),
});
const group = (id: string, parent?: string): Activity => ({
  id,
  name: id,
  kind: "summary",
  ...(parent === undefined ? {} : { parent }),
});
const plan = (): Plan =>
  fromBundle(
    planOf([group("S"), day("a", "S"), day("b", "S"), day("c", "S"), day("d"), day("e")], [{ from: "a", to: "d" }]),
  );

/** The tree as an outline, two spaces a level. */
function outline(of: Plan): string[] {
  const rows = [...of.activities.values()];
  const lines = (parent: string | undefined, depth: number): string[] =>
    rows
      .filter((row) => row.parent === parent)
      .flatMap((row) => [
        `${"  ".repeat(depth)}${row.id}${row.kind === "summary" ? ":" : ""}`,
        ...lines(row.id, depth + 1),
      ]);
  return lines(undefined, 0);
}

const after = (arrangement: Arrangement, from = plan()): string[] =>
  outline(applyChanges(from, arrange(from, arrangement)).plan);
const START = ["S:", "  a", "  b", "  c", "d", "e"];

describe("arranging the tree", () => {
  it.each<[string, Arrangement, string[]]>([
    [
      "insert after a row",
      { verb: "insert", id: "n", name: "n", after: "b", inside: false },
      ["S:", "  a", "  b", "  n", "  c", "d", "e"],
    ],
    [
      "insert after the last below a summary",
      { verb: "insert", id: "n", name: "n", after: "c", inside: false },
      ["S:", "  a", "  b", "  c", "  n", "d", "e"],
    ],
    [
      "insert inside a summary, before what is there",
      { verb: "insert", id: "n", name: "n", after: "S", inside: true },
      ["S:", "  n", "  a", "  b", "  c", "d", "e"],
    ],
    [
      "insert inside work, which becomes a summary",
      { verb: "insert", id: "n", name: "n", after: "e", inside: true },
      ["S:", "  a", "  b", "  c", "d", "e:", "  n"],
    ],
    [
      "insert at the end",
      { verb: "insert", id: "n", name: "n", after: null, inside: false },
      ["S:", "  a", "  b", "  c", "d", "e", "n"],
    ],
    ["indent a row below the one before it", { verb: "indent", ids: ["d"] }, ["S:", "  a", "  b", "  c", "  d", "e"]],
    [
      "indent two in a row below the same one",
      { verb: "indent", ids: ["b", "c"] },
      ["S:", "  a:", "    b", "    c", "d", "e"],
    ],
    ["indent the first of all: nothing", { verb: "indent", ids: ["S"] }, START],
    [
      "put rows before another, elsewhere in the tree",
      { verb: "place", ids: ["d", "e"], parent: "S", before: "b" },
      ["S:", "  a", "  d", "  e", "  b", "  c"],
    ],
    [
      "put a row last below a parent",
      { verb: "place", ids: ["a"], parent: null, before: null },
      ["S:", "  b", "  c", "d", "e", "a"],
    ],
    [
      "put a row below work, which becomes a summary",
      { verb: "place", ids: ["a"], parent: "e", before: null },
      ["S:", "  b", "  c", "d", "e:", "  a"],
    ],
    ["put a row where it is: nothing", { verb: "place", ids: ["a", "b"], parent: "S", before: "c" }, START],
    ["put a row below itself: nothing", { verb: "place", ids: ["S"], parent: "S", before: null }, START],
    ["outdent a row to stand after its parent", { verb: "outdent", ids: ["b"] }, ["S:", "  a", "  c", "b", "d", "e"]],
    [
      "outdent all: the parent is work again",
      { verb: "outdent", ids: ["a", "b", "c"] },
      ["S", "a", "b", "c", "d", "e"],
    ],
    ["outdent at the top: nothing", { verb: "outdent", ids: ["d"] }, START],
    ["up", { verb: "up", ids: ["c"] }, ["S:", "  a", "  c", "  b", "d", "e"]],
    ["up with what lies below", { verb: "down", ids: ["S", "a"] }, ["d", "S:", "  a", "  b", "  c", "e"]],
    ["two up together", { verb: "up", ids: ["b", "c"] }, ["S:", "  b", "  c", "  a", "d", "e"]],
    ["down at the end: nothing", { verb: "down", ids: ["e"] }, START],
    ["remove a row", { verb: "remove", ids: ["b"] }, ["S:", "  a", "  c", "d", "e"]],
    ["remove a branch whole", { verb: "remove", ids: ["S"] }, ["d", "e"]],
    ["remove all below a summary: it is work again", { verb: "remove", ids: ["a", "b", "c"] }, ["S", "d", "e"]],
  ])("%s", (_what, arrangement, wanted) => {
    expect(after(arrangement)).toEqual(wanted);
  });

  it("removing takes links, people and costs along, and nothing else", () => {
    const full = fromBundle({
      ...toBundle(plan()),
      people: [{ id: "p", name: "P" }],
      assignments: [
        { activity: "a", person: "p", plannedMinutes: 60 },
        { activity: "d", person: "p", plannedMinutes: 60 },
      ],
      costs: [{ id: "c1", activity: "b", category: "x", plannedMinor: 1 }],
    });
    const left = applyChanges(full, arrange(full, { verb: "remove", ids: ["S"] })).plan;
    expect([left.links.size, left.assignments.size, left.costs.size, checkPlan(toBundle(left))]).toEqual([0, 1, 0, []]);
  });

  it("work that someone is on cannot get anything below it: the check says so", () => {
    const full = fromBundle({
      ...toBundle(plan()),
      people: [{ id: "p", name: "P" }],
      assignments: [{ activity: "d", person: "p", plannedMinutes: 60 }],
    });
    const indented = applyChanges(full, arrange(full, { verb: "indent", ids: ["e"] })).plan;
    expect(checkPlan(toBundle(indented))).toEqual(
      expect.arrayContaining([
        expect.objectContaining({ table: "assignments", message: expect.stringContaining("is a summary") }),
      ]),
    );
  });

  it("laws: no row is lost or doubled, no loop comes about, and undo restores the order exactly", () => {
    const verbs = fc.constantFrom<Arrangement["verb"]>("insert", "indent", "outdent", "up", "down", "remove", "place");
    // The last of the rows picked is put before the first, or below it.
    const placed = (of: Plan, ids: readonly string[], inside: boolean): Arrangement => ({
      verb: "place",
      ids: ids.slice(-1),
      parent: inside ? ids[0]! : (of.activities.get(ids[0]!)!.parent ?? null),
      before: inside ? null : ids[0]!,
    });
    const laidOut = (of: Plan): unknown => PLAN_TABLES.map((table) => [...of[table]]);
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ verb: verbs, picks: fc.array(fc.nat(20), { minLength: 1, maxLength: 3 }), inside: fc.boolean() }),
          { maxLength: 15 },
        ),
        (list) => {
          let now = fromBundle(
            planOf([group("S"), day("a", "S"), day("b", "S"), group("T", "S"), day("c", "T"), day("d"), day("e")]),
          );
          list.forEach(({ verb, picks, inside }, n) => {
            const keys = [...now.activities.keys()];
            if (keys.length === 0) return;
            const ids = [...new Set(picks.map((pick) => keys[pick % keys.length]!))];
            const arrangement: Arrangement =
              verb === "insert"
                ? { verb, id: `n${n}`, name: "", after: ids[0]!, inside }
                : verb === "place"
                  ? placed(now, ids, inside)
                  : { verb, ids };
            const applied = applyChanges(now, arrange(now, arrangement));
            expect(laidOut(applyChanges(applied.plan, applied.inverse!).plan)).toEqual(laidOut(now));
            expect(checkPlan(toBundle(applied.plan))).toEqual([]);
            expect(outline(applied.plan)).toHaveLength(applied.plan.activities.size);
            if (verb === "insert") expect(applied.plan.activities.size).toBe(now.activities.size + 1);
            else if (verb !== "remove") expect(applied.plan.activities.size).toBe(now.activities.size);
            now = applied.plan;
          });
        },
      ),
      { numRuns: 300 },
    );
  });
});
