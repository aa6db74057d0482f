/** @jest-environment jsdom */
import type { CalendarEntry, CalendarView, Role } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, Refusal, show, someone, type Sent } from "../testing/fakePage.tsx";
import { CalendarPage } from "./CalendarPage.tsx";

const entry = (id: string, over: Partial<CalendarEntry> = {}): CalendarEntry => ({
  ...{ id, kind: "milestone", from: "2026-12-09", to: "2026-12-09", name: `Gate ${id}`, words: "forecast" },
  ...{ tone: "plain", done: false, project: { id: "p", code: "LG-02", name: "Gates" }, activity: id },
  ...{ link: `/projects/p/plan?at=${id}`, mayMove: false },
  ...over,
});
const away = entry("bo", {
  ...{ kind: "leave", from: "2026-12-10", to: "2026-12-15", name: "Bo", project: null, activity: null, link: null },
});

function open(
  at: string,
  entries: CalendarEntry[],
  { role = "controller" as Role, total = entries.length } = {},
): Sent[] {
  const sent = listen(({ to }) => {
    const url = new URL(to.split(" ")[1]!, "http://x");
    if (url.searchParams.get("from")! < "2026-01-01") return new Refusal("The server is away.");
    const [from, last] = [url.searchParams.get("from")!, url.searchParams.get("to")!];
    return { from, to: last, entries, total } satisfies CalendarView;
  });
  show(<CalendarPage />, { at, me: someone(role) });
  window.history.replaceState(null, "", at);
  return sent;
}
/** What is pressed works on the address of the window, which the page of a test does not have. */
const press = async (role: string, name: string): Promise<void> => {
  window.history.replaceState(null, "", screen.getByLabelText("address").textContent!);
  await userEvent.click(await screen.findByRole(role, { name }));
};
const asked = (sent: readonly Sent[]): string => sent.at(-1)!.to;
const day = (name: string) => screen.findByRole("group", { name });

describe("the calendar page", () => {
  it("shows a month of whole weeks, each thing on its day, who is away over the days", async () => {
    const sent = open("/calendar?date=2026-12-20", [entry("a"), entry("late", { tone: "adverse" }), away]);
    const ninth = within(await day("9 Dec 2026"));
    expect(ninth.getAllByRole("link").map((link) => link.getAttribute("aria-label"))).toEqual([
      "The week of 9 Dec 2026",
      "Milestone LG-02 Gate a, 9 Dec 2026: forecast",
      "Milestone LG-02 Gate late, 9 Dec 2026: forecast",
    ]);
    expect(asked(sent)).toBe("GET /api/calendar?from=2026-11-30&to=2027-01-03");
    expect(screen.getByRole("heading", { level: 2 }).textContent).toBe("Dec 2026");
    const weeks = ["50", "51"].map(
      (week) => screen.getByRole("list", { name: `Away, and timeboxes, in week ${week}` }).textContent,
    );
    expect(weeks).toEqual(["Bo away", "Bo away"]);
  });

  it("draws a timebox over its days, which opens; a week tells it on each of them", async () => {
    const box = entry("box", {
      kind: "timebox",
      from: "2026-12-07",
      to: "2026-12-18",
      name: "Fortnight 5",
      link: "/box",
    });
    open("/calendar?date=2026-12-20", [box]);
    const named = { name: "Timebox LG-02 Fortnight 5, 7 Dec 2026 to 18 Dec 2026" };
    await day("9 Dec 2026");
    expect(screen.getAllByRole("link", named).map((link) => link.getAttribute("href"))).toEqual(["/box", "/box"]);
    await press("radio", "week");
    await press("button", "The week before");
    expect((await screen.findAllByRole("link", { name: /^Timebox LG-02 Fortnight 5/ })).length).toBe(7);
  });

  it("says how many more a day has, which its week tells in full", async () => {
    open(
      "/calendar?date=2026-12-01",
      Array.from({ length: 9 }, (_, i) => entry(String(i))),
    );
    const more = within(await day("9 Dec 2026")).getByRole("link", { name: "and 4 more" });
    expect(more.getAttribute("href")).toBe("/calendar?date=2026-12-09&view=week");
  });

  it("goes on and back, to a week, and leaves kinds out; all of it is in the address", async () => {
    const sent = open("/calendar?date=2026-12-31", [entry("a"), away]);
    await press("button", "The month after");
    await waitFor(() => expect(asked(sent)).toContain("from=2026-12-28&to=2027-01-31"));
    await press("radio", "week");
    await waitFor(() => expect(asked(sent)).toContain("from=2026-12-28&to=2027-01-03"));
    await press("button", "The week before");
    await waitFor(() => expect(asked(sent)).toContain("from=2026-12-21"));
    await press("checkbox", "milestones");
    expect(screen.getByLabelText("address").textContent).toBe("/calendar?date=2026-12-25&view=week&without=milestone");
    await press("checkbox", "my own only");
    await waitFor(() => expect(asked(sent)).toContain("own=1"));
  });

  it("asks nobody for their own who sees nothing else, and says where nothing stands", async () => {
    open("/calendar?date=2026-12-20", [], { role: "contributor" });
    expect(await screen.findByText("Nothing stands in these weeks.")).toBeTruthy();
    expect(screen.queryByRole("checkbox", { name: "my own only" })).toBeNull();
  });

  it("lists a week with all that is known of each, says what is not shown, and why nothing can be", async () => {
    open("/calendar?date=2026-12-09&view=week", [entry("a", { words: "reached" }), away], { total: 7000 });
    expect((await day("9 Dec 2026")).textContent).toContain("reached");
    expect((await day("11 Dec 2026")).textContent).toContain("Away: Bo");
    expect(screen.getByText(/The first 2 of 7000 are shown/)).toBeTruthy();
    open("/calendar?date=2025-12-09", []);
    expect(await screen.findByText(/The server is away/)).toBeTruthy();
  });
});
