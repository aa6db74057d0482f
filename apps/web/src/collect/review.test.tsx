/** @jest-environment jsdom */
import type { QueuedReport, ReportsEffect } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, Refusal, show, type Sent } from "../testing/fakePage.tsx";
import { ReviewPage } from "./review/ReviewPage.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const report = (id: string, project: string, more: Partial<QueuedReport> = {}): QueuedReport => ({
  id,
  project,
  projectName: project === "p1" ? "North quay" : "Slipway",
  activity: "dig",
  activityName: "Dredge",
  person: "Ann",
  date: "2026-03-03",
  leaveUntil: null,
  minutes: 240,
  percent: null,
  remainingMinutes: null,
  stage: null,
  note: "",
  state: "submitted",
  sentAt: "2026-03-03T15:00:00.000Z",
  word: null,
  decidedBy: null,
  remarks: [],
  ...more,
});
const REPORTS = [
  report("r1", "p1"),
  report("r2", "p1", { person: "Bo", date: "2026-03-04", percent: 100, minutes: null }),
  report("r3", "p2", { date: "2026-03-10" }),
];
const NOTHING_MOVES = {
  currency: "EUR",
  minorDigits: 2,
  finish: null,
  activities: [],
  milestones: [],
  deadlines: [],
  cost: null,
  performance: null,
};
const effectOn = (project: string, more: Partial<ReportsEffect[number]> = {}): ReportsEffect[number] => ({
  project,
  projectName: project === "p1" ? "North quay" : "Slipway",
  effect: NOTHING_MOVES,
  windows: [],
  asked: [],
  assumed: [],
  ...more,
});
const ASKED = {
  report: "r2",
  activity: "dig",
  name: "Dredge",
  person: "Bo",
  others: [{ person: "Ann", leftMinutes: 480 }],
};

/** The queue, what accepting would do, and what becomes of a decision. */
const server =
  (effect: (sent: Sent) => unknown = () => [effectOn("p1")], decision: unknown = { ok: true }) =>
  (sent: Sent): unknown =>
    sent.to === "GET /api/reports" ? REPORTS : sent.to.endsWith("/effect") ? effect(sent) : decision;
const decided = (sent: readonly Sent[]): unknown => sent.find(({ to }) => to.endsWith("/decision"))?.body;
const accept = () => screen.getByRole<HTMLButtonElement>("button", { name: "Accept" });

describe("reviewing reports", () => {
  it("asks what those that are selected would do, and accepts just those", async () => {
    const sent = listen(server());
    show(<ReviewPage />);
    const [first] = await screen.findAllByRole("checkbox", { name: /^Ann, 4 h on Dredge/ });
    await userEvent.click(first!);
    await screen.findByText("Accepting 1 report would");
    await waitFor(() => expect(accept().disabled).toBe(false));
    expect(screen.getByRole("status", { name: "In all" }).textContent).not.toBe("");
    await userEvent.click(accept());
    await waitFor(() =>
      expect(decided(sent)).toEqual({ ids: ["r1"], decision: "accept", word: "", hold: [], endings: {} }),
    );
    await waitFor(() => expect(screen.queryByText(/^Accepting/)).toBeNull());
  });

  it("takes all of a project by its box, and leaves those of others alone", async () => {
    const sent = listen(server());
    show(<ReviewPage />);
    await userEvent.click(await screen.findByRole("checkbox", { name: "All reports on North quay" }));
    await screen.findByText("Accepting 2 reports would");
    expect(screen.getByRole<HTMLInputElement>("checkbox", { name: "All reports on Slipway" }).checked).toBe(false);
    await userEvent.click(screen.getByRole("button", { name: "Select all 3" }));
    await screen.findByText("Accepting 3 reports would");
    await userEvent.click(screen.getByRole("button", { name: "Select none" }));
    expect(screen.queryByText(/^Accepting/)).toBeNull();
    expect(decided(sent)).toBeUndefined();
  });

  it("narrows by the address, selects only what is shown, and forgets nothing of it", async () => {
    const sent = listen(server());
    show(<ReviewPage />, { at: "/time?project=p2" });
    await screen.findByRole("table", { name: "Reports on Slipway" });
    expect(screen.queryByRole("table", { name: "Reports on North quay" })).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Select all 1" }));
    await screen.findByText("Accepting 1 report would");
    await userEvent.click(screen.getByRole("button", { name: "Show all 3" }));
    await screen.findByRole("table", { name: "Reports on North quay" });
    expect(screen.getByText("Accepting 1 report would")).toBeTruthy();
    expect(screen.getByLabelText("address").textContent).toBe("/time");
    expect(sent.filter(({ to }) => to.endsWith("/effect")).map(({ body }) => (body as { ids: string[] }).ids)).toEqual([
      ["r3"],
    ]);
  });

  it("returns with a word alone", async () => {
    const sent = listen(server());
    show(<ReviewPage />);
    await userEvent.click(await screen.findByRole("checkbox", { name: "All reports on Slipway" }));
    const back = await screen.findByRole<HTMLButtonElement>("button", { name: "Return" });
    expect(back.disabled).toBe(true);
    await userEvent.type(screen.getByLabelText("A word to the sender"), "   ");
    expect(back.disabled).toBe(true);
    await userEvent.type(screen.getByLabelText("A word to the sender"), "which day?");
    await userEvent.click(back);
    await waitFor(() => expect(decided(sent)).toMatchObject({ ids: ["r3"], decision: "return" }));
  });

  it("accepts no 100% beside others' hours before it is said what it ends, and sends the answer", async () => {
    const sent = listen(
      server(({ body }) => {
        const { endings } = body as { endings: Record<string, "all" | "own"> };
        return [effectOn("p1", { asked: [{ ...ASKED, answer: endings["r2"] ?? null }] })];
      }),
    );
    show(<ReviewPage />);
    await userEvent.click(await screen.findByRole("checkbox", { name: "All reports on North quay" }));
    await screen.findByText(/Bo says 100% of “Dredge”. Others still have hours: Ann 8 h/);
    await screen.findByText("Say first what each 100% ends.");
    expect(accept().disabled).toBe(true);
    await userEvent.click(screen.getByRole("radio", { name: "only their own work is finished" }));
    await waitFor(() => expect(accept().disabled).toBe(false));
    await userEvent.click(accept());
    await waitFor(() => expect(decided(sent)).toMatchObject({ endings: { r2: "own" } }));
  });

  it("cannot be accepted while it is unknown what it would do, and says why", async () => {
    listen(server(() => new Refusal("North quay is locked to the end of the period.")));
    show(<ReviewPage />);
    await userEvent.click(await screen.findByRole("checkbox", { name: "All reports on North quay" }));
    expect((await screen.findByRole("alert")).textContent).toContain("North quay is locked");
    expect(accept().disabled).toBe(true);
  });

  it("keeps what was selected and typed when the decision is refused", async () => {
    listen(server(undefined, new Refusal("Someone else has decided one of them.", 409, "conflict")));
    show(<ReviewPage />);
    await userEvent.click(await screen.findByRole("checkbox", { name: "All reports on Slipway" }));
    await userEvent.type(await screen.findByLabelText("A word to the sender"), "thanks");
    await waitFor(() => expect(accept().disabled).toBe(false));
    await userEvent.click(accept());
    expect((await screen.findByRole("alert")).textContent).toContain("Someone else has decided");
    expect(screen.getByLabelText<HTMLInputElement>("A word to the sender").value).toBe("thanks");
    expect(screen.getByText("Accepting 1 report would")).toBeTruthy();
  });

  it("offers in each choice what the others leave", async () => {
    listen(server());
    show(<ReviewPage />);
    await userEvent.selectOptions(await screen.findByRole("combobox", { name: "Person" }), "Bo (1)");
    const project = screen.getByRole("combobox", { name: "Project" });
    await waitFor(() =>
      expect(
        within(project)
          .getAllByRole("option")
          .map(({ textContent }) => textContent),
      ).toEqual(["all projects", "North quay (1)"]),
    );
  });
});
