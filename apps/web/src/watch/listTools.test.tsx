/** @jest-environment jsdom */
import type { Watchlist, WatchQuestion } from "@chronometra/contract";
import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../shared/messages/toast.ts";
import { listen, Refusal, show } from "../testing/fakePage.tsx";
import { ListTools } from "./ListTools.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const QUESTION: WatchQuestion = {
  about: "activities",
  where: [],
  columns: ["name"],
  sort: [],
  group: null,
  pivot: null,
};
const watchlist = (mine: boolean): Watchlist => ({
  id: "late",
  name: "Late divers",
  question: QUESTION,
  roles: ["projectManager"],
  owner: "Cora",
  mine,
  ready: false,
});
const tools = (of: Watchlist | null, { changed = false, onKeep = () => undefined }: Partial<Tools> = {}) =>
  show(
    <ListTools
      watchlist={of}
      name={of?.name ?? "A new question"}
      question={QUESTION}
      changed={changed}
      onKeep={onKeep}
    />,
    { at: "/watch/late" },
  );
interface Tools {
  changed: boolean;
  onKeep: (as: "new" | "own") => void;
}
const names = () => screen.getAllByRole("button").map((button) => button.textContent?.trim());
const press = (name: string | RegExp) => userEvent.click(screen.getByRole("button", { name }));
/** The undo that came with the last message. */
const undo = () =>
  (jest.mocked(toast).mock.lastCall![1] as unknown as { action: { label: string; onClick: () => void } }).action;

beforeEach(() => jest.clearAllMocks());

describe("what is done with a question as it stands", () => {
  it("a new one is kept under a name; there is nothing to remove, and no address for calendars yet", () => {
    tools(null);
    expect(names()).toEqual(expect.arrayContaining(["Save as …", "Link"]));
    for (const missing of ["Remove", "In a calendar", "Save the change", "Name and sharing"])
      expect(names()).not.toContain(missing);
  });

  it("somebody else's is kept as one's own and taken into a calendar, never changed or removed", () => {
    tools(watchlist(false), { changed: true });
    expect(names()).toEqual(expect.arrayContaining(["Save as …", "In a calendar"]));
    for (const missing of ["Remove", "Save the change", "Name and sharing"]) expect(names()).not.toContain(missing);
  });

  it("one's own is renamed while it is as it was kept, and its change saved where it is not", async () => {
    const onKeep = jest.fn();
    tools(watchlist(true), { onKeep });
    await press("Name and sharing");
    expect(names()).not.toContain("Save the change");
    await press(/Save as/);
    expect(onKeep.mock.calls).toEqual([["own"], ["new"]]);
  });

  it("saving a change is asked of what is one's own", async () => {
    const onKeep = jest.fn();
    tools(watchlist(true), { changed: true, onKeep });
    expect(names()).not.toContain("Name and sharing");
    await press(/Save the change/);
    expect(onKeep).toHaveBeenCalledWith("own");
  });
});

describe("removing a watchlist", () => {
  it("goes back to all of them, and is undone with its name, question and those who find it", async () => {
    const sent = listen(() => ({ ok: true }));
    tools(watchlist(true));
    await press("Remove");
    await waitFor(() => expect(toast).toHaveBeenCalledWith("“Late divers” is removed.", expect.anything()));
    await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/watch"));
    undo().onClick();
    await waitFor(() =>
      expect(sent.find(({ to }) => to === "POST /api/watchlists")?.body).toEqual({
        name: "Late divers",
        question: QUESTION,
        roles: ["projectManager"],
      }),
    );
  });

  it("that is refused says why and stays where it is", async () => {
    listen(() => new Refusal("It is somebody else's by now."));
    tools(watchlist(true));
    await press("Remove");
    await waitFor(() => expect(toast.error).toHaveBeenCalledWith("It is somebody else's by now."));
    expect(screen.getByLabelText("address").textContent).toBe("/watch/late");
  });

  it("an undo that is refused says why", async () => {
    listen(({ to }) => (to.startsWith("POST") ? new Refusal("There is a watchlist of that name.") : { ok: true }));
    tools(watchlist(true));
    await press("Remove");
    await waitFor(() => expect(toast).toHaveBeenCalled());
    undo().onClick();
    await waitFor(() => expect(toast.error).toHaveBeenCalledWith("There is a watchlist of that name."));
  });
});

describe("the link to a question", () => {
  it("is copied, or it is said that the browser did not allow it", async () => {
    listen(() => ({}));
    const user = userEvent.setup();
    tools(watchlist(true));
    await user.click(screen.getByRole("button", { name: "Link" }));
    await waitFor(() => expect(toast).toHaveBeenCalledWith(expect.stringContaining("is copied")));
    expect(await navigator.clipboard.readText()).toBe(window.location.href);
    jest.spyOn(navigator.clipboard, "writeText").mockRejectedValue(new Error("no"));
    await user.click(screen.getByRole("button", { name: "Link" }));
    await waitFor(() => expect(toast.error).toHaveBeenCalledWith(expect.stringContaining("did not allow copying")));
  });
});
