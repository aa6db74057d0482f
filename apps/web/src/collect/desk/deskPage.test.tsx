/** @jest-environment jsdom */
import type { Desk, DeskActivity, Report } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../../shared/messages/toast.ts";
import { preference } from "../../shared/session/preferences.ts";
import { listen, Refusal, show, someone, type Sent } from "../../testing/fakePage.tsx";
import { DeskPage } from "./DeskPage.tsx";

jest.mock("../../matters/MatterItems.tsx", () => ({ OwnMatters: () => null }));
jest.mock("../../talk/announce/Announcements.tsx", () => ({ Announcements: () => null }));
jest.mock("../../talk/TalkButton.tsx", () => ({ TalkButton: () => null }));
jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const activity = (id: string, part: Partial<DeskActivity> = {}): DeskActivity => ({
  project: "pier",
  projectName: "Pier",
  activity: id,
  name: `Work ${id}`,
  path: "",
  start: "2026-03-02",
  finish: "2026-03-20",
  state: "inProgress",
  percent: 20,
  plannedMinutes: 4800,
  remainingMinutes: 2400,
  postedMinutes: 0,
  waitingMinutes: 0,
  box: null,
  stages: null,
  waitsFor: [],
  blocked: null,
  note: null,
  priorityWord: null,
  documents: 0,
  ...part,
});
const report = (part: Partial<Report>): Report => ({
  id: "r1",
  project: "pier",
  projectName: "Pier",
  activity: "a",
  activityName: "Work a",
  person: "ann",
  date: "2026-03-10",
  leaveUntil: null,
  minutes: null,
  percent: null,
  remainingMinutes: null,
  stage: null,
  note: "",
  state: "submitted",
  sentAt: "2026-03-10T10:00:00.000Z",
  word: null,
  decidedBy: null,
  ...part,
});
const desk = (part: Partial<Desk> = {}): Desk => ({
  person: "ann",
  today: "2026-03-10",
  activities: [activity("a")],
  reports: [],
  booked: {},
  seenAt: null,
  news: [],
  clock: null,
  forgotten: [],
  meetings: [],
  leave: [],
  calendar: [],
  ...part,
});

async function shown(of: Partial<Desk>, answer: (sent: Sent) => unknown = () => ({ id: "new" })) {
  const all = listen((sent) => (sent.to === "GET /api/desk" ? desk(of) : answer(sent)));
  show(<DeskPage />, { me: someone("contributor") });
  await screen.findByRole("heading", { name: "Your work" });
  return () => all.filter(({ to }) => / \/api\/desk\/./.test(to));
}
const groups = () =>
  screen
    .getAllByRole("heading", { level: 2 })
    .map(({ textContent }) => textContent)
    .filter((text) => text !== "Sent");
const pressed = (name: string) =>
  within(screen.getByRole("group", { name: `Percent done of ${name}` }))
    .queryAllByRole("button", { pressed: true })
    .map((button) => button.getAttribute("aria-label"));
const clock = (name: string) => screen.getByRole<HTMLButtonElement>("button", { name: `Start the clock on ${name}` });

beforeEach(() => jest.clearAllMocks());

describe("what is mine to do", () => {
  it("stands by when it is due, what is overdue first", async () => {
    await shown({
      activities: [
        activity("later", { finish: "2026-05-01", start: "2026-04-20", state: "notStarted" }),
        activity("late", { finish: "2026-03-06" }),
        activity("today", { finish: "2026-03-10" }),
      ],
    });
    expect(groups().filter((name) => /Overdue|Due|Coming/.test(name!))).toEqual(["Overdue", "Due today", "Coming up"]);
  });

  it("leaves out what waits for others where someone says so, and keeps that", async () => {
    await shown({ activities: [activity("a"), activity("b", { waitsFor: ["Work a"] })] });
    expect(screen.getByText("waits for Work a")).toBeTruthy();
    await userEvent.click(screen.getByRole("checkbox", { name: "1 waiting for others" }));
    expect(screen.queryByText("Work b")).toBeNull();
    expect(preference("desk.waiting")).toBe("hidden");
  });

  it.each([
    [{ person: null }, /tied to no person/],
    [{ activities: [] }, /You have no open activities/],
  ])("is nothing for a reason that is told: %j", async (part, words) => {
    await shown({ activities: [], ...part });
    expect(screen.getByText(words)).toBeTruthy();
  });

  it("is hidden, not gone, where all of it waits", async () => {
    await shown({ activities: [activity("b", { waitsFor: ["Work a"] })] });
    await userEvent.click(screen.getByRole("checkbox"));
    expect(screen.getByText(/All of your activities wait for others/)).toBeTruthy();
  });
});

describe("the percent that is shown", () => {
  it("is the one said last, though it waits to be accepted, of this activity and no other", async () => {
    await shown({
      activities: [activity("a"), activity("b")],
      reports: [
        report({ percent: 60 }),
        report({ id: "r0", percent: 40, date: "2026-03-09" }),
        report({ id: "r2", percent: 90, activity: "b", state: "returned" }),
        report({ id: "r3", percent: 80, project: "lock", activity: "b" }),
      ],
    });
    expect(pressed("Work a")).toEqual(["60% done"]);
    expect(pressed("Work b")).toEqual(["20% done"]);
  });

  it("is sent for the day that is booked on", async () => {
    const sent = await shown({});
    await userEvent.click(
      within(screen.getByRole("group", { name: "Percent done of Work a" })).getByRole("button", { name: "50% done" }),
    );
    await waitFor(() =>
      expect(sent()).toEqual([
        {
          to: "POST /api/desk/reports",
          body: { project: "pier", activity: "a", date: "2026-03-10", percent: 50 },
        },
      ]),
    );
    expect(toast).toHaveBeenCalledWith("Percent sent: Work a", expect.anything());
  });
});

describe("the stage that is shown", () => {
  const stages = { all: ["Shaped", "Primed", "Afloat"].map((name, i) => ({ name, credit: i * 50 })), at: "Shaped" };
  const track = () => within(screen.getByRole("group", { name: "Stage of Work a" }));

  it("is the one said last, in place of a percent; the last one also says that it is finished", async () => {
    const sent = await shown({ activities: [activity("a", { stages })], reports: [report({ stage: "Primed" })] });
    expect(track().getByRole("button", { pressed: true }).textContent).toBe("Primed");
    expect(screen.queryByRole("group", { name: "Percent done of Work a" })).toBeNull();
    await userEvent.click(track().getByRole("button", { name: "Primed" }));
    await userEvent.click(track().getByRole("button", { name: "Shaped" }));
    const body = { project: "pier", activity: "a", date: "2026-03-10" };
    await waitFor(() => expect(sent()).toEqual([{ to: "POST /api/desk/reports", body: { ...body, stage: "Shaped" } }]));
    await userEvent.click(track().getByRole("button", { name: "Afloat" }));
    await waitFor(() => expect(sent().at(-1)!.body).toEqual({ ...body, stage: "Afloat", percent: 100 }));
  });
});

describe("booking time", () => {
  const field = () => screen.getByRole<HTMLInputElement>("textbox", { name: "Time on Work a" });

  it("takes hours with a word behind them, and empties the field once they are stored", async () => {
    const sent = await shown({});
    await userEvent.type(field(), "1.5h shuttering{Enter}");
    await waitFor(() =>
      expect(sent()[0]!.body).toEqual({
        project: "pier",
        activity: "a",
        date: "2026-03-10",
        minutes: 90,
        note: "shuttering",
      }),
    );
    await waitFor(() => expect(field().value).toBe(""));
  });

  it("leaves what cannot be read in the field and sends nothing", async () => {
    const sent = await shown({});
    await userEvent.type(field(), "soon{Enter}");
    expect(screen.getByRole("alert").textContent).not.toBe("");
    expect(field().value).toBe("soon");
    expect(sent()).toEqual([]);
  });

  it("that is refused says why beside the field, and keeps what was typed", async () => {
    await shown({}, () => new Refusal("A day has 24 hours."));
    await userEvent.type(field(), "20h{Enter}");
    expect((await screen.findByRole("alert")).textContent).toBe("A day has 24 hours.");
    expect(field().value).toBe("20h");
  });
});

describe("the clock", () => {
  const running = { project: "pier", activity: "a", name: "Work a", startedAt: "2026-03-10T08:00:00.000Z" };
  const both = { activities: [activity("a"), activity("b")] };

  it("is started where none runs", async () => {
    const sent = await shown(both);
    await userEvent.click(clock("Work b"));
    await waitFor(() =>
      expect(sent()[0]).toEqual({ to: "PUT /api/desk/clock", body: { project: "pier", activity: "b" } }),
    );
  });

  it("runs on one activity at a time, and says on which", async () => {
    await shown({ ...both, clock: running });
    expect([clock("Work a").title, clock("Work b").title]).toEqual([
      "The clock runs",
      "The clock runs on another activity; stop it first",
    ]);
    expect([clock("Work a").disabled, clock("Work b").disabled]).toEqual([true, true]);
  });

  it("books what someone says it should have measured, at most a day", async () => {
    const sent = await shown({ ...both, clock: running });
    const measured = screen.getByRole("textbox", { name: "What the clock should have measured" });
    await userEvent.clear(measured);
    await userEvent.type(measured, "25h{Enter}");
    expect(await screen.findByText("Write hours of one day, as 1.5h.")).toBeTruthy();
    await userEvent.clear(measured);
    await userEvent.type(measured, "1.5h{Enter}");
    await userEvent.click(screen.getByRole("button", { name: "Stop and book" }));
    await waitFor(() => expect(sent()).toEqual([{ to: "POST /api/desk/clock/stop", body: { minutes: 90, note: "" } }]));
    expect(toast).toHaveBeenCalledWith("1.5 h sent: Work a");
  });
});
