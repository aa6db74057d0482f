/** @jest-environment jsdom */
import { CYCLE_STEPS, type Cycle, type CycleStep, type ProjectCycle } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, Refusal, show, type Sent } from "../testing/fakePage.tsx";
import { LockPage } from "./oneByOne/LockPage.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const CHECKED = { words: "", by: "Cora", at: "2026-03-10T08:00:00.000Z" };
const project = (
  id: string,
  more: Partial<ProjectCycle> = {},
  open: Partial<Record<CycleStep, number>> = {},
): ProjectCycle => ({
  id,
  code: id.toUpperCase(),
  name: `Project ${id}`,
  manager: "Mo",
  mayEdit: true,
  takesPart: true,
  closed: false,
  steps: CYCLE_STEPS.map((name) => ({ name, open: open[name] ?? 0, words: "", waitsFor: [] })),
  missing: [],
  unreminded: [],
  findings: [],
  broken: [],
  checked: CHECKED,
  issued: false,
  locked: false,
  lockedWord: null,
  reopened: [],
  ...more,
});
const cycle = (...projects: ProjectCycle[]): Cycle =>
  ({ number: 3, dataDate: "2026-03-31", issueBy: null, projects }) as unknown as Cycle;
const PORTFOLIO = { name: "House", exchange: null, on: "2026-03-31", programmes: [], fields: [], projects: [] };
const SOUND = project("a");
const SHORT = project("b", { missing: [{ id: "x", name: "Xan" }] });
const WAITING = project("c", {}, { Review: 2 });
const CLOSED = project("d", { takesPart: false, closed: true });
const DONE = project("e", { locked: true });

const server =
  (found: Cycle, lock: (sent: Sent) => unknown = () => ({ ok: true })) =>
  (sent: Sent): unknown =>
    sent.to === "GET /api/cycle" ? found : sent.to === "GET /api/portfolio" ? PORTFOLIO : lock(sent);
const locks = (sent: readonly Sent[]): [string, unknown][] =>
  sent.flatMap(({ to, body }) => (to.startsWith("POST") && to.endsWith("/lock") ? [[to.split("/")[3]!, body]] : []));
const rowOf = (name: string) => screen.getByRole("row", { name: new RegExp(name) });

describe("locking a period", () => {
  it("begins with what nothing speaks against, and shows neither closed nor locked projects", async () => {
    listen(server(cycle(SOUND, SHORT, WAITING, CLOSED, DONE)));
    show(<LockPage />);
    await screen.findByRole("table", { name: "What will be locked" });
    expect(screen.getByRole<HTMLInputElement>("checkbox", { name: "Lock Project a" }).checked).toBe(true);
    expect(screen.getByRole<HTMLInputElement>("checkbox", { name: "Lock Project b" }).checked).toBe(false);
    expect(screen.queryByRole("checkbox", { name: "Lock Project c" })).toBeNull();
    expect(rowOf("Project c").textContent).toContain("cannot be locked: 2 reports wait for a decision");
    expect(
      within(rowOf("Project c"))
        .getByRole("link", { name: /2 reports wait/ })
        .getAttribute("href"),
    ).toBe("/time?project=c");
    expect(screen.queryByText("Project d")).toBeNull();
    expect(screen.queryByText("Project e")).toBeNull();
  });

  it("locks what is selected one by one; of what falls short only with a word, its own or that for all", async () => {
    const second = project("f", { checked: null, findings: ["x"] });
    const sent = listen(server(cycle(SOUND, SHORT, second)));
    show(<LockPage />);
    await userEvent.click(await screen.findByRole("checkbox", { name: "Select all that can be locked" }));
    const lock = screen.getByRole<HTMLButtonElement>("button", { name: "Lock 3 projects" });
    expect(lock.disabled).toBe(true);
    expect(screen.getByText(/Of 2 projects something falls short/)).toBeTruthy();
    await userEvent.type(screen.getByLabelText("Why Project b is locked all the same"), "Xan is away");
    await userEvent.type(screen.getByLabelText(/A word for all/), "looked at by telephone");
    expect(lock.disabled).toBe(false);
    await userEvent.click(lock);
    await waitFor(() => expect(locks(sent)).toHaveLength(3));
    expect(locks(sent)).toEqual([
      ["a", { word: "looked at by telephone" }],
      ["b", { word: "Xan is away" }],
      ["f", { word: "looked at by telephone" }],
    ]);
    await waitFor(() => expect(screen.getAllByText("locked")).toHaveLength(3));
  });

  it("goes on after one that could not be locked, and says why beside it", async () => {
    const sent = listen(
      server(cycle(SOUND, project("b"), project("c")), ({ to }) =>
        to.includes("/b/") ? new Refusal("A report came in meanwhile.", 409, "conflict") : { ok: true },
      ),
    );
    show(<LockPage />);
    await userEvent.click(await screen.findByRole("button", { name: "Lock 3 projects" }));
    await screen.findByText("A report came in meanwhile.");
    expect(locks(sent).map(([id]) => id)).toEqual(["a", "b", "c"]);
    await waitFor(() => expect(screen.getAllByText("locked")).toHaveLength(2));
    expect(within(rowOf("Project b")).getByText("A report came in meanwhile.")).toBeTruthy();
  });

  it("says where to go where there is nothing to lock, or no period", async () => {
    listen(server(cycle(DONE)));
    show(<LockPage />);
    expect((await screen.findByText(/Every project that takes part has locked/)).textContent).toContain("To the cycle");
  });

  it("says that no period is open", async () => {
    listen(server({ ...cycle(SOUND), number: null }));
    show(<LockPage />);
    await screen.findByText(/No reporting period is open/);
  });

  it("of one project that the address names, all that can be locked is selected", async () => {
    listen(server(cycle(SOUND, SHORT)));
    show(<LockPage />, { at: "/cycle/lock?project=b" });
    expect((await screen.findByRole<HTMLInputElement>("checkbox", { name: "Lock Project b" })).checked).toBe(true);
    expect(screen.queryByText(/Project a/)).toBeNull();
  });
});
