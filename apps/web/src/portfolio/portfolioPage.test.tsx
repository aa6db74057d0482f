/** @jest-environment jsdom */
import type { Portfolio, ProjectLine } from "@chronometra/contract";
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, show } from "../testing/fakePage.tsx";
import { PortfolioPage } from "./PortfolioPage.tsx";

jest.mock("./SpiCpiPlot.tsx", () => ({ SpiCpiPlot: () => <p>plot</p> }));
jest.mock("../shared/charts/InView.tsx", () => ({ InView: ({ children }: { children: unknown }) => children }));

const line = (id: string, closed = false, currency = "EUR"): ProjectLine =>
  ({
    ...{ id, code: id.toUpperCase(), name: `Project ${id}`, programme: null, closed, state: "running", stage: null },
    ...{ locked: null, waiting: 0, values: {}, missing: [], says: null, issuedNumber: null, manager: "Mo" },
    summary: {
      ...{ currency, minorDigits: 2, finish: "2026-12-09", baselineFinish: null, drift: null, dataDate: null },
      ...{ worst: null, spit: null, figures: null, baseline: null, endangered: [], deadlineCounts: {}, quality: [] },
    },
  }) as unknown as ProjectLine;
const open = (projects: ProjectLine[], at = "/"): void => {
  window.history.replaceState(null, "", at);
  const portfolio = {
    ...{ name: "House", on: "2026-11-27", exchange: null, programmes: [], fields: [], thresholds: {} },
    ...{ qualityLimits: {}, projects },
  } as unknown as Portfolio;
  listen(({ to }) => (to === "GET /api/portfolio" ? portfolio : {}));
  show(<PortfolioPage />, { at });
};
const table = async () => within(await screen.findByRole("table", { name: "Projects" }));

describe("the portfolio", () => {
  it("counts the projects that are not closed, and shows the others where they are asked for", async () => {
    open([line("a"), line("b"), line("c", true)]);
    expect((await table()).getByText(/Project a/)).toBeTruthy();
    expect((await table()).queryByText(/Project c/)).toBeNull();
    expect(screen.getByText(/^2 projects/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "1 closed" }));
    expect((await table()).getByText(/Project c/)).toBeTruthy();
    expect((await table()).queryByText(/Project a/)).toBeNull();
    expect(screen.getByText(/Showing 1 project closed/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Show all" }));
    expect((await table()).getByText(/Project a/)).toBeTruthy();
  });

  it.each([
    [true, 0],
    [false, 1],
  ])("names currencies where those shown have several; one of another that is closed: %s", async (closed, columns) => {
    open([line("a"), line("b", closed, "JPY")]);
    expect((await table()).queryAllByRole("columnheader", { name: /^In\b/ })).toHaveLength(columns);
  });

  it("says what to do where there is no project, and that all are closed where they are", async () => {
    open([]);
    expect(await screen.findByRole("link", { name: "Begin a project" })).toBeTruthy();
  });

  it("says so where every project is closed", async () => {
    open([line("c", true)]);
    expect(await screen.findByText("Every project is closed.")).toBeTruthy();
    expect(screen.getByRole("button", { name: "1 closed" })).toBeTruthy();
  });
});
