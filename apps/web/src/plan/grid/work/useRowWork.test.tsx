/** @jest-environment jsdom */
import { computePlan, copyBranches, fromBundle, type Change } from "@chronometra/core";
import { act, renderHook } from "@testing-library/react";
import type { ClipboardEvent } from "react";
import { toast } from "../../../shared/messages/toast.ts";
import type { Removal } from "../../engine/engine.ts";
import { layOutSheet } from "../../engine/layOutSheet.ts";
import type { PlanSession } from "../../engine/session/planSession.ts";
import { slipway } from "../../testing/plans.ts";
import { SHEET_COLUMNS } from "../columns/sheetColumns.ts";
import type { Block } from "./blocks.ts";
import { useRowWork } from "./useRowWork.ts";

jest.mock("../../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const bundle = slipway();
const plan = fromBundle(bundle);
const { rows } = layOutSheet(plan, bundle, computePlan(bundle));
const READING = { today: "2026-11-24", people: [], calendars: [], minorDigits: 2 };
const columns = ["name", "length", "after"].map((id) => SHEET_COLUMNS.find((column) => column.id === id)!);
const block = (ids: readonly string[], left = 0, right = left): Block => ({
  rows: rows.filter(({ id }) => ids.includes(id)),
  left,
  right,
});
const REMOVE_DIG: Change[] = [{ type: "removeRow", table: "activities", key: "dig" }];

/** A session that notes what it is asked for, and answers that nothing stands against it. */
function session(answers: Partial<Record<keyof PlanSession, unknown>> = {}) {
  const asked: unknown[] = [];
  const noting =
    (name: keyof PlanSession, answer: unknown) =>
    (...args: unknown[]) => {
      asked.push([name, ...args]);
      return Promise.resolve(name in answers ? answers[name] : answer);
    };
  const fake = {
    arrange: noting("arrange", null),
    change: noting("change", null),
    changeBlock: noting("changeBlock", null),
    copy: noting("copy", copyBranches(plan, ["dig"])),
    paste: noting("paste", null),
    undo: noting("undo", undefined),
    removal: noting("removal", { only: REMOVE_DIG, across: REMOVE_DIG, chains: [], links: 0 }),
  };
  return { asked, session: fake as unknown as PlanSession };
}

function doing({ mayEdit = true, answers = {} as Parameters<typeof session>[0] } = {}) {
  const fake = session(answers);
  const folds: unknown[] = [];
  const grid = {
    hold: async <T,>(work: () => Promise<T>, then?: (result: T) => void) => {
      const result = await work();
      then?.(result);
      return result;
    },
    whenIdle: (work: () => unknown) => Promise.resolve(work()),
    begin: jest.fn(),
    removing: jest.fn(),
    forgetDelete: jest.fn(),
    endTyping: jest.fn(),
  };
  const { result } = renderHook(() =>
    useRowWork({
      rows,
      columns,
      reading: READING,
      session: fake.session,
      mayEdit,
      folded: new Set(),
      onFold: (id, open) => folds.push([id, open]),
      grid: { current: grid as never },
    }),
  );
  const press = async (key: string, of: Block, held: "ctrl" | "alt" | "none" = "none"): Promise<boolean> => {
    let taken = false;
    await act(async () => {
      const keys = { altKey: held === "alt", ctrlKey: held === "ctrl", metaKey: false, shiftKey: false };
      taken = result.current.onCommand({ key, ...keys } as never, of);
    });
    return taken;
  };
  return { ...fake, folds, grid, result, press };
}

/** A clipboard's event over a cell, or over the field in one. */
function clipboard(type: string, texts: Record<string, string> = {}, inField = false) {
  const data = new Map(Object.entries(texts));
  return {
    data,
    event: {
      type,
      target: document.createElement(inField ? "input" : "div"),
      preventDefault: jest.fn(),
      clipboardData: {
        getData: (kind: string) => data.get(kind) ?? "",
        setData: (kind: string, text: string) => void data.set(kind, text),
      },
    } as unknown as ClipboardEvent,
  };
}

beforeEach(() => jest.clearAllMocks());

describe("keys over rows", () => {
  it.each([
    [".", "alt", ["arrange", { verb: "indent", ids: ["pour"] }]],
    ["ArrowUp", "alt", ["arrange", { verb: "up", ids: ["pour"] }]],
    ["Delete", "ctrl", ["removal", ["pour"]]],
  ] as const)("%s with %s", async (key, held, wanted) => {
    const { asked, press } = doing();
    expect(await press(key, block(["pour"]), held)).toBe(true);
    expect(asked[0]).toEqual(wanted);
  });

  it("empty cells, fill them from the first, and begin a row after the last", async () => {
    const { asked, press, grid } = doing();
    await press("Delete", block(["pour", "dig"], 1));
    expect(asked.pop()).toEqual(["changeBlock", { changes: expect.any(Array), asked: [] }]);
    await press("d", block(["pour", "dig"], 1), "ctrl");
    expect(asked.pop()).toEqual([
      "changeBlock",
      { changes: [{ type: "setDuration", activity: "dig", minutes: 1440 }], asked: [] },
    ]);
    await press("Enter", block(["dig"]), "ctrl");
    expect(asked.pop()).toEqual(["arrange", expect.objectContaining({ verb: "insert", after: "dig", inside: false })]);
    expect(grid.begin).toHaveBeenCalledWith(expect.any(String), 0, undefined, false);
  });

  it("fold for whoever only looks, and change nothing for them", async () => {
    const { asked, folds, press } = doing({ mayEdit: false });
    expect(await press("ArrowLeft", block(["works"]), "alt")).toBe(true);
    expect(await press("Delete", block(["works"]), "ctrl")).toBe(false);
    expect([asked, folds]).toEqual([[], [["works", false]]]);
  });
});

describe("removing", () => {
  const chained: Removal = {
    only: REMOVE_DIG,
    across: [...REMOVE_DIG, { type: "removeRow", table: "links", key: "1" }],
    chains: [{}],
    links: 2,
  } as unknown as Removal;

  it("asks where chains of links lead through, removes nothing for whoever thinks better of it, and says what went", async () => {
    const { asked, press, result } = doing({ answers: { removal: chained } });
    await press("Delete", block(["dig"]), "ctrl");
    expect(result.current.asked).toBe(chained);
    await act(async () => result.current.decide(null));
    expect([result.current.asked, asked.length]).toEqual([null, 1]);
    await press("Delete", block(["dig"]), "ctrl");
    await act(async () => result.current.decide(chained.only));
    expect(asked.at(-1)).toEqual(["change", chained.only]);
    expect(toast).toHaveBeenCalledWith("1 row removed, and 2 links to others with it.", expect.anything());
  });

  it("tells what stands against it, and that nothing was changed", async () => {
    const problems = [{ row: "Dig", message: "has posted time" }];
    const { press } = doing({ answers: { change: problems } });
    await press("Delete", block(["dig"]), "ctrl");
    expect(toast.error).toHaveBeenCalledWith("Dig: has posted time\nNothing was changed.", expect.anything());
  });
});

describe("the clipboard", () => {
  it("holds texts as they would be typed; of whole rows all that they have besides, for any page", async () => {
    const { result, asked } = doing();
    const { data, event } = clipboard("copy");
    await act(async () => result.current.onCopy(event, block(["dig"], 0, 1), true));
    expect(data.get("text/plain")).toBe("Dig\t5d");
    expect(asked).toEqual([["copy", ["dig"]]]);
    const pasted = clipboard("paste", Object.fromEntries(data));
    await act(async () => result.current.onPaste(pasted.event, () => block(["pour"])));
    expect(asked.at(-1)).toEqual(["paste", expect.objectContaining({ activities: expect.any(Array) }), "pour", false]);
  });

  it("one value goes into every chosen cell, several from the first on", async () => {
    const { result, asked } = doing();
    const paste = (text: string, of: Block) =>
      act(async () => result.current.onPaste(clipboard("paste", { "text/plain": text }).event, () => of));
    await paste("2d\n", block(["pour", "dig"], 1));
    expect(asked.pop()).toEqual([
      "changeBlock",
      {
        changes: [
          { type: "setDuration", activity: "pour", minutes: 960 },
          { type: "setDuration", activity: "dig", minutes: 960 },
        ],
        asked: [],
      },
    ]);
    await paste("Slab\t3d\nTrench\t4d", block(["pour"]));
    expect(asked.pop()).toEqual([
      "changeBlock",
      {
        changes: [
          { type: "setName", activity: "pour", name: "Slab" },
          { type: "setName", activity: "dig", name: "Trench" },
          { type: "setDuration", activity: "dig", minutes: 1920 },
        ],
        asked: [],
      },
    ]);
  });

  it("what fits into a field is the field's; rows that are gone are told of; nobody pastes who may not", async () => {
    const { result, asked } = doing();
    const inField = clipboard("paste", { "text/plain": "Slab" }, true);
    result.current.onPaste(inField.event, () => block(["pour"]));
    expect(inField.event.preventDefault).not.toHaveBeenCalled();
    const gone = clipboard("paste", { "application/x-chronometra-rows": "another" });
    await act(async () => result.current.onPaste(gone.event, () => block(["pour"])));
    expect(toast.error).toHaveBeenCalledWith(expect.stringMatching(/copy them again/), expect.anything());
    const reader = doing({ mayEdit: false });
    reader.result.current.onPaste(clipboard("paste", { "text/plain": "x" }).event, () => block(["pour"]));
    reader.result.current.onCut(clipboard("cut").event, block(["pour"]), true);
    expect([asked, reader.asked]).toEqual([[], []]);
  });

  it("cutting cells empties them; cutting rows takes them out once they are kept", async () => {
    const { result, asked } = doing();
    await act(async () => result.current.onCut(clipboard("cut").event, block(["pour"], 1), false));
    expect(asked.map((each) => (each as [string])[0])).toEqual(["changeBlock"]);
    await act(async () => result.current.onCut(clipboard("cut").event, block(["pour"], 0, 2), true));
    expect(asked.slice(1)).toEqual([
      ["copy", ["pour"]],
      ["arrange", { verb: "remove", ids: ["pour"] }],
    ]);
  });
});
