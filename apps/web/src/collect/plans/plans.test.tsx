/** @jest-environment jsdom */
import type { ActivityHistory, OwnPlan, OwnPlanActivity } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, show, someone } from "../../testing/fakePage.tsx";
import { OwnPlanPage } from "./OwnPlanPage.tsx";
import { OwnPlansPage } from "./OwnPlansPage.tsx";
import { laneOf, rowsOf, scaleOf } from "../../plan/read/planLanes.ts";

jest.mock("../../talk/Thread.tsx", () => ({ Thread: () => <p>talk</p> }));
jest.mock("../../talk/FollowButtons.tsx", () => ({ FollowButtons: () => null }));
jest.mock("../../talk/TalkButton.tsx", () => ({ TalkButton: () => null }));
jest.mock("react-router", () => ({ ...jest.requireActual("react-router"), useParams: () => ({ project: "p" }) }));

beforeAll(() => {
  globalThis.ResizeObserver = class {
    observe() {}
    disconnect() {}
    unobserve() {}
  } as never;
});

const activity = (id: string, parent: string | null, more: Partial<OwnPlanActivity> = {}): OwnPlanActivity => ({
  ...{ id, parent, name: id, kind: "work", state: "notStarted", start: "2026-03-02", finish: "2026-03-06" },
  ...{ baselineStart: null, baselineFinish: null, drift: null, percent: null, deadline: null, deadlineState: null },
  ...{ margin: null, blockedBy: null, people: [], own: false },
  ...more,
});
const PLAN: OwnPlan = {
  ...{ id: "p", code: "T-1", name: "Slipway", manager: "Tomas", isClosed: false, dataDate: "2026-03-04" },
  words: { notStarted: "waiting" },
  activities: [
    activity("Works", null, { kind: "summary" }),
    activity("Dig", "Works", {
      own: true,
      people: ["Ann"],
      baselineStart: "2026-03-02",
      baselineFinish: "2026-03-04",
      drift: 2,
    }),
    activity("Pour", "Works", { people: ["Bo"] }),
    activity("Open", null, { kind: "milestone", deadline: "2026-03-13", margin: 3 }),
    activity("Later", null, { start: null, finish: null, state: "parked" }),
  ],
};
const HISTORY: ActivityHistory = {
  lists: [
    {
      ...{ revision: 3, at: "2026-03-03T10:00:00.000Z", by: "Tomas", label: "x", through: "hand", takenBack: false },
      lines: [
        {
          path: "activities/Dig/durationMinutes",
          what: "Dig",
          field: "duration",
          was: "40 h",
          is: "48 h",
        },
      ],
    },
  ],
  older: null,
};
const names = (...asked: Parameters<typeof rowsOf>): string[] =>
  rowsOf(...asked).map(({ activity: { id }, depth }) => `${"-".repeat(depth)}${id}`);
const NONE = new Set<string>();

describe("the rows of a plan that is read", () => {
  it("stand in its order, as deep as they are; a fold hides what lies below", () => {
    const { activities } = PLAN;
    expect(names(activities, { part: "all", find: "", folded: NONE })).toEqual([
      "Works",
      "-Dig",
      "-Pour",
      "Open",
      "Later",
    ]);
    expect(names(activities, { part: "all", find: "", folded: new Set(["Works"]) })).toEqual([
      "Works",
      "Open",
      "Later",
    ]);
  });

  it("of a part, or found by a name, stand with the branches in which they lie, whatever is folded", () => {
    const { activities } = PLAN;
    const folded = new Set(["Works"]);
    expect(names(activities, { part: "own", find: "", folded })).toEqual(["Works", "-Dig"]);
    expect(names(activities, { part: "deadlines", find: "", folded })).toEqual(["Open"]);
    expect(names(activities, { part: "all", find: "bo", folded })).toEqual(["Works", "-Pour"]);
    expect(names(activities, { part: "own", find: "pour", folded })).toEqual([]);
  });

  it("lie in time where their dates say; what has none lies nowhere", () => {
    const scale = scaleOf(PLAN, 800)!;
    const dig = laneOf(PLAN.activities[1]!, scale);
    expect([dig.band![0], dig.label]).toEqual([
      dig.bracket![0],
      expect.objectContaining({ words: "2 d late", tone: "adverse" }),
    ]);
    expect(dig.band![1]).toBeGreaterThan(dig.bracket![1]);
    const open = laneOf(PLAN.activities[3]!, scale);
    expect([open.band, open.pennants!.approved]).toEqual([null, null]);
    expect(open.deadline).toBeGreaterThan(open.pennants!.now);
    expect(laneOf(PLAN.activities[4]!, scale)).toMatchObject({
      band: null,
      bracket: null,
      pennants: null,
      label: null,
    });
    expect(scaleOf({ ...PLAN, activities: [PLAN.activities[4]!] }, 800)).toBeNull();
  });
});

describe("the plan of a project that one works in", () => {
  it("is read; a row opens all about it, of one’s own also what became of it", async () => {
    listen(({ to }) => (to.includes("/history") ? HISTORY : PLAN));
    show(<OwnPlanPage />, { me: someone("contributor") });
    const table = within(await screen.findByRole("table", { name: "Plan of Slipway" }));
    await userEvent.click(table.getByRole("button", { name: "Pour" }));
    const pour = within(screen.getByRole("complementary", { name: "About Pour" }));
    expect(pour.getByText("Bo")).toBeTruthy();
    expect(pour.queryByRole("button", { name: "What became of it" })).toBeNull();
    await userEvent.click(table.getByRole("button", { name: /^Dig/ }));
    await userEvent.click(screen.getByRole("button", { name: "What became of it" }));
    expect(await screen.findByText(/48 h/)).toBeTruthy();
    expect(screen.queryByRole("link", { name: /Mar 2026/ })).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Close" }));
    await waitFor(() => expect(screen.queryByRole("complementary")).toBeNull());
    await userEvent.selectOptions(screen.getByLabelText("What of the plan is shown"), "deadlines");
    expect(screen.getByLabelText("address").textContent).toContain("part=deadlines");
  });

  it("is chosen from a list that says what is one’s own; without work there is none, and why", async () => {
    listen(() => [
      {
        ...{ id: "p", code: "T-1", name: "Slipway", manager: "Tomas", finish: "2026-03-11", open: 2 },
        next: null,
        breaking: 1,
      },
    ]);
    show(<OwnPlansPage />, { me: someone("contributor") });
    expect((await screen.findByRole("link", { name: "Slipway" })).getAttribute("href")).toBe("/desk/plans/p");
  });

  it("is asked for where there is none", async () => {
    listen(() => []);
    show(<OwnPlansPage />, { me: someone("contributor") });
    expect(await screen.findByText(/no work in any project yet/)).toBeTruthy();
  });
});
