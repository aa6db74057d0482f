/** @jest-environment jsdom */
import { act, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { BrowserRouter } from "react-router";
import type { DrawnTest } from "../engine/planEngine.ts";
import type { PlanSession } from "../engine/session/planSession.ts";
import type { Sheet } from "../engine/sheet.ts";
import { useChartLook } from "./useChartLook.ts";

const ROWS = [
  { id: "dig", name: "Dig", dates: { longestPath: true }, values: { zone: "North" } },
  { id: "pour", name: "Pour", dates: { longestPath: false }, values: { zone: "South" } },
  { id: "later", name: "Later", dates: null, values: {} },
];
const SHEET = {
  rows: ROWS,
  baseline: 2,
  baselines: [1, 2],
  fields: [{ id: "zone", name: "Zone", type: "choice", choices: ["North", "South"] }],
} as unknown as Sheet;

function look(search: string, session: Partial<Record<"compareWith" | "chainOf" | "pathTest", unknown>> = {}) {
  window.history.replaceState(null, "", `/plan${search}`);
  const of = {
    compareWith: jest.fn(async () => undefined),
    chainOf: jest.fn(async (id: string) => [id, "pour"]),
    pathTest: jest.fn(async (): Promise<DrawnTest> => new Promise(() => undefined)),
    ...session,
  };
  const wrapper = ({ children }: { children: ReactNode }) => <BrowserRouter>{children}</BrowserRouter>;
  const { result } = renderHook(() => useChartLook(SHEET, of as unknown as PlanSession), { wrapper });
  return { of, now: () => result.current };
}
const address = () => window.location.search;

describe("what the chart shows", () => {
  it("is the newest baseline and nothing lit where the address says nothing", () => {
    const { now, of } = look("");
    expect(now()).toMatchObject({ baseline: "2", lit: "", litName: null, colour: "" });
    expect(now().look).toEqual({ withApproved: true, colouring: null, lit: null, ghosts: null });
    expect(of.compareWith).not.toHaveBeenCalled();
  });

  it("is the baseline that the address names, where there is one of that number", () => {
    expect(look("?baseline=1").of.compareWith).toHaveBeenCalledWith(1);
    expect(look("?baseline=7").of.compareWith).not.toHaveBeenCalled();
    expect(look("?baseline=none").now()).toMatchObject({ baseline: "none", look: { withApproved: false } });
  });

  it("lights the longest path, or what an activity hangs on and leads to", async () => {
    expect([...look("?lit=longest").now().look.lit!]).toEqual(["dig"]);
    const { now } = look("?lit=dig");
    expect(now().litName).toBe("Dig");
    await waitFor(() => expect([...now().look.lit!]).toEqual(["dig", "pour"]));
  });

  it("draws the critical path test where it would lie, once it has been run", async () => {
    const ghosts = new Map([["pour", { start: 1, finish: 2 }]]);
    const drawn = { activity: "dig", addedDays: 600, movedDays: 600, ghosts } as unknown as DrawnTest;
    const { now } = look("?lit=test", { pathTest: async () => drawn });
    expect(now().look.lit).toBeNull();
    await waitFor(() => expect(now().test).toBe(drawn));
    expect([...now().look.lit!]).toEqual(["pour"]);
    expect(now().look.ghosts).toBe(ghosts);
  });

  it("is coloured by a field that there is", () => {
    expect(look("?colour=zone").now()).toMatchObject({
      colour: "zone",
      look: { colouring: { field: { id: "zone" } } },
    });
    expect(look("?colour=gone").now()).toMatchObject({ colour: "", look: { colouring: null } });
  });

  it("is not what was asked for before where the answer comes late", async () => {
    const answers = new Map<string, (ids: string[]) => void>();
    const { now } = look("?lit=dig", {
      chainOf: (id: string) => new Promise<string[]>((resolve) => answers.set(id, resolve)),
    });
    act(() => now().light("pour"));
    await waitFor(() => expect(answers.has("pour")).toBe(true));
    await act(async () => answers.get("pour")!(["pour"]));
    await act(async () => answers.get("dig")!(["dig", "later"]));
    expect([...now().look.lit!]).toEqual(["pour"]);
  });
});

describe("what is chosen", () => {
  it("stands in the address, so that a link leads to the same picture", () => {
    const { now } = look("?about=dates");
    act(() => now().compareWith("1"));
    act(() => now().light("longest"));
    act(() => now().colourBy("zone"));
    expect(address()).toBe("?about=dates&baseline=1&lit=longest&colour=zone");
  });

  it("is left out where it is what is shown anyway", () => {
    const { now } = look("?baseline=1&lit=dig&colour=zone");
    act(() => now().compareWith("2"));
    act(() => now().light(""));
    act(() => now().colourBy(""));
    expect(address()).toBe("");
  });
});
