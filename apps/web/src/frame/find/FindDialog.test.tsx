/** @jest-environment jsdom */
import type { Found, Me } from "@chronometra/contract";
import { onlineManager } from "@tanstack/react-query";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, Refusal, show } from "../../testing/fakePage.tsx";
import { FindDialog } from "./FindDialog.tsx";

jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const CORA: Me = { id: "1", name: "Cora", login: "cora", roles: ["controller"], person: null, timeZone: "UTC" };
const ANN: Me = { id: "2", name: "Ann", login: "ann", roles: ["contributor"], person: "ann", timeZone: "UTC" };
const NOTHING: Found = {
  readAs: [],
  projects: [],
  activities: [],
  people: [],
  watchlists: [],
  groups: [],
  risks: [],
  matters: [],
  periods: [],
};
const DREDGE: Found["activities"][number] = {
  id: "dig",
  name: "Dredge the berth",
  project: "p1",
  code: "QU-07",
  branch: "Works",
  kind: "work",
  state: "notStarted",
  finish: "2026-03-11",
};

beforeAll(() => {
  // Nothing has a place on a page that is not laid out.
  Object.defineProperty(HTMLElement.prototype, "offsetParent", { get: () => document.body, configurable: true });
});

const asked: string[] = [];
/** A server that finds what it is given, or says why it cannot. */
function answerWith(answer: (text: string) => Found | string): void {
  asked.length = 0;
  listen(({ to, body }) => {
    if (to.endsWith("/following")) return [];
    if (!to.endsWith("/find")) return { ok: true };
    const { text } = body as { text: string };
    asked.push(text);
    const said = answer(text);
    return typeof said === "string" ? new Refusal(said, 500, "internal") : said;
  });
}

const closed = jest.fn();
const pressed = jest.fn();
/** The page that stands there while something is looked for. */
const page = document.createElement("main");
page.id = "content";

function open(me: Me): void {
  closed.mockClear();
  page.innerHTML = `<button>Fold the log</button><button disabled>Never now</button>
    <table><tr><td><button>say</button></td></tr></table>
    <details><summary>Export</summary><ul><li><a download href="x">Workbook (.xlsx)</a></li></ul></details>`;
  page.querySelector("button")!.addEventListener("click", pressed);
  document.body.append(page);
  show(<FindDialog onClose={closed} />, { me });
}
const options = (): string[] => screen.queryAllByRole("option").map(({ textContent }) => textContent);

describe("finding anything", () => {
  it("lists at first what the page in hand does, without what is disabled or belongs to a row", () => {
    answerWith(() => NOTHING);
    open(CORA);
    expect(options()).toEqual([
      "commandFold the log",
      "commandExport",
      "commandWorkbook (.xlsx)",
      "commandTables of this page as a workbook (.xlsx)",
    ]);
    expect(asked).toEqual([]);
  });

  it("opens by Enter what stands first, and remembers it", async () => {
    answerWith(() => ({ ...NOTHING, activities: [DREDGE] }));
    open(CORA);
    await userEvent.type(screen.getByRole("combobox"), "dredge");
    await waitFor(() => expect(options()).toEqual(["activityDredge the berthQU-07 · Works · finishes 11 Mar 2026"]));
    await userEvent.keyboard("{Enter}");
    expect(closed).toHaveBeenCalled();
    expect(screen.getByLabelText("address").textContent).toBe("/projects/p1/plan?at=dig");
  });

  it("waits by Enter for the answer to what is typed, and opens what stands first then", async () => {
    answerWith(() => ({ ...NOTHING, activities: [DREDGE] }));
    open(CORA);
    await userEvent.type(screen.getByRole("combobox"), "berth{Enter}");
    expect(closed).not.toHaveBeenCalled();
    await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/projects/p1/plan?at=dig"));
    expect(asked).toEqual(["berth"]);
  });

  it("asks once the text rests, not at every letter", async () => {
    answerWith(() => NOTHING);
    open(CORA);
    await userEvent.type(screen.getByRole("combobox"), "berth");
    await waitFor(() => expect(asked).toEqual(["berth"]));
    await screen.findByText(/Nothing bears these words/);
  });

  it("goes through the kinds by Down, and finds pages but for a letter or two", async () => {
    answerWith(() => ({ ...NOTHING, activities: [DREDGE], people: [{ id: "bo", name: "Bo Loadwell" }] }));
    open(CORA);
    await userEvent.type(screen.getByRole("combobox"), "daedlines");
    await waitFor(() => expect(options()[0]).toContain("Deadlines"));
    await userEvent.clear(screen.getByRole("combobox"));
    await userEvent.type(screen.getByRole("combobox"), "load");
    await screen.findByRole("group", { name: "People" });
    await waitFor(() =>
      expect(within(screen.getByRole("group", { name: "Pages" })).getAllByRole("option")).toHaveLength(1),
    );
    await userEvent.keyboard("{ArrowDown}{ArrowDown}{Enter}");
    await waitFor(() => expect(screen.getByLabelText("address").textContent).toMatch(/^\/watch\?q=/));
  });

  it("carries out a command of the page", async () => {
    answerWith(() => NOTHING);
    open(CORA);
    await userEvent.type(screen.getByRole("combobox"), "fold{Enter}");
    await waitFor(() => expect(pressed).toHaveBeenCalledTimes(1));
  });

  it("says how a misspelt word was read, and why nothing could be found", async () => {
    answerWith((text) =>
      text === "bredge"
        ? { ...NOTHING, readAs: [{ typed: "bredge", read: ["dredge"] }], activities: [DREDGE] }
        : "The database is away.",
    );
    open(CORA);
    await userEvent.type(screen.getByRole("combobox"), "bredge");
    await screen.findByText("“bredge” is in no name; shown: dredge");
    await userEvent.type(screen.getByRole("combobox"), "s");
    await screen.findByText(/The database is away\./);
  });

  it("claims nothing of what cannot be asked without a network, and still goes to pages", async () => {
    answerWith(() => NOTHING);
    open(CORA);
    onlineManager.setOnline(false);
    try {
      await userEvent.type(screen.getByRole("combobox"), "berth");
      await screen.findByText(/The server cannot be reached/);
      expect(screen.queryByText(/Nothing bears these words/)).toBeNull();
      expect(asked).toEqual([]);
      await userEvent.clear(screen.getByRole("combobox"));
      await userEvent.type(screen.getByRole("combobox"), "deadlines{Enter}");
      await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/deadlines"));
    } finally {
      onlineManager.setOnline(true);
    }
  });

  it("closes by Escape, whatever is typed", async () => {
    answerWith(() => NOTHING);
    open(CORA);
    await userEvent.type(screen.getByRole("combobox"), "x{Escape}");
    expect(closed).toHaveBeenCalled();
  });

  it("leads contributors to the card on their desk", async () => {
    answerWith(() => ({ ...NOTHING, activities: [DREDGE] }));
    open(ANN);
    await userEvent.type(screen.getByRole("combobox"), "dredge");
    await screen.findByRole("group", { name: "Activities" });
    await userEvent.keyboard("{Enter}");
    expect(screen.getByLabelText("address").textContent).toBe("/desk#work%20p1%20dig");
  });
});
