/** @jest-environment jsdom */
import type { Roadmap, RoadLine } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { closeOf, openOf, parseDate } from "@chronometra/core";
import { xOf, type Scale } from "../../plan/chart/scale.ts";
import { listen, show } from "../../testing/fakePage.tsx";
import { RoadmapPage } from "./RoadmapPage.tsx";
import { roadRows, unfolded } from "./roadRows.ts";
import { extentOfRoad, laneOf, marksOf } from "./roadShapes.ts";

globalThis.ResizeObserver = class {
  observe() {}
  unobserve() {}
  disconnect() {}
} as never;

const line = (code: string, extra: Partial<RoadLine> = {}): RoadLine => ({
  id: code,
  code,
  name: `Project ${code}`,
  programme: null,
  manager: "Tomas",
  state: "running",
  stage: null,
  dataDate: "2026-06-01",
  start: "2026-03-02",
  finish: "2026-09-30",
  baselineStart: "2026-03-02",
  baselineFinish: "2026-09-16",
  drift: 10,
  earned: 0.4,
  milestones: [],
  deadlines: [],
  gates: [],
  ...extra,
});
const SCALE: Scale = { from: openOf(parseDate("2026-01-01")!), to: closeOf(parseDate("2027-01-01")!), pixelsPerDay: 2 };
const opens = (date: string): number => xOf(SCALE, openOf(parseDate(date)!));
const closes = (date: string): number => xOf(SCALE, closeOf(parseDate(date)!));

describe("a project's lane", () => {
  it("lies approved above and current below, with the wedge of its drift and how far it is", () => {
    const lane = laneOf(line("A"), SCALE);
    expect(lane.bracket).toEqual([opens("2026-03-02"), closes("2026-09-16")]);
    expect(lane.band).toEqual([opens("2026-03-02"), closes("2026-09-30")]);
    expect(lane.doneTo).toBeCloseTo(lane.band![0] + 0.4 * (lane.band![1] - lane.band![0]));
    expect(lane.wedge).toEqual({ from: closes("2026-09-16"), to: closes("2026-09-30"), late: true });
    expect(lane.label).toMatchObject({ words: "10 d late", tone: "adverse" });
  });

  it("has no wedge where nothing was approved or nothing has moved, and nothing without dates", () => {
    expect(laneOf(line("A", { baselineStart: null, baselineFinish: null, drift: null }), SCALE).wedge).toBeNull();
    expect(laneOf(line("A", { drift: 0 }), SCALE).wedge).toBeNull();
    const undated = laneOf(line("A", { start: null, finish: null, drift: null, earned: null }), SCALE);
    expect([undated.band, undated.doneTo]).toEqual([null, null]);
    expect(laneOf(line("A", { drift: -3 }), SCALE).label).toMatchObject({ words: "3 d early", tone: "favourable" });
  });

  it("carries milestones, deadlines and gates in the order of their days, each in words", () => {
    const marks = marksOf(
      line("A", {
        milestones: [
          {
            id: "m",
            name: "Open",
            baseline: "2026-09-16",
            forecast: "2026-09-30",
            drift: 10,
            reached: false,
            deadline: null,
          },
          {
            id: "x",
            name: "Gone",
            baseline: null,
            forecast: "2026-05-01",
            drift: null,
            reached: false,
            dropped: true,
            deadline: null,
          },
        ],
        deadlines: [
          { id: "m", name: "Open", deadline: "2026-09-20", finish: "2026-09-30", marginDays: -8, state: "willBreach" },
        ],
        gates: [{ stage: "s", name: "Go", date: "2026-04-01", approved: null, passed: true }],
      }),
      SCALE,
    );
    expect(marks.map(({ kind, done, adverse }) => [kind, done, adverse])).toEqual([
      ["gate", true, false],
      ["deadline", false, true],
      ["milestone", false, true],
    ]);
    expect(marks[0]!.words).toBe("Gate “Go”, passed 1 Apr 2026");
    expect(marks[2]!.words).toBe("Open: forecast 30 Sep 2026, approved for 16 Sep 2026, 10 d late");
  });

  it("lies on an axis that holds all of them, the data date too", () => {
    const gates = [{ stage: "s", name: "Go", date: "2027-02-01", approved: null, passed: false }];
    expect(extentOfRoad([line("A"), line("B", { gates })], "2026-02-01")).toEqual({
      from: "2026-02-01",
      to: "2027-02-01",
    });
    const none = { start: null, finish: null, baselineStart: null, baselineFinish: null };
    expect(extentOfRoad([line("A", none)], "2026-02-01")).toBeNull();
  });
});

const ROADMAP: Roadmap = {
  dataDate: "2026-06-01",
  programmes: [
    { id: "port", name: "Port", parent: null },
    { id: "locks", name: "Locks", parent: "port" },
    { id: "empty", name: "Empty", parent: null },
  ],
  projects: [
    line("A", { programme: "locks", manager: "Radu", stage: "Works" }),
    line("B", { programme: "port" }),
    line("C"),
    line("D", { programme: "gone" }),
  ],
};
const namesOf = (rows: ReturnType<typeof roadRows>): string[] =>
  rows.map(
    (row) => `${"  ".repeat(row.depth)}${row.is === "group" ? `${row.name} ${row.lines.length}` : row.line.code}`,
  );

describe("the lines of the roadmap", () => {
  it("follow the tree of groups, each counting all below it; what is in none stands outside", () => {
    const rows = roadRows(ROADMAP, "programme", "");
    expect(namesOf(rows)).toEqual(["Port 2", "  B", "  Locks 1", "    A", "Outside the programmes 2", "  C", "  D"]);
    expect(namesOf(unfolded(rows, new Set(["port"])))).toEqual(["Port 2", "Outside the programmes 2", "  C", "  D"]);
    expect(namesOf(unfolded(rows, new Set(["locks"])))).toEqual([
      "Port 2",
      "  B",
      "  Locks 1",
      "Outside the programmes 2",
      "  C",
      "  D",
    ]);
  });

  it("are grouped by manager or stage, and filtered by what is typed", () => {
    expect(namesOf(roadRows(ROADMAP, "manager", ""))).toEqual(["Radu 1", "  A", "Tomas 3", "  B", "  C", "  D"]);
    expect(namesOf(roadRows(ROADMAP, "stage", "project a"))).toEqual(["Works 1", "  A"]);
    expect(namesOf(roadRows(ROADMAP, "none", "radu"))).toEqual(["A"]);
  });
});

describe("the page of the roadmap", () => {
  it("folds groups and keeps how it is looked at in its address", async () => {
    window.history.replaceState(null, "", "/roadmap");
    listen(() => ROADMAP);
    show(<RoadmapPage />, { at: "/roadmap" });
    const table = within(await screen.findByRole("table", { name: "Roadmap" }));
    expect(table.getByRole("link", { name: "A Project A" })).toBeTruthy();
    await userEvent.click(table.getByRole("button", { name: /Port/ }));
    await waitFor(() => expect(table.queryByRole("link", { name: "A Project A" })).toBeNull());
    expect(screen.getByLabelText("address").textContent).toContain("folded=port");
    await userEvent.selectOptions(screen.getByLabelText("Group projects by"), "nothing");
    expect(await table.findByRole("link", { name: "A Project A" })).toBeTruthy();
    expect(screen.getByLabelText("address").textContent).toContain("by=none");
  });

  it("says what to expect where nothing has dates yet", async () => {
    window.history.replaceState(null, "", "/roadmap");
    listen(() => ({ programmes: [], dataDate: null, projects: [] }));
    show(<RoadmapPage />, { at: "/roadmap" });
    expect(await screen.findByText(/No project has dates yet/)).toBeTruthy();
  });
});
