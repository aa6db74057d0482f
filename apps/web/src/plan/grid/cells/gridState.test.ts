import fc from "fast-check";
import type { Gone } from "../../engine/session/sessionState.ts";
import { acted, atFirst, edgeOf, type GridAct, type GridState } from "./gridState.ts";

const NOBODY: ReadonlyMap<string, Gone> = new Map();
const rows = (
  ids: readonly string[],
  gone: ReadonlyMap<string, Gone> = NOBODY,
  standsFor: (id: string) => string | null = () => null,
): GridAct => ({ do: "rows", ids, gone, standsFor });
const go = (ids: readonly string[], row: number, extend = false): GridAct => ({
  do: "go",
  ids,
  row,
  column: 0,
  extend,
});
const type = (id: string, row: number, text = "old", fresh = false): GridAct => ({
  do: "type",
  id,
  column: "name",
  columnAt: 0,
  row,
  text,
  selected: true,
  fresh,
});
const after = (ids: readonly string[], ...acts: readonly GridAct[]): GridState => acts.reduce(acted, atFirst(ids));
const by = (id: string, name = id): ReadonlyMap<string, Gone> => new Map([[id, { name, by: "Bo" }]]);

describe("where the keyboard stands", () => {
  it("is a row, wherever others put it", () => {
    expect(after(["a", "b", "c"], go(["a", "b", "c"], 1), rows(["x", "a", "y", "b", "c"]))).toMatchObject({
      at: "b",
      row: 3,
      chosen: ["b"],
    });
  });

  it("is nobody's row once someone else took it out, until another is gone to", () => {
    const lost = after(["a", "b", "c"], go(["a", "b", "c"], 1), rows(["a", "c"], by("b", "Dig")));
    expect([lost.at, lost.gone, lost.row]).toEqual([null, { name: "Dig", by: "Bo" }, 1]);
    expect(acted(lost, rows(["a", "c", "d"]))).toMatchObject({ at: null, gone: { name: "Dig" } });
    expect(acted(lost, go(["a", "c"], 1))).toMatchObject({ at: "c", gone: null });
  });

  it("is the row that comes to stand there, where one's own was removed by oneself", () => {
    expect(after(["a", "b", "c"], go(["a", "b", "c"], 1), rows(["a", "c"]))).toMatchObject({
      at: "c",
      row: 1,
      gone: null,
    });
    expect(after(["a", "b"], go(["a", "b"], 1), rows(["a"]))).toMatchObject({ at: "a", row: 0 });
  });

  it("is the branch that hides it, once that is folded", () => {
    expect(
      after(
        ["a", "b", "c"],
        go(["a", "b", "c"], 2),
        rows(["a", "b"], NOBODY, (id) => (id === "c" ? "a" : null)),
      ),
    ).toMatchObject({ at: "a", row: 0 });
  });
});

describe("what is chosen", () => {
  it("are the rows that were, not those that others put between them, nor those that went", () => {
    const ids = ["a", "b", "c", "d"];
    const range = after(ids, go(ids, 1), go(ids, 3, true));
    expect(range.chosen).toEqual(["b", "c", "d"]);
    expect(acted(range, rows(["a", "b", "x", "d", "c"])).chosen).toEqual(["b", "c", "d"]);
    expect(acted(range, rows(["a", "b", "d"], by("c"))).chosen).toEqual(["b", "d"]);
  });

  it("reaches from where it began, also where that has come to lie elsewhere", () => {
    const ids = ["a", "b", "c", "d"];
    const moved = ["x", "y", ...ids];
    expect(after(ids, go(ids, 2), rows(moved), go(moved, 5, true)).chosen).toEqual(["c", "d"]);
  });
});

describe("what is typed", () => {
  it("belongs to its cell while rows come and go above", () => {
    expect(
      after(["a", "b"], type("b", 1), { do: "text", text: "new" }, rows(["x", "y", "a", "b"])).typing,
    ).toMatchObject({ id: "b", text: "new" });
  });

  it("stays in sight where someone else took its row out, with who it was", () => {
    const lost = after(["a", "b"], type("b", 1), { do: "text", text: "new" }, rows(["a"], by("b", "Dig")));
    expect([lost.typing, lost.lost, lost.at]).toEqual([null, { text: "new", row: { name: "Dig", by: "Bo" } }, null]);
    expect(acted(lost, { do: "dismissLost" }).lost).toBeNull();
  });

  it("once refused, belongs to its cell until it is mended; to nobody's where the row goes", () => {
    const entry = { id: "b", column: "after", text: "Digg", fault: "There is no activity “Digg”." };
    const refused = after(["a", "b"], { do: "refuse", entry }, go(["a", "b"], 0), type("a", 0), {
      do: "text",
      text: "A2",
    });
    expect([refused.refused, refused.typing!.text]).toEqual([[entry], "A2"]);
    expect(acted(refused, { do: "mend", cell: { id: "b", column: "name" } }).refused).toEqual([entry]);
    expect(acted(refused, { do: "mend", cell: entry }).refused).toEqual([]);
    expect(acted(refused, rows(["a"], by("b", "Dig")))).toMatchObject({
      refused: [],
      lost: { text: "Digg" },
      typing: { text: "A2" },
    });
  });

  it("whatever others do meanwhile, a text is taken by the cell it was typed into, or is in sight", () => {
    const theirs = fc.oneof(
      fc.record({ what: fc.constant("insert" as const), at: fc.nat(20) }),
      fc.record({ what: fc.constant("remove" as const), at: fc.nat(20) }),
      fc.record({ what: fc.constant("move" as const), at: fc.nat(20), to: fc.nat(20) }),
    );
    const mine = fc.oneof(
      fc.record({ what: fc.constant("type" as const), at: fc.nat(20) }),
      fc.record({ what: fc.constant("commit" as const), at: fc.constant(0) }),
      fc.record({ what: fc.constant("extend" as const), at: fc.nat(20) }),
    );
    fc.assert(
      fc.property(fc.array(fc.oneof(theirs, mine), { maxLength: 60 }), (steps) => {
        let ids = ["r0", "r1", "r2", "r3"];
        let state = atFirst(ids);
        let n = 4;
        const gone = new Map<string, Gone>();
        /** What was typed and not taken yet: for which row. */
        let typed: { id: string; text: string } | null = null;
        let others = new Set<string>();
        for (const step of steps) {
          const at = ids.length === 0 ? 0 : step.at % ids.length;
          if (step.what === "type" && ids.length > 0) {
            typed = { id: ids[at]!, text: `text ${n}` };
            others = new Set();
            state = [type(ids[at]!, at), { do: "text", text: typed.text } as const].reduce(acted, state);
          } else if (step.what === "commit") {
            if (state.typing !== null) expect([state.typing.id, state.typing.text]).toEqual([typed!.id, typed!.text]);
            else if (typed !== null) expect([gone.has(typed.id), state.lost?.text]).toEqual([true, typed.text]);
            state = acted(acted(state, { do: "end" }), { do: "dismissLost" });
            typed = null;
          } else if (step.what === "extend" && ids.length > 0) {
            state = acted(state, go(ids, at, true));
            others = new Set();
          } else if (step.what === "insert") {
            ids = ids.toSpliced(at, 0, `r${n}`);
            others.add(`r${n++}`);
          } else if (step.what === "remove" && ids.length > 0) {
            gone.set(ids[at]!, { name: ids[at]!, by: "Bo" });
            ids = ids.toSpliced(at, 1);
          } else if (step.what === "move" && ids.length > 0) {
            const moved = ids[at]!;
            ids = ids.toSpliced(at, 1);
            ids = ids.toSpliced(step.to % (ids.length + 1), 0, moved);
          }
          state = acted(state, rows(ids, gone));
          for (const id of state.chosen) expect([ids.includes(id), others.has(id)]).toEqual([true, false]);
          if (state.at !== null) expect(ids[state.row]).toBe(state.at);
        }
      }),
      { numRuns: 2000 },
    );
  });
});

describe("the end of what is filled", () => {
  it.each([
    ["xxx.", 2],
    ["xxxx", 3],
    ["x..x", 3],
    ["x...", 3],
    ["..xx", 2],
    ["x", 0],
  ])("from the first of %s lies %i on", (cells, steps) =>
    expect(edgeOf((step) => cells[step] === "x", cells.length - 1)).toBe(steps),
  );
});
