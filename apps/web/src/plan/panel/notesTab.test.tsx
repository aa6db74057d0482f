/** @jest-environment jsdom */
import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useSyncExternalStore } from "react";
import type { ActivityNote } from "@chronometra/core";
import { show } from "../../testing/fakePage.tsx";
import { stage } from "../testing/stage.ts";
import { AboutPanel } from "./AboutPanel.tsx";

jest.mock("../../documents/DocumentList.tsx", () => ({ DocumentList: () => <p>documents</p> }));

function Panel({ mayEdit }: { mayEdit: boolean }) {
  const { session } = stage;
  const { sheet } = useSyncExternalStore(session.subscribe, session.snapshot);
  return (
    <AboutPanel
      {...{ tab: "notes", onTab: () => undefined, sheet: sheet!, session, mayEdit, takesKeyboard: false }}
      row={sheet?.rows.find((row) => row.id === "dig") ?? null}
      onGo={() => undefined}
      column={null}
      onClose={() => undefined}
    />
  );
}
const NOTE: ActivityNote = {
  priority: "low",
  checks: [
    { id: "a", text: "Permit", done: true },
    { id: "b", text: "Crane" },
    { id: "c", text: "Tide" },
  ],
};
const open = async (note: ActivityNote | null = NOTE, mayEdit = true): Promise<void> => {
  if (note !== null)
    await act(async () => {
      await stage.session.change([{ type: "addRow", table: "notes", key: "dig", row: note }]);
      await stage.settled();
    });
  show(<Panel mayEdit={mayEdit} />);
  await screen.findByLabelText("Description");
};
/** What the server has by now. */
const stored = async (): Promise<ActivityNote | undefined> => {
  await act(() => stage.settled());
  return stage.server.plan.notes.get("dig");
};
const done = async (): Promise<string[]> =>
  ((await stored())?.checks ?? []).filter((check) => check.done === true).map(({ id }) => id);

describe("the notes of an activity", () => {
  it("begin with whatever is written first, and are undone", async () => {
    await open(null);
    await userEvent.type(screen.getByLabelText("Description"), "Dig to the clay");
    await userEvent.tab();
    await waitFor(async () => expect(await stored()).toEqual({ description: "Dig to the clay" }));
    await act(() => stage.session.undo());
    await waitFor(async () => expect(await stored()).toBeUndefined());
  });

  it("have a list of which lines are ticked, written anew, added and taken away", async () => {
    await open();
    expect(await screen.findByText("1 of 3 done")).toBeTruthy();
    await userEvent.click(screen.getByRole("checkbox", { name: "Done: Permit" }));
    await waitFor(async () => expect(await done()).toEqual([]));
    await userEvent.click(screen.getByRole("button", { name: "Remove Crane" }));
    await userEvent.type(screen.getByLabelText("Add to the check-list"), "Barge{Enter}");
    await waitFor(async () =>
      expect((await stored())!.checks!.map(({ text }) => text)).toEqual(["Permit", "Tide", "Barge"]),
    );
    await userEvent.selectOptions(screen.getByLabelText("Priority"), "high");
    await waitFor(async () => expect((await stored())!.priority).toBe("high"));
  });

  it("lose nothing of what is ticked at once", async () => {
    await open();
    fireEvent.click(await screen.findByRole("checkbox", { name: "Done: Crane" }));
    fireEvent.click(screen.getByRole("checkbox", { name: "Done: Tide" }));
    await waitFor(async () => expect(await done()).toEqual(["a", "b", "c"]));
  });

  it("are gone once nothing is said any more", async () => {
    await open({ description: "Deep" });
    await userEvent.clear(screen.getByLabelText("Description"));
    await userEvent.tab();
    await waitFor(async () => expect(await stored()).toBeUndefined());
  });

  it("are read alone by whoever may not change the plan", async () => {
    await open(NOTE, false);
    expect((await screen.findByRole<HTMLInputElement>("checkbox", { name: "Done: Permit" })).disabled).toBe(true);
    expect(screen.queryByLabelText("Add to the check-list")).toBeNull();
  });
});
