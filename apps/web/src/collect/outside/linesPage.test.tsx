/** @jest-environment jsdom */
import type { OutsideLine, OutsideTargets } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../../shared/messages/toast.ts";
import { listen, Refusal, show, someone, type Sent } from "../../testing/fakePage.tsx";
import { OutsidePage } from "./OutsidePage.tsx";

jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const line = (id: string, more: Partial<OutsideLine> = {}): OutsideLine => ({
  id,
  kind: "cost",
  source: "ledger",
  state: "matched",
  said: { project: "P", activity: "Dig", person: "" },
  project: { id: "p", code: "P", name: "Pier" },
  activity: { id: "dig", name: "Dig" },
  person: null,
  date: "2026-03-03",
  amount: 120.5,
  minutes: null,
  currency: "EUR",
  category: "Crane",
  reference: `R-${id}`,
  note: "",
  why: null,
  was: null,
  ...more,
});
const READY = line("1");
const TIME = line("2", {
  kind: "time",
  amount: null,
  minutes: 450,
  currency: null,
  person: { id: "ann", name: "Ann" },
});
const UNKNOWN = line("3", {
  state: "unmatched",
  project: null,
  activity: null,
  said: { project: "Peer", activity: "Digging", person: "" },
  why: "There is no project “Peer”.",
});
const CORRECTED = line("4", {
  state: "correction",
  was: { amount: 100, minutes: null, category: "Crane", posted: true },
});
const ASIDE = line("5", { state: "aside", why: "paid twice" });
const TARGETS: OutsideTargets = [
  {
    id: "p",
    code: "P",
    name: "Pier",
    currency: "EUR",
    minorDigits: 2,
    activities: [
      { id: "dig", name: "Dig" },
      { id: "pour", name: "Pour" },
    ],
    people: [{ id: "ann", name: "Ann" }],
    categories: ["Crane"],
  },
];
const EFFECT = [
  {
    project: "p",
    projectName: "Pier",
    effect: {
      finish: null,
      activities: [],
      milestones: [],
      deadlines: [],
      cost: null,
      performance: null,
      currency: "EUR",
      minorDigits: 2,
    },
  },
];

function server(lines: readonly OutsideLine[], act: (sent: Sent) => unknown = () => ({ ok: true })) {
  const all = listen((sent) =>
    sent.to === "GET /api/outside/lines"
      ? lines
      : sent.to === "GET /api/outside/targets"
        ? TARGETS
        : sent.to.endsWith("/effect")
          ? EFFECT
          : act(sent),
  );
  return (to: string) => all.filter((sent) => sent.to === to).map(({ body }) => body);
}
const tick = async (reference: string): Promise<void> =>
  userEvent.click(await screen.findByRole("checkbox", { name: new RegExp(`Select ${reference} of`) }));
const button = (name: string) => screen.getByRole<HTMLButtonElement>("button", { name });

describe("costs and time from elsewhere", () => {
  it("say what they are, what is wanting, and what was corrected", async () => {
    server([READY, TIME, UNKNOWN, CORRECTED]);
    show(<OutsidePage />);
    const row = (reference: string) =>
      within(screen.getByRole("checkbox", { name: new RegExp(`Select ${reference} of`) }).closest("tr")!);
    await screen.findByText("to be matched");
    expect(row("R-1").getByText("120.5 EUR")).toBeTruthy();
    expect(row("R-2").getByText("7.5 h")).toBeTruthy();
    expect(row("R-2").getByText("Dig, Ann")).toBeTruthy();
    expect(row("R-3").getByText("There is no project “Peer”.")).toBeTruthy();
    expect(row("R-4").getByText("100 → 120.5 EUR, posted")).toBeTruthy();
  });

  it("are posted after what they come to was shown", async () => {
    const sent = server([READY, TIME, UNKNOWN], () => ({ costs: 1, reports: 1 }));
    show(<OutsidePage />);
    await userEvent.click(await screen.findByRole("button", { name: "Select all 2 that are ready" }));
    expect(await screen.findByText("Pier: posting would")).toBeTruthy();
    expect(sent("POST /api/outside/effect")).toEqual([{ ids: ["1"] }]);
    await userEvent.click(button("Post"));
    await waitFor(() => expect(toast).toHaveBeenCalledWith("1 cost posted; 1 time entry waits to be reviewed."));
    expect(sent("POST /api/outside/post")).toEqual([{ ids: ["1", "2"] }]);
  });

  it("that are not all ready are not posted", async () => {
    server([READY, UNKNOWN]);
    show(<OutsidePage />);
    await tick("R-1");
    await tick("R-3");
    expect(button("Post").disabled).toBe(true);
    expect(screen.queryByRole("form", { name: "Match by hand" })).toBeNull();
  });

  it("are matched by hand, for all that say so or this one alone", async () => {
    const sent = server([UNKNOWN]);
    show(<OutsidePage />);
    await tick("R-3");
    const form = within(screen.getByRole("form", { name: "Match by hand" }));
    expect(form.getByText(/“Peer \/ Digging” is/)).toBeTruthy();
    const match = form.getByRole<HTMLButtonElement>("button", { name: "Match" });
    await userEvent.selectOptions(form.getByLabelText("Project"), "P Pier");
    expect(match.disabled).toBe(true);
    await userEvent.type(form.getByLabelText("Activity"), "Dig");
    await userEvent.click(form.getByRole("checkbox", { name: "always, for all that say so" }));
    await userEvent.click(match);
    await waitFor(() =>
      expect(sent("PUT /api/outside/lines/3")).toEqual([{ project: "p", activity: "dig", remember: false }]),
    );
  });

  it("of time need someone to whom it belongs", async () => {
    const sent = server([
      line("6", { ...TIME, id: "6", reference: "R-6", state: "unmatched", person: null, activity: null }),
    ]);
    show(<OutsidePage />);
    await tick("R-6");
    const form = within(screen.getByRole("form", { name: "Match by hand" }));
    await userEvent.type(form.getByLabelText("Activity"), "Pour");
    const match = form.getByRole<HTMLButtonElement>("button", { name: "Match" });
    expect(match.disabled).toBe(true);
    await userEvent.type(form.getByLabelText("Person"), "Ann");
    await userEvent.click(match);
    await waitFor(() =>
      expect(sent("PUT /api/outside/lines/6")).toEqual([
        { project: "p", activity: "pour", person: "ann", remember: true },
      ]),
    );
  });

  it("are set aside with a reason, and taken up again", async () => {
    const sent = server([READY, ASIDE]);
    show(<OutsidePage />);
    await tick("R-1");
    expect(button("Set aside").disabled).toBe(true);
    await userEvent.type(screen.getByLabelText("Why it is set aside"), "paid twice");
    await userEvent.click(button("Set aside"));
    await waitFor(() => expect(sent("POST /api/outside/aside")).toEqual([{ ids: ["1"], why: "paid twice" }]));
    await tick("R-5");
    await userEvent.click(button("Restore"));
    await waitFor(() => expect(sent("POST /api/outside/aside").at(-1)).toEqual({ ids: ["5"], why: null }));
  });

  it("that were corrected say what that does to what is posted already", async () => {
    const sent = server([
      CORRECTED,
      line("7", { state: "correction", was: { amount: 1, minutes: null, category: "", posted: false } }),
    ]);
    show(<OutsidePage />);
    await tick("R-4");
    await tick("R-7");
    expect(
      screen.getByText(
        "1 line is posted: the difference is posted beside it; 1 line is not posted yet, and will say what its system says now.",
      ),
    ).toBeTruthy();
    await screen.findByText("Pier: accepting would");
    await userEvent.click(button("Accept the corrections"));
    await waitFor(() => expect(sent("POST /api/outside/corrections")).toEqual([{ ids: ["4", "7"] }]));
  });

  it("that are refused stay selected, and say why", async () => {
    server([TIME], () => new Refusal("The period up to 31 Mar 2026 is locked."));
    show(<OutsidePage />);
    await tick("R-2");
    await userEvent.click(button("Post"));
    expect(await screen.findByText("The period up to 31 Mar 2026 is locked.")).toBeTruthy();
    expect(screen.getByText("1 line")).toBeTruthy();
  });

  it("say how they come where nothing waits; the simulated ones are a controller's", async () => {
    server([]);
    show(<OutsidePage />, { me: someone("projectManager") });
    expect(await screen.findByText(/Nothing waits\. Bring an invoice list/)).toBeTruthy();
    expect(screen.queryByRole("button", { name: /simulated/ })).toBeNull();
  });
});
