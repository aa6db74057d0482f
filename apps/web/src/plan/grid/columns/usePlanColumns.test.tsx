/** @jest-environment jsdom */
import { act, renderHook } from "@testing-library/react";
import { preference, takePreferences } from "../../../shared/session/preferences.ts";
import { listen } from "../../../testing/fakePage.tsx";
import { SHEET_COLUMNS } from "./sheetColumns.ts";
import { usePlanColumns } from "./usePlanColumns.ts";

const EVERY = SHEET_COLUMNS.map(({ id }) => id);

function columns(kept: object | string | null = null, besides: string | null = null) {
  listen(() => ({ ok: true }));
  const text = typeof kept === "string" ? kept : JSON.stringify(kept);
  takePreferences(kept === null ? {} : { "plan.columns": text }, "me");
  const { result } = renderHook(() => usePlanColumns([], "parked", besides));
  return {
    shown: () => result.current.columns.map(({ id }) => id),
    all: () => result.current.all.map(({ id }) => id),
    width: (id: string) => result.current.columns.find((column) => column.id === id)!.width,
    does: (what: (of: ReturnType<typeof usePlanColumns>) => void) => act(() => what(result.current)),
  };
}
const kept = () => JSON.parse(preference("plan.columns") ?? "null") as { order: string[]; hidden: string[] } | null;

describe("the columns of a plan", () => {
  it("are all there at first but for those that few need", () => {
    const { shown, all } = columns();
    expect(all()).toEqual(EVERY);
    expect(shown()).not.toContain("began");
    expect(shown()[0]).toBe("name");
  });

  it("are put away and brought back, and that is kept", () => {
    const { shown, does } = columns();
    does((of) => of.choose("length", false));
    expect(shown()).not.toContain("length");
    expect(kept()!.hidden).toContain("length");
    does((of) => of.choose("began", true));
    expect(shown()).toContain("began");
  });

  it("stay as someone left them, whichever plan it is", () => {
    const last = EVERY.at(-1)!;
    const { shown, width } = columns({ order: ["name", last, "length"], hidden: ["done"], widths: { length: 120 } });
    expect(shown().slice(0, 3)).toEqual(["name", last, "length"]);
    expect(shown()).not.toContain("done");
    expect(width("length")).toBe(120);
  });

  it("are as at first where what was kept cannot be read", () => {
    for (const broken of ["{", "[]", { order: "name" }]) expect(columns(broken).all()).toEqual(EVERY);
  });

  it("show one besides without keeping it as chosen", () => {
    const { shown, does } = columns(null, "began");
    expect(shown()).toContain("began");
    does((of) => of.resize("name", 300));
    expect(kept()!.hidden).toContain("began");
  });
});

describe("the place of a column", () => {
  it("moves by steps, never before the name nor beyond the end", () => {
    const { all, does } = columns();
    does((of) => of.move("length", 1));
    expect(all().slice(0, 3)).toEqual(["name", EVERY[2], "length"]);
    does((of) => of.move("length", -1));
    expect(all()).toEqual(EVERY);
    for (const [id, step] of [
      ["length", -1],
      ["name", 1],
      [EVERY.at(-1)!, 1],
    ] as const) {
      does((of) => of.move(id, step));
      expect(all()).toEqual(EVERY);
    }
  });

  it("is before another column, or right behind the name where that is asked for", () => {
    const { all, does } = columns();
    const last = EVERY.at(-1)!;
    does((of) => of.moveBefore(last, "length"));
    expect(all().slice(0, 3)).toEqual(["name", last, "length"]);
    does((of) => of.moveBefore("done", "name"));
    expect(all().slice(0, 2)).toEqual(["name", "done"]);
  });
});

describe("the width of a column", () => {
  it("keeps within what can be read and what fits, in whole pixels", () => {
    const { width, does } = columns();
    for (const [wanted, got] of [
      [10, 36],
      [2000, 900],
      [101.6, 102],
    ] as const) {
      does((of) => of.resize("length", wanted));
      expect(width("length")).toBe(got);
    }
  });

  it("is as at first again with all else", () => {
    const { width, shown, does } = columns();
    const before = width("length");
    does((of) => of.resize("length", 300));
    does((of) => of.choose("done", false));
    does((of) => of.asAtFirst());
    expect(width("length")).toBe(before);
    expect(shown()).toContain("done");
    expect(kept()).toBeNull();
  });
});
