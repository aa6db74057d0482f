/** @jest-environment jsdom */
import type { PeopleWeek } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../../shared/messages/toast.ts";
import { listen, Refusal, show, type Sent } from "../../testing/fakePage.tsx";
import { PeoplePage } from "./PeoplePage.tsx";

jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

type Line = PeopleWeek["people"][number];
const person = (id: string, more: Partial<Line> = {}): Line => ({
  id,
  name: `Person ${id}`,
  expectedMinutes: 2400,
  plannedMinutes: 1200,
  postedMinutes: 0,
  waitingMinutes: 0,
  sheet: null,
  remindedAt: null,
  canBeReached: true,
  projects: [{ project: "p", name: "Pier", plannedMinutes: 1200, postedMinutes: 0, waitingMinutes: 0 }],
  ...more,
});
const sheet = (state: "sent" | "approved" | "returned", word: string | null = null): Line["sheet"] =>
  ({ state, sentAt: "2026-03-06T16:00:00.000Z", changedAt: null, decidedBy: "Cora", word }) as unknown as Line["sheet"];
const MISSING = person("a");
const SENT = person("b", { sheet: sheet("sent"), postedMinutes: 600, waitingMinutes: 720 });
const APPROVED = person("c", { sheet: sheet("approved"), postedMinutes: 1200 });
const RETURNED = person("d", { sheet: sheet("returned", "the Tuesday") });
const AWAY = person("e", { expectedMinutes: 0, plannedMinutes: 0 });
const ALL = [MISSING, SENT, APPROVED, RETURNED, AWAY];
const NOTHING = {
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
  windows: [],
  asked: [],
  assumed: [],
};

function server(people: readonly Line[], act: (sent: Sent) => unknown = () => ({}), effects: unknown[] = [NOTHING]) {
  const all = listen((sent) =>
    sent.to.startsWith("GET /api/time/") && sent.to.endsWith("/people")
      ? { from: "2026-03-02", people }
      : sent.to.endsWith("/effect")
        ? { reports: ["r1", "r2"], effects }
        : sent.to.startsWith("GET")
          ? { from: "2026-03-02", people }
          : act(sent),
  );
  return (end: string) => all.filter(({ to }) => to.startsWith("POST") && to.endsWith(end)).map(({ body }) => body);
}
const page = () => show(<PeoplePage />, { at: "/time/people?date=2026-03-04" });
const tick = async (name: string): Promise<void> =>
  userEvent.click(await screen.findByRole("checkbox", { name: `Select ${name}` }));
const button = (name: string | RegExp) => screen.getByRole<HTMLButtonElement>("button", { name });
const rowOf = (name: string) => within(screen.getByRole("checkbox", { name: `Select ${name}` }).closest("tr")!);

describe("people's weeks", () => {
  it("tell how each stands, against what was planned", async () => {
    server(ALL);
    page();
    await screen.findByText("missing");
    expect(rowOf("Person b").getByText("sent, waits to be approved")).toBeTruthy();
    expect(rowOf("Person b").getByText("2 h over")).toBeTruthy();
    expect(rowOf("Person c").getByText("approved by Cora")).toBeTruthy();
    expect(rowOf("Person d").getByText("returned: “the Tuesday”")).toBeTruthy();
    expect(rowOf("Person e").getByText("away")).toBeTruthy();
    expect(rowOf("Person b").getByText("12 h").getAttribute("href")).toBe("/time?person=Person%20b&week=2026-03-02");
  });

  it("show only those who are missing, as the address says", async () => {
    server(ALL);
    page();
    await userEvent.click(await screen.findByRole("checkbox", { name: "only the 2 missing" }));
    expect(screen.getByLabelText("address").textContent).toContain("show=missing");
    expect(screen.queryByText("Person b")).toBeNull();
    expect(await screen.findByText("Person d")).toBeTruthy();
  });

  it("are reminded with a word of one's own; who was not reached is named", async () => {
    const sent = server(ALL, () => ({ sent: 1, failed: [{ to: "Person d", why: "no address" }] }));
    page();
    await tick("Person a");
    await tick("Person d");
    const word = screen.getByLabelText("Reminder");
    await userEvent.clear(word);
    expect(button("Remind all 2").disabled).toBe(true);
    await userEvent.type(word, "Please send it.");
    await userEvent.click(button("Remind all 2"));
    await waitFor(() => expect(toast).toHaveBeenCalledWith("1 reminder sent. Not reached: Person d (no address)."));
    expect(sent("/reminders")).toEqual([{ people: ["a", "d"], words: "Please send it." }]);
  });

  it("that were sent are approved after what it moves was shown", async () => {
    const sent = server([SENT], () => ({ approved: ["b"], open: ["Quay"] }));
    page();
    await tick("Person b");
    expect(await screen.findByText("Approving accepts 2 reports and would")).toBeTruthy();
    await userEvent.click(button("Approve 1 week"));
    await waitFor(() =>
      expect(toast).toHaveBeenCalledWith("1 week approved; of Quay other projects still decide reports."),
    );
    expect(sent("/decision")).toEqual([
      { people: ["b"], decision: "approve", word: "", seen: ["r1", "r2"], endings: {} },
    ]);
  });

  it("that were not sent are not approved, only reminded", async () => {
    server(ALL);
    page();
    await tick("Person a");
    await tick("Person b");
    expect(button("Approve 1 week").disabled).toBe(true);
    expect(button("Approve 1 week").title).toBe("Only weeks that were sent can be approved");
  });

  it("wait for what a 100% ends", async () => {
    const asked = {
      report: "r1",
      activity: "dig",
      name: "Dig",
      person: "Person b",
      others: [{ person: "Cy", leftMinutes: 480 }],
      answer: null,
    };
    server([SENT], () => ({ approved: [], open: [] }), [{ ...NOTHING, asked: [asked] }]);
    page();
    await tick("Person b");
    await screen.findByText(/Person b says 100% of “Dig”/);
    expect(button("Approve 1 week").title).toBe("Say first what each 100% ends");
    expect(button("Approve 1 week").disabled).toBe(true);
  });

  it("are returned with a word alone, and say why where that is refused", async () => {
    const sent = server([SENT], () => new Refusal("Person b took the week back meanwhile.", 409, "conflict"));
    page();
    await tick("Person b");
    expect(button("Return").disabled).toBe(true);
    await userEvent.type(screen.getByLabelText("A word"), "the Tuesday");
    await userEvent.click(button("Return"));
    expect(await screen.findByText("Person b took the week back meanwhile.")).toBeTruthy();
    expect(sent("/decision")[0]).toMatchObject({ decision: "return", word: "the Tuesday" });
    expect(screen.getByLabelText<HTMLInputElement>("A word").value).toBe("the Tuesday");
  });

  it("say where people come from where nobody works yet", async () => {
    server([]);
    page();
    expect(await screen.findByText(/Nobody works in your projects yet/)).toBeTruthy();
    expect(button("Select all").disabled).toBe(true);
  });
});
