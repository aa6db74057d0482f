/** @jest-environment jsdom */
import type { Matter, Matters, MatterView } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { listen, Refusal, show, someone, type Sent } from "../testing/fakePage.tsx";
import { readNew } from "./NewMatterForm.tsx";
import { RegistersPage } from "./RegistersPage.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));
jest.mock("../talk/Thread.tsx", () => ({ Thread: () => null }));
// jsdom has no dialogs.
HTMLDialogElement.prototype.showModal = function open() {
  this.open = true;
};

const SETTINGS: Matters["settings"] = {
  severities: [
    { id: "s", name: "small" },
    { id: "g", name: "grave" },
  ],
  fields: { issue: [{ id: "cause", name: "Cause", type: "choice", choices: ["weather", "supplier"] }] },
};
const matter = (id: string, part: Partial<Matter> = {}): Matter => ({
  ...{
    id,
    kind: "issue",
    title: `Issue ${id}`,
    text: "",
    state: "open",
    severity: "g",
    owner: null,
    raisedBy: "Tomas",
  },
  ...{ project: { id: "p", code: "LG-02", name: "North lock gates" }, group: null, raisedOn: "2026-11-02" },
  ...{ due: "2026-11-20", overdue: true, closedOn: null, strategy: null, response: "", chance: null, expected: null },
  ...{ residual: null, proximity: null, ties: [], values: {}, before: null, mayWrite: "all" },
  ...part,
});
const RISK = matter("p:r", {
  ...{ kind: "risk", title: "Ice", chance: 0.3, due: null, overdue: false },
  expected: { minor: 500_000, currency: "EUR", minorDigits: 2 },
});

interface House {
  readonly matters: Matter[];
  readonly contingency?: Matters["contingency"];
  readonly write?: (sent: Sent) => unknown;
}

function open(at: string, { matters, contingency = null, write }: House): Sent[] {
  const sent = listen((one) => {
    const { to } = one;
    const id = decodeURIComponent(/\/api\/matters\/([^/?]+)$/.exec(to)?.[1] ?? "");
    if (to.startsWith("PUT") || to.startsWith("POST")) return write?.(one) ?? new Refusal("not told");
    if (id !== "" && id !== "counts")
      return { matter: matters.find((each) => each.id === id)!, settings: SETTINGS, events: [] } satisfies MatterView;
    if (to.includes("/matters"))
      return {
        ...{ settings: SETTINGS, matters, total: matters.length, contingency, mayAdd: true, maySet: false },
      } satisfies Matters;
    if (to === "GET /api/portfolio") return { name: "House", projects: [], programmes: [] };
    if (to.startsWith("GET /api/programmes")) return { groups: [], managers: [], mayEdit: false };
    return to.endsWith("/ties") ? [{ about: "activity", id: "dig", name: "Dig" }] : [];
  });
  show(
    <Routes>
      <Route path="/registers" element={<RegistersPage />} />
      <Route path="/projects/:project/registers" element={<RegistersPage />} />
    </Routes>,
    { at, me: someone("projectManager") },
  );
  window.history.replaceState(null, "", at);
  return sent;
}
const address = () => screen.getByLabelText("address").textContent;

beforeEach(() => jest.clearAllMocks());

describe("registers", () => {
  it("ask the server for what the address says, and the address for what is ticked", async () => {
    const sent = open("/projects/p/registers?kind=issue", { matters: [matter("1")] });
    expect(await screen.findByRole("button", { name: "Issue 1" })).toBeTruthy();
    expect(sent.some(({ to }) => to === "GET /api/projects/p/matters?kind=issue")).toBe(true);
    expect(screen.getByRole("columnheader", { name: /Cause/ })).toBeTruthy();
    await userEvent.click(screen.getByRole("checkbox", { name: "overdue" }));
    await waitFor(() => expect(address()).toBe("/projects/p/registers?kind=issue&overdue=1"));
    await waitFor(() => expect(sent.at(-1)!.to).toContain("overdue=1"));
  });

  it("say so where nothing is open, overdue or mine", async () => {
    open("/projects/p/registers?kind=action&overdue=1", { matters: [] });
    expect(await screen.findByText("No action is overdue.")).toBeTruthy();
  });

  it("hold what risks are expected to cost against the contingency that remains", async () => {
    const contingency = { minor: 400_000, currency: "EUR", minorDigits: 2 };
    open("/projects/p/registers?kind=risk", { matters: [RISK], contingency });
    const words = await screen.findByText(/Open risks are expected to cost 5.000 EUR/);
    expect(within(words).getByLabelText("adverse")).toBeTruthy();
    expect(within(words).getByText(/4.000 EUR of contingency remain/)).toBeTruthy();
    expect(screen.getByRole("button", { name: "1: Ice" })).toBeTruthy();
  });

  it("tell more risks of one spot than can be told apart by their number", async () => {
    const many = Array.from({ length: 16 }, (_, i) => ({ ...RISK, id: `p:${i}`, title: `Ice ${i}` }));
    open("/projects/p/registers?kind=risk", { matters: many });
    expect(await screen.findByText("16 risks")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "1: Ice 0" })).toBeNull();
    expect(screen.getByRole("button", { name: "Ice 15" })).toBeTruthy();
  });

  it("write beside what was seen; what someone else wrote meanwhile is told and stays", async () => {
    const words = "Severity was changed by someone else meanwhile.";
    const sent = open("/projects/p/registers?matter=1", {
      matters: [matter("1")],
      write: () => new Refusal(words, 409, "conflict"),
    });
    await userEvent.selectOptions(await screen.findByRole("combobox", { name: "Severity" }), "small");
    await waitFor(() => expect(toast.error).toHaveBeenCalledWith(`Not stored: ${words}`));
    expect(sent.find(({ to }) => to === "PUT /api/matters/1")!.body).toEqual({
      writes: [{ field: "severity", was: "g", value: "s" }],
    });
    expect(screen.getByRole<HTMLSelectElement>("combobox", { name: "Severity" }).value).toBe("g");
  });

  it("leave to an owner what is theirs, and to a reader nothing", async () => {
    open("/registers?matter=1", { matters: [matter("1", { mayWrite: "owners" })] });
    expect(await screen.findByRole("button", { name: "It is solved" })).toBeTruthy();
    expect(screen.getByRole("textbox", { name: "What is done about it" })).toBeTruthy();
    expect(screen.queryByRole("combobox", { name: "Severity" })).toBeNull();
    expect(screen.queryByRole("button", { name: /Remove/ })).toBeNull();
  });

  it("show what a risk that strikes would move before it is said", async () => {
    const effect = { finish: null, cost: null, performance: null, milestones: [], deadlines: [], activities: [] };
    const sent = open("/projects/p/registers?matter=p%3Ar", {
      matters: [RISK],
      write: ({ to }) =>
        to.endsWith("/effect")
          ? { ...effect, currency: "EUR", minorDigits: 2 }
          : { issue: "new", woken: ["Dig"], revision: 7 },
    });
    await userEvent.click(await screen.findByRole("button", { name: "It struck …" }));
    const strike = await screen.findByRole("button", { name: "It struck" });
    await waitFor(() => expect(strike.hasAttribute("disabled")).toBe(false));
    expect(sent.some(({ to }) => to === "POST /api/matters/p%3Ar/strike")).toBe(false);
    await userEvent.click(strike);
    await waitFor(() =>
      expect(sent.find(({ to }) => to === "POST /api/matters/p%3Ar/strike")?.body).toEqual({
        ...{ title: "Ice", severity: "g", owner: null, due: null },
      }),
    );
    await waitFor(() => expect(address()).toContain("matter=new"));
  });
});

describe("something new for a register", () => {
  const DRAFT = {
    ...{ kind: "risk" as const, place: null, title: " Ice ", text: "", severity: "", owner: null, due: "" },
    chance: "30 %",
  };
  it("is read as it was typed", () => {
    expect(readNew(DRAFT, "p")).toMatchObject({ project: "p", group: null, title: "Ice", chance: 0.3, severity: null });
    expect(readNew({ ...DRAFT, place: "group:g:1" }, null)).toMatchObject({ project: null, group: "g:1" });
    expect(readNew({ ...DRAFT, place: "house:" }, null)).toMatchObject({ project: null, group: null });
    expect(readNew({ ...DRAFT, kind: "issue" }, "p")).toMatchObject({ chance: null });
  });

  it("says what is missing", () => {
    expect(readNew({ ...DRAFT, title: " " }, "p")).toBe("Write what it is.");
    expect(readNew(DRAFT, null)).toBe("Select where it belongs.");
    for (const chance of ["", "101", "-1", "often"]) expect(readNew({ ...DRAFT, chance }, "p")).toMatch(/as a percent/);
  });
});
