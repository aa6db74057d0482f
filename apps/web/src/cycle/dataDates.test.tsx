/** @jest-environment jsdom */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, Refusal, show, type Sent } from "../testing/fakePage.tsx";
import { DataDatesPage } from "./oneByOne/DataDatesPage.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const line = (id: string, dataDate: string | null, mayEdit = true) => ({
  id,
  code: id.toUpperCase(),
  name: `Project ${id}`,
  revision: 5,
  mayEdit,
  summary: { dataDate, minorDigits: 2 },
});
const PORTFOLIO = {
  programmes: [],
  projects: [line("a", "2026-02-27"), line("b", null), line("c", "2026-03-31"), line("d", "2026-02-27", false)],
};
const effect = (days: number | null) => ({
  finish: days === null ? null : { from: "2026-06-01", to: "2026-06-10", days, clock: null },
  activities: days === null ? [] : [{ id: "x", name: "X", from: "2026-06-01", to: "2026-06-10", days, clock: null }],
  milestones: [],
  deadlines:
    days === null
      ? []
      : [
          {
            id: "x",
            name: "Opening",
            before: { state: "safe", deadline: "2026-06-05", finish: "2026-06-01", marginDays: 4 },
            after: { state: "willBreach", deadline: "2026-06-05", finish: "2026-06-10", marginDays: -3 },
          },
        ],
  performance: null,
  cost: null,
  currency: "EUR",
  minorDigits: 2,
});

function server(answer: (sent: Sent) => unknown) {
  const all = listen((sent) =>
    sent.to === "GET /api/portfolio"
      ? PORTFOLIO
      : sent.to === "GET /api/period"
        ? { number: 3, dataDate: "2026-03-31" }
        : answer(sent),
  );
  return (to: RegExp) => all.filter((sent) => to.test(sent.to));
}
const tick = (name: string) => screen.getByRole<HTMLInputElement>("checkbox", { name: `Move ${name}` });
const move = () => screen.getByRole<HTMLButtonElement>("button", { name: /^Move \d+ data date/ });
const look = () => screen.getByRole("button", { name: "Show what it would move" });

describe("moving data dates", () => {
  it("begins with the projects that are behind the period, of those that one may change", async () => {
    server(() => ({}));
    show(<DataDatesPage />);
    await screen.findByRole("table", { name: "Data dates" });
    expect([tick("Project a").checked, tick("Project b").checked, tick("Project c").checked]).toEqual([
      true,
      true,
      false,
    ]);
    expect(screen.queryByRole("checkbox", { name: "Move Project d" })).toBeNull();
    expect(screen.getByText(/2 projects are behind it/)).toBeTruthy();
  });

  it("leaves closed projects out, and selects none whose plan was never approved", async () => {
    const [closed, bare] = [line("e", "2026-02-27"), line("f", null)];
    const projects = [
      { ...closed, closed: true },
      { ...bare, summary: { ...bare.summary, baseline: null } },
    ];
    listen(({ to }) =>
      to === "GET /api/portfolio" ? { programmes: [], projects } : { number: 3, dataDate: "2026-03-31" },
    );
    show(<DataDatesPage />);
    await screen.findByRole("table", { name: "Data dates" });
    expect(screen.queryByRole("checkbox", { name: "Move Project e" })).toBeNull();
    expect(tick("Project f").checked).toBe(false);
    expect(screen.getByText(/0 projects are behind it/)).toBeTruthy();
  });

  it("moves nothing before it was looked at", async () => {
    const sent = server(({ to }) =>
      to.endsWith("/effect")
        ? effect(to.includes("/a/") ? 6 : null)
        : { moved: ["A", "B"], already: [], refused: [], revisions: [{ project: "a", revision: 6 }] },
    );
    show(<DataDatesPage />);
    await screen.findByRole("table", { name: "Data dates" });
    expect(move().disabled).toBe(true);
    await userEvent.click(look());
    const row = () => within(tick("Project a").closest("tr")!);
    expect((await row().findByText("1 deadline")).title).toBe("Opening");
    await waitFor(() => expect(move().disabled).toBe(false));
    expect(sent(/effect$/).map(({ body }) => body)).toEqual([
      { revision: 5, changes: [{ type: "setDataDate", date: "2026-03-31" }] },
      { revision: 5, changes: [{ type: "setDataDate", date: "2026-03-31" }] },
    ]);
    await userEvent.click(row().getByRole("button", { name: "all of it" }));
    expect(screen.getByRole("region", { name: "What would move in Project a" })).toBeTruthy();
    await userEvent.click(move());
    await waitFor(() => expect(screen.getAllByText("moved")).toHaveLength(2));
    expect(sent(/data-date$/)[0]!.body).toEqual({ date: "2026-03-31", projects: ["a", "b"] });
  });

  it("forgets what was looked at when the day is another", async () => {
    server(({ to }) => (to.endsWith("/effect") ? effect(6) : {}));
    show(<DataDatesPage />);
    await screen.findByRole("table", { name: "Data dates" });
    await userEvent.click(look());
    await waitFor(() => expect(move().disabled).toBe(false));
    const field = screen.getByLabelText("Data date");
    await userEvent.clear(field);
    await userEvent.type(field, "3 Apr 2026{Enter}");
    expect(move().disabled).toBe(true);
    expect(screen.queryByText("1 deadline")).toBeNull();
  });

  it("looks anew when another project is selected, and goes on beside one that cannot be computed", async () => {
    server(({ to }) =>
      to.includes("/b/")
        ? new Refusal("Its dates run outside 1990 to 2099.")
        : to.endsWith("/effect")
          ? effect(null)
          : {},
    );
    show(<DataDatesPage />);
    await screen.findByRole("table", { name: "Data dates" });
    await userEvent.click(look());
    expect(await screen.findByText("Its dates run outside 1990 to 2099.")).toBeTruthy();
    await waitFor(() => expect(move().disabled).toBe(false));
    await userEvent.click(tick("Project c"));
    expect(move().disabled).toBe(true);
    expect(move().title).toBe("Look first at what it would move");
    await userEvent.click(screen.getByRole("checkbox", { name: "Select all projects" }));
    expect(screen.getByRole<HTMLButtonElement>("button", { name: /^Move (no|0)/ }).disabled).toBe(true);
  });

  it("tells of one that was refused, beside it, and of a server that cannot be reached", async () => {
    let stored = 0;
    server(({ to }) =>
      to.endsWith("/effect")
        ? effect(null)
        : stored++ === 0
          ? { moved: ["A"], already: [], refused: [{ project: "B", why: "The period is locked." }], revisions: [] }
          : new Refusal("The server cannot be reached.", 0),
    );
    show(<DataDatesPage />);
    await screen.findByRole("table", { name: "Data dates" });
    await userEvent.click(look());
    await waitFor(() => expect(move().disabled).toBe(false));
    await userEvent.click(move());
    expect(await screen.findByText("The period is locked.")).toBeTruthy();
    expect(screen.getByText("moved")).toBeTruthy();
  });
});
