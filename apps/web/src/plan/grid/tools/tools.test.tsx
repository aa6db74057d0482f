/** @jest-environment jsdom */
import type { Change } from "@chronometra/core";
import { act, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useRef, useSyncExternalStore } from "react";
import { toast } from "../../../shared/messages/toast.ts";
import { show } from "../../../testing/fakePage.tsx";
import { stage } from "../../testing/stage.ts";
import type { Active } from "../PlanSheet.tsx";
import { RowTools } from "./RowTools.tsx";
import { WaysTool } from "./WaysTool.tsx";

jest.mock("../../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const arranged = jest.fn();
/** The tools above a plan's table, with these rows chosen in it. */
function Tools({ ids }: { ids: readonly string[] }) {
  const { session } = stage;
  const { sheet } = useSyncExternalStore(session.subscribe, session.snapshot);
  const row = sheet?.rows.find(({ id }) => id === ids[0]) ?? null;
  const work = { topIdsIn: () => [...ids], idsIn: () => [...ids], arrange: arranged, add: arranged, remove: arranged };
  const current = useRef<Active | null>(null);
  current.current = { row, block: {}, work } as unknown as Active;
  return (
    <>
      <RowTools current={current} parked={row?.parked === true} session={session} />
      <WaysTool current={current} sheet={sheet!} session={session} row={row} />
    </>
  );
}
async function open(ids: readonly string[], changes: readonly Change[] = []): Promise<void> {
  if (changes.length > 0)
    await act(async () => {
      await stage.session.change(changes);
      await stage.settled();
    });
  show(<Tools ids={ids} />);
}
const press = (name: string | RegExp) => userEvent.click(screen.getByRole("button", { name }));
const stored = async () => {
  await act(() => stage.settled());
  return stage.server.plan;
};
const parked = async (id: string) => (await stored()).activities.get(id)!.parked === true;
const PARK = /^Park: /;

describe("parking what is chosen", () => {
  it("parks at once what no chain leads through, and wakes it again", async () => {
    await open(["paint"]);
    await press(PARK);
    await waitFor(async () => expect(await parked("paint")).toBe(true));
    expect(screen.queryByRole("dialog")).toBeNull();
    await press(/^Wake: /);
    await waitFor(async () => expect(await parked("paint")).toBe(false));
  });

  it("asks where a chain would break, and carries its logic across", async () => {
    await open(["pour"]);
    await press(PARK);
    const asked = within(await screen.findByRole("dialog", { name: "Parking breaks chains of links" }));
    expect(
      within(asked.getByRole("list", { name: "Chains that would break" })).getByText("Dig → Pour → Open"),
    ).toBeTruthy();
    await waitFor(() => expect(asked.queryByText("Calculating …")).toBeNull());
    await userEvent.click(asked.getByRole("button", { name: "Carry the logic across" }));
    await waitFor(async () => expect(await parked("pour")).toBe(true));
    expect([...(await stored()).links.values()].some(({ from, to }) => from === "dig" && to === "open")).toBe(true);
    expect(screen.queryByRole("dialog")).toBeNull();
  });

  it("parks alone where that is chosen, and leaves all as it was where nothing is", async () => {
    await open(["pour"]);
    await press(PARK);
    await screen.findByRole("dialog");
    await userEvent.click(screen.getByRole("button", { name: /Close/ }));
    expect(screen.queryByRole("dialog")).toBeNull();
    expect(await parked("pour")).toBe(false);
    await press(PARK);
    await userEvent.click(await screen.findByRole("button", { name: "Only park" }));
    await waitFor(async () => expect(await parked("pour")).toBe(true));
    expect([...(await stored()).links.values()].some(({ from, to }) => from === "dig" && to === "open")).toBe(false);
  });

  it("says what stands against it", async () => {
    await open(
      ["dig"],
      [
        { type: "setDataDate", date: "2026-03-06" },
        { type: "reportProgress", activity: "dig", actualStart: "2026-03-02", percent: 20 },
      ],
    );
    await press(PARK);
    const only = await screen.findByRole("button", { name: "Only park" }).catch(() => null);
    if (only !== null) await userEvent.click(only);
    await waitFor(() =>
      expect(toast.error).toHaveBeenCalledWith(expect.stringMatching(/^Dig: is parked but has actual dates/)),
    );
    expect(await parked("dig")).toBe(false);
  });
});

describe("ways of one step", () => {
  it("need two rows", async () => {
    await open(["pour"]);
    await press("Make the selected rows alternates");
    expect(toast).toHaveBeenCalledWith(expect.stringMatching(/^Select two or more rows/));
    expect((await stored()).alternates.size).toBe(0);
  });

  it("are compared without being switched, and another is made the live one", async () => {
    await open(["pour", "paint"]);
    await press("Make the selected rows alternates");
    await waitFor(async () => expect((await stored()).alternates.size).toBe(1));
    expect([await parked("pour"), await parked("paint")]).toEqual([false, true]);
    await press("Ways to do Pour");
    const ways = within(await screen.findByRole("dialog", { name: "Ways to do: Pour" }));
    const row = async (name: string) => within((await ways.findByText(name, { selector: "td" })).closest("tr")!);
    expect((await row("Pour")).getByText("✓ live")).toBeTruthy();
    await userEvent.click((await row("Paint")).getByRole("button", { name: "Make Paint live" }));
    await waitFor(async () => expect([await parked("pour"), await parked("paint")]).toEqual([true, false]));
    await waitFor(async () => expect((await row("Paint")).getByText("✓ live")).toBeTruthy());
  });

  it("are no alternates any more, each as it stands", async () => {
    await open(["pour", "paint"]);
    await press("Make the selected rows alternates");
    await waitFor(async () => expect((await stored()).alternates.size).toBe(1));
    await press("Ways to do Pour");
    await userEvent.click(await screen.findByRole("button", { name: "They are no alternates any more" }));
    await waitFor(async () => expect((await stored()).alternates.size).toBe(0));
    expect(await parked("paint")).toBe(true);
    expect(screen.queryByRole("dialog")).toBeNull();
  });
});
