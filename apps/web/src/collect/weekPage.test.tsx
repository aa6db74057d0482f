/** @jest-environment jsdom */
import type { WeekView } from "@chronometra/contract";
import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../shared/messages/toast.ts";
import { listen, Refusal, show, someone, type Sent } from "../testing/fakePage.tsx";
import { WeekPage } from "./week/WeekPage.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const DAYS = ["02", "03", "04", "05", "06", "07", "08"].map((day) => `2026-03-${day}`);
type Booked = Partial<WeekView["rows"][number]["cells"][number]>;
const row = (activity: string, booked: readonly Booked[] = [], open = true): WeekView["rows"][number] => ({
  project: "p1",
  projectName: "North quay",
  activity,
  name: activity === "dig" ? "Dredge" : "Survey",
  open,
  cells: DAYS.map((_day, i) => ({ posted: 0, waiting: 0, returned: 0, notes: [], ...booked[i] })),
});
const week = (more: Partial<WeekView> = {}): WeekView => ({
  from: DAYS[0]!,
  today: "2026-03-05",
  sheet: null,
  days: DAYS.map((date, i) => ({ date, expectedMinutes: i < 5 ? 480 : 0 })),
  rows: [row("dig", [{ posted: 120, waiting: 60 }]), row("survey")],
  ...more,
});
const LAST: WeekView = {
  ...week({ from: "2026-02-23", rows: [row("dig", [{ posted: 300 }, { posted: 240 }]), row("survey")] }),
  days: DAYS.map((_day, i) => ({ date: `2026-02-${23 + i > 28 ? 28 : 23 + i}`, expectedMinutes: 480 })),
};

const begin = (answer: (sent: Sent) => unknown = () => ({ ok: true }), shown = week()): Sent[] => {
  const sent = listen((each) =>
    each.to === "GET /api/desk/week/2026-03-05"
      ? shown
      : each.to === "GET /api/desk/week/2026-02-23"
        ? LAST
        : answer(each),
  );
  show(<WeekPage />, { me: { ...someone("contributor"), person: "ann" }, at: "/desk/week?date=2026-03-05" });
  return sent;
};
const written = (sent: readonly Sent[]): unknown[] =>
  sent.filter(({ to }) => to === "PUT /api/desk/week").map(({ body }) => (body as { cells: unknown[] }).cells);
const cell = (name: string) => screen.findByRole<HTMLInputElement>("textbox", { name });

beforeEach(() => jest.mocked(toast).mockClear());

describe("a week", () => {
  it("shows what is booked in all, beside what is expected", async () => {
    begin();
    expect((await cell("Dredge, Mon 2 Mar 2026")).value).toBe("3h");
    expect(screen.getByRole("row", { name: /^Booked of expected/ }).textContent).toContain("3h of 8h");
    expect(screen.getByLabelText("1h waiting to be accepted")).toBeTruthy();
  });

  it("sends what a cell comes to in all, with its note, and offers to write it back", async () => {
    const sent = begin();
    const field = await cell("Dredge, Mon 2 Mar 2026");
    await userEvent.clear(field);
    await userEvent.type(field, "4.5h, night tide{Enter}");
    await waitFor(() =>
      expect(written(sent)).toEqual([
        [{ project: "p1", activity: "dig", date: "2026-03-02", minutes: 270, note: "night tide" }],
      ]),
    );
    await waitFor(() => expect(toast).toHaveBeenCalled());
    const { action } = jest.mocked(toast).mock.calls[0]![1] as unknown as { action: { onClick: () => void } };
    action.onClick();
    await waitFor(() =>
      expect(written(sent)[1]).toEqual([{ project: "p1", activity: "dig", date: "2026-03-02", minutes: 180 }]),
    );
  });

  it("says beside the field what is no time, sends nothing, and keeps what was typed", async () => {
    const sent = begin();
    const field = await cell("Survey, Tue 3 Mar 2026");
    await userEvent.type(field, "a while{Enter}");
    expect((await screen.findByRole("alert")).textContent).toContain("“a while” is no time");
    expect(field.value).toBe("a while");
    expect(written(sent)).toEqual([]);
  });

  it("says beside the field what the server refuses", async () => {
    begin(({ to }) => (to.startsWith("PUT") ? new Refusal("The week is locked to 4 Mar 2026.") : { ok: true }));
    await userEvent.type(await cell("Survey, Tue 3 Mar 2026"), "2h{Enter}");
    await screen.findByText("The week is locked to 4 Mar 2026.");
  });

  it("books nothing on days that are further off than tomorrow, nor on work that is closed", async () => {
    begin(undefined, week({ rows: [row("dig", [{ posted: 60 }], false), row("survey")] }));
    expect((await cell("Survey, Fri 6 Mar 2026")).disabled).toBe(false);
    expect((await cell("Survey, Sat 7 Mar 2026")).disabled).toBe(true);
    expect((await cell("Dredge, Tue 3 Mar 2026")).disabled).toBe(true);
    // What was booked there can be corrected.
    expect((await cell("Dredge, Mon 2 Mar 2026")).disabled).toBe(false);
  });

  it("goes down and up in a column by Down and Up", async () => {
    begin();
    const above = await cell("Dredge, Tue 3 Mar 2026");
    await userEvent.click(above);
    await userEvent.keyboard("{ArrowDown}");
    expect(document.activeElement).toBe(await cell("Survey, Tue 3 Mar 2026"));
    await userEvent.keyboard("{ArrowUp}");
    expect(document.activeElement).toBe(above);
  });

  it("copies last week into cells that are empty, alone", async () => {
    const sent = begin();
    await userEvent.click(await screen.findByRole("button", { name: "Copy last week" }));
    await waitFor(() =>
      expect(written(sent)).toEqual([[expect.objectContaining({ activity: "dig", date: "2026-03-03", minutes: 240 })]]),
    );
  });

  it("is sent as a whole; what was said to it stands beside", async () => {
    const sent = begin();
    await userEvent.click(await screen.findByRole("button", { name: "Send the week" }));
    await waitFor(() => expect(sent.some(({ to }) => to === "POST /api/desk/week/2026-03-02/sheet")).toBe(true));
  });

  it("that was returned says by whom and why, and can be sent again", async () => {
    begin(
      undefined,
      week({
        sheet: {
          state: "returned",
          sentAt: "2026-03-05T15:00:00.000Z",
          changedAt: null,
          decidedBy: "Mo",
          word: "Thursday is missing",
        },
      }),
    );
    await screen.findByText(/returned by Mo: “Thursday is missing”/);
    expect(screen.getByRole("button", { name: "Send it again" })).toBeTruthy();
  });

  it("of someone with no work says so", async () => {
    begin(undefined, week({ rows: [] }));
    await screen.findByText("You have no open activities and booked nothing in this week.");
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Copy last week" }).disabled).toBe(true);
  });
});
