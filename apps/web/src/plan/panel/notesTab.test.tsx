/** @jest-environment jsdom */
import type { Change } from "@chronometra/core";
import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { show } from "../../testing/fakePage.tsx";
import type { SheetRow } from "../engine/sheet.ts";
import { NotesTab } from "./NotesTab.tsx";

jest.mock("../../documents/DocumentList.tsx", () => ({ DocumentList: () => <p>documents</p> }));

const ROW = { id: "dig", name: "Dig" } as SheetRow;
const NOTE = {
  priority: "low",
  checks: [
    { id: "a", text: "Permit", done: true },
    { id: "b", text: "Crane" },
  ],
} as const;
const open = (note: object = NOTE, mayEdit = true, answer: string | null = null) => {
  const sent: Change[] = [];
  const commit = (changes: readonly Change[]): Promise<string | null> => {
    sent.push(...changes);
    return Promise.resolve(answer);
  };
  show(<NotesTab row={ROW} note={note} commit={commit} mayEdit={mayEdit} />);
  return sent;
};
const edits = (set: object) => ({ type: "editRow", table: "notes", key: "dig", set });

describe("the notes of an activity", () => {
  it("begin with whatever is written first", async () => {
    const sent = open({});
    await userEvent.type(screen.getByLabelText("Description"), "Dig to the clay");
    await userEvent.tab();
    await waitFor(() =>
      expect(sent).toEqual([{ type: "addRow", table: "notes", key: "dig", row: { description: "Dig to the clay" } }]),
    );
  });

  it("have a list of which lines are ticked, written anew, added and taken away", async () => {
    const sent = open();
    expect(screen.getByText("1 of 2 done")).toBeTruthy();
    await userEvent.click(screen.getByRole("checkbox", { name: "Done: Permit" }));
    await userEvent.click(screen.getByRole("button", { name: "Remove Crane" }));
    await userEvent.type(screen.getByLabelText("Add to the check-list"), "Tide table{Enter}");
    await waitFor(() => expect(sent).toHaveLength(3));
    expect(sent.slice(0, 2)).toEqual([
      edits({
        checks: [
          { id: "a", text: "Permit" },
          { id: "b", text: "Crane" },
        ],
      }),
      edits({ checks: [NOTE.checks[0]] }),
    ]);
    expect(sent[2]).toMatchObject(edits({ checks: [...NOTE.checks, { text: "Tide table" }] }));
    await userEvent.selectOptions(screen.getByLabelText("Priority"), "high");
    await waitFor(() => expect(sent[3]).toEqual(edits({ priority: "high" })));
  });

  it("that cannot be stored stay as typed, with why", async () => {
    open({}, true, "the plan was locked");
    await userEvent.type(screen.getByLabelText("Description"), "Deep");
    await userEvent.tab();
    expect((await screen.findByRole("alert")).textContent).toContain("the plan was locked");
    expect(screen.getByLabelText<HTMLTextAreaElement>("Description").value).toBe("Deep");
  });

  it("are read alone by whoever may not change the plan", () => {
    open(NOTE, false);
    expect(screen.getByRole<HTMLInputElement>("checkbox", { name: "Done: Permit" }).disabled).toBe(true);
    expect(screen.queryByLabelText("Add to the check-list")).toBeNull();
  });
});
