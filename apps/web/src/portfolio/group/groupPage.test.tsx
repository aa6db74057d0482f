/** @jest-environment jsdom */
import type { GroupPeriods, Groups, Portfolio, ProjectLine } from "@chronometra/contract";
import type { Figures } from "@chronometra/core";
import { cleanup, screen, within } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { listen, show, someone } from "../../testing/fakePage.tsx";
import { childrenOf, earnedOf, HOUSE, linesOf, pathTo, periodsTogether } from "./groupFigures.ts";
import { GroupPage } from "./GroupPage.tsx";

jest.mock("../../talk/announce/Announcements.tsx", () => ({ Announcements: () => null }));
jest.mock("../../look/Curves.tsx", () => ({ Curves: () => <p>curves</p> }));
jest.mock("./GroupLoad.tsx", () => ({ GroupLoad: () => <p>load</p> }));
jest.mock("../../look/IndexCurves.tsx", () => ({ IndexCurves: () => <p>indices</p> }));

const GROUPS: Groups["groups"] = [
  { id: "port", name: "Port", parent: null, manager: { id: "t", name: "Tomas" } },
  { id: "locks", name: "Locks", parent: "port", manager: null },
  { id: "north", name: "North", parent: "locks", manager: null },
  { id: "empty", name: "Empty", parent: null, manager: null },
];
const figures = (bac: number, ev: number, ac: number): Figures =>
  ({ bac, pv: bac / 2, ev, ac, eacBottomUp: bac }) as unknown as Figures;
const line = (id: string, programme: string | null, currency = "EUR"): ProjectLine =>
  ({
    id,
    code: id.toUpperCase(),
    name: `Project ${id}`,
    programme,
    closed: false,
    locked: null,
    waiting: 0,
    values: {},
    missing: [],
    says: null,
    summary: {
      ...{ currency, finish: "2026-12-09", baselineFinish: null, drift: null, dataDate: null, worst: null, spit: null },
      minorDigits: currency === "JPY" ? 0 : 2,
      figures: figures(100_000, 40_000, 50_000),
      endangered: [
        {
          id: "d",
          name: `Tide of ${id}`,
          deadline: "2026-12-01",
          finish: "2026-12-09",
          marginDays: -6,
          state: "willBreach",
        },
      ],
      deadlineCounts: { willBreach: 1 },
      quality: [],
    },
  }) as unknown as ProjectLine;
const PORTFOLIO = {
  name: "House",
  on: "2026-11-27",
  exchange: null,
  programmes: GROUPS.map(({ id, name, parent }) => ({ id, name, parent })),
  fields: [],
  thresholds: {},
  qualityLimits: {},
  projects: [line("a", "north"), line("b", "port"), line("c", null)],
} as unknown as Portfolio;
const codes = (id: string): string[] => linesOf(PORTFOLIO, GROUPS, id).map(({ id: project }) => project);

describe("a group", () => {
  it("has the projects of all groups below it; the house has all", () => {
    expect(codes("north")).toEqual(["a"]);
    expect(codes("locks")).toEqual(["a"]);
    expect(codes("port")).toEqual(["a", "b"]);
    expect(codes("empty")).toEqual([]);
    expect(codes(HOUSE)).toEqual(["a", "b", "c"]);
    expect(childrenOf(GROUPS, HOUSE).map(({ id }) => id)).toEqual(["port", "empty"]);
    expect(pathTo(GROUPS, "north").map(({ id }) => id)).toEqual(["port", "locks"]);
  });

  it("sums what was issued, period by period; over several currencies only where rates are known", () => {
    const point = (project: string, currency: string, ev: number) => ({
      ...{ project, currency, minorDigits: currency === "JPY" ? 0 : 2 },
      figures: figures(100_000, ev, 50_000) as never,
    });
    const issued: GroupPeriods = [
      { number: 1, dataDate: "2026-10-30", projects: [point("a", "EUR", 40_000), point("b", "EUR", 20_000)] },
    ];
    const { periods, summedIn } = periodsTogether(issued, PORTFOLIO);
    expect(periods).toMatchObject([{ number: 1, figures: { ev: 60_000, ac: 100_000, bac: 200_000, cpi: 0.6 } }]);
    expect(summedIn).toMatchObject({ minorDigits: 2 });
    const mixed: GroupPeriods = [{ ...issued[0]!, projects: [point("a", "EUR", 1), point("b", "JPY", 1)] }];
    expect(periodsTogether(mixed, PORTFOLIO).periods).toEqual([]);
    const later = { number: 2, dataDate: "2026-11-27", projects: [point("b", "EUR", 30_000)] };
    expect(periodsTogether([...issued, later], PORTFOLIO).periods[1]).toMatchObject({ figures: { ev: 70_000 } });
    expect(periodsTogether([], PORTFOLIO)).toEqual({ periods: [], summedIn: null });
  });
});

describe("earned schedule of a group", () => {
  const at = (id: string, dataDate: string, currency = "EUR"): ProjectLine => {
    const one = line(id, "port", currency);
    return { ...one, summary: { ...one.summary, dataDate, figures: figures(100_000, 50_000, 50_000) } };
  };
  const planned = (currency: string, first: string, months: Record<string, number>) => ({
    ...{ currency, minorDigits: currency === "JPY" ? 0 : 2, first },
    months: Object.entries(months).map(([month, minor]) => ({ month, minor })),
  });

  it("adds what is planned month by month, in one money, and names who stands earlier than the others", () => {
    const lines = [at("a", "2026-02-14"), at("b", "2026-02-28")];
    const both = [planned("EUR", "2026-01-01", { "2026-01": 50_000, "2026-03": 150_000 })];
    const found = earnedOf(both, lines, PORTFOLIO)!;
    expect(found.earned).toMatchObject({ pd: 3, at: 2 });
    expect(found.earned.es).toBeCloseTo(2 + 50_000 / 150_000, 9);
    expect([found.dataDate, found.behind.map(({ id }) => id)]).toEqual(["2026-02-28", ["a"]]);
  });

  it("converts each currency, and says nothing where a rate is missing", () => {
    const lines = [at("a", "2026-02-28"), at("b", "2026-02-28", "JPY")];
    const two = [
      planned("EUR", "2026-02-10", { "2026-02": 100_000 }),
      planned("JPY", "2026-01-01", { "2026-01": 100_000 }),
    ];
    expect(earnedOf(two, lines, PORTFOLIO)).toBeNull();
    const rates = { currency: "EUR", minorDigits: 2, rates: [{ currency: "JPY", rate: 0.01, from: "2026-01-01" }] };
    const found = earnedOf(two, lines, { ...PORTFOLIO, exchange: rates } as never);
    // 1 000 EUR each of 1 000 EUR and 1 000 EUR: half of each is earned, which was planned for January.
    expect(found!.earned).toMatchObject({ pd: 2, at: 2, es: 1, svt: -1 });
    expect(earnedOf([], lines.slice(0, 1), PORTFOLIO)).toBeNull();
    expect(earnedOf(two, [], PORTFOLIO)).toBeNull();
  });
});

describe("the page of a group", () => {
  const open = (at: string, issued: GroupPeriods = [], portfolio = PORTFOLIO, me = someone("controller")): void => {
    window.history.replaceState(null, "", at);
    listen(({ to }) =>
      to === "GET /api/portfolio"
        ? portfolio
        : to === "GET /api/programmes"
          ? ({ groups: GROUPS, managers: [], mayEdit: true } satisfies Groups)
          : to.endsWith("/periods")
            ? issued
            : to.endsWith("/planned")
              ? []
              : {},
    );
    show(
      <Routes>
        <Route path="/groups/:group?" element={<GroupPage />} />
      </Routes>,
      { at, me },
    );
  };

  it("offers the report, which tells of all that lies in a group, to whoever looks at all of it", async () => {
    const me = { ...someone("reader"), within: { reader: ["locks", "north"] } };
    open("/groups/locks", [], PORTFOLIO, me);
    expect(await screen.findByRole("link", { name: "Report" })).toBeTruthy();
    cleanup();
    open("/groups/port", [], PORTFOLIO, me);
    expect(await screen.findByText("Of what you see: Locks")).toBeTruthy();
    expect(screen.queryByRole("link", { name: "Report" })).toBeNull();
  });

  it("says what it comes to, what lies below it, and which deadlines are in danger", async () => {
    open("/groups/port");
    expect(await screen.findByRole("heading", { name: "Port" })).toBeTruthy();
    expect(screen.getByText("Tomas answers for it")).toBeTruthy();
    const groups = within(screen.getByRole("table", { name: "Groups" }));
    expect(groups.getByRole("link", { name: "Locks" })).toBeTruthy();
    expect(screen.getByText("2 projects")).toBeTruthy();
    expect(screen.getByRole("link", { name: "Tide of a" })).toBeTruthy();
    expect(screen.queryByRole("link", { name: "Tide of c" })).toBeNull();
    expect(await screen.findByText(/Nothing was issued yet/)).toBeTruthy();
  });

  it("leaves what is closed out of its sums and its count, and names it", async () => {
    const closed = { ...line("z", "port"), closed: true };
    open("/groups/port", [], { ...PORTFOLIO, projects: [...PORTFOLIO.projects, closed] });
    expect(await screen.findByText("2 projects")).toBeTruthy();
    expect(screen.getByText("1 closed, in no sum")).toBeTruthy();
    expect(screen.getByRole("link", { name: "Z Project z" })).toBeTruthy();
    expect(screen.getByText("BAC", { selector: "dt" }).nextElementSibling!.textContent).toMatch(/^2.000$/);
    expect(screen.queryByRole("link", { name: "Tide of z" })).toBeNull();
  });

  it("says so where nothing is in it, or it is there no more", async () => {
    open("/groups/empty");
    expect(await screen.findByText(/Nothing to sum up/)).toBeTruthy();
    expect(screen.getByText(/No project is here yet/)).toBeTruthy();
    expect(screen.getByText(/None is broken, will be, or is tight/)).toBeTruthy();
  });

  it("of no group says where all are", async () => {
    open("/groups/gone");
    expect(await screen.findByText(/There is no group of that address/)).toBeTruthy();
  });
});
