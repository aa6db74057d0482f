/** @jest-environment jsdom */
import type { QualityView } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, Refusal, show } from "../testing/fakePage.tsx";
import { OffencePanel } from "./OffencePanel.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

type Check = QualityView["checks"][number];
type Finding = QualityView["findings"][number];

const offence = (id: string, words = "starts before it ends") => ({
  id,
  name: `Row ${id}`,
  words,
  mend: "links" as const,
});
const check = (part: Partial<Check>): Check => ({
  number: 2,
  name: "Leads",
  counts: "Links with a negative lag",
  why: "They hide what overlaps.",
  value: 0.1,
  words: "2 of 20",
  limit: "0 allowed",
  published: null,
  passes: false,
  mendMany: "leadsToOverlaps",
  offences: [offence("a"), offence("b")],
  trend: [],
  ...part,
});
const quality = (part: Partial<QualityView> = {}): QualityView => ({
  asOf: "2026-03-31",
  baseline: 1,
  mayEdit: true,
  verdict: { fitness: "fit", reasons: [], best: null },
  checks: [],
  findings: [],
  pathTest: null,
  ...part,
});
const EFFECT = {
  finish: null,
  activities: [],
  milestones: [],
  deadlines: [],
  performance: null,
  cost: null,
  currency: "EUR",
  minorDigits: 2,
};
const mending = () =>
  listen(({ to }) =>
    to.endsWith("/effect") ? { effect: EFFECT, changes: 2, left: [] } : { revision: 9, changes: 2, left: [] },
  );
const panel = (about: Check | Finding, of: Partial<QualityView> = {}) =>
  show(<OffencePanel project="p" quality={quality(of)} about={about} />);
const named = () =>
  within(screen.getByRole("list", { name: /^Named by/ }))
    .getAllByRole("listitem")
    .map((item) => item.textContent);
const box = (name: string) => screen.getByRole<HTMLInputElement>("checkbox", { name });

describe("what a check names", () => {
  it("is told with its limit, the published one where another is set, and the way to each row", () => {
    mending();
    panel(check({ published: "5%" }));
    expect(screen.getByText("2 of 20").className).toContain("adverse");
    expect(screen.getByText("(published: 5%)")).toBeTruthy();
    expect(screen.getByRole("link", { name: "Row a" }).getAttribute("href")).toBe(
      "/projects/p/plan?at=a&cell=after&about=why",
    );
  });

  it("stands once where it is named twice for the same, and each time where it is for something else", () => {
    mending();
    panel(check({ offences: [offence("a"), offence("a"), offence("a", "and again")] }));
    expect(named()).toEqual(["Row astarts before it ends", "Row aand again"]);
  });

  it.each([
    [{ passes: null, value: null }, "There is nothing to count."],
    [{ passes: true, number: 13 }, "It is an index of the whole plan and names nobody."],
    [{ passes: true, number: 3 }, "Nothing: it holds for all."],
  ])("is nobody for a reason: %j", (part, words) => {
    panel(check({ ...part, offences: [] }));
    expect(named()).toEqual([words]);
    expect(screen.queryByRole("region", { name: "Mend many" })).toBeNull();
  });

  it("is the answer of the critical path test, with the way to see it drawn", () => {
    const pathTest = { id: "a", name: "Dig", addedDays: 600, movedDays: 0, finish: "2026-05-01", then: "2026-05-01" };
    panel(check({ number: 12, mendMany: null }), { pathTest });
    expect(screen.getByText(/With Dig 600 d longer, the finish goes from 1 May 2026 to 1 May 2026/)).toBeTruthy();
    expect(screen.getByRole("link", { name: "See it in the time chart" }).getAttribute("href")).toContain("lit=test");
    expect(screen.getByRole("heading", { name: /What was made longer/ })).toBeTruthy();
  });
});

describe("mending many at once", () => {
  it("mends what is selected after showing what moves, and begins with all", async () => {
    const sent = mending();
    panel(check({}));
    const button = await screen.findByRole("button", { name: "Say them as overlaps: 2 changes" });
    expect(sent.map(({ body }) => body)).toEqual([{ mend: "leadsToOverlaps", activities: ["a", "b"] }]);
    await userEvent.click(box("Mend Row a"));
    await waitFor(() => expect(sent.at(-1)!.body).toEqual({ mend: "leadsToOverlaps", activities: ["b"] }));
    await waitFor(() => expect(button.isConnected && !(button as HTMLButtonElement).disabled).toBe(true));
    await userEvent.click(screen.getByRole("button", { name: /^Say them as overlaps/ }));
    await waitFor(() =>
      expect(sent.find(({ to }) => to === "POST /api/projects/p/quality/mend")?.body).toEqual({
        mend: "leadsToOverlaps",
        activities: ["b"],
      }),
    );
  });

  it("takes all or none by one tick", async () => {
    mending();
    panel(check({}));
    await userEvent.click(box("all"));
    expect([box("Mend Row a").checked, box("Mend Row b").checked]).toEqual([false, false]);
    expect(screen.getByText("Select those to be mended.")).toBeTruthy();
    await userEvent.click(box("all"));
    expect([box("Mend Row a").checked, box("Mend Row b").checked, box("all").checked]).toEqual([true, true, true]);
  });

  it("is not offered to those who may not change the plan, nor where it is mended one by one", () => {
    panel(check({}), { mayEdit: false });
    expect(screen.queryByRole("region", { name: "Mend many" })).toBeNull();
    expect(screen.queryByRole("checkbox")).toBeNull();
  });

  it("says why it was refused, and keeps what is selected", async () => {
    listen(({ to }) =>
      to.endsWith("/effect") ? { effect: EFFECT, changes: 2, left: [] } : new Refusal("The project is closed."),
    );
    panel(check({}));
    await userEvent.click(await screen.findByRole("button", { name: /^Say them as overlaps/ }));
    expect(await screen.findByText("The project is closed.")).toBeTruthy();
    expect([box("Mend Row a").checked, box("Mend Row b").checked]).toEqual([true, true]);
  });

  it("names what stays as it is, and why", async () => {
    listen(() => ({ effect: EFFECT, changes: 1, left: [{ id: "b", name: "Row b", why: "it has begun" }] }));
    panel(check({}));
    expect(await screen.findByText("Row b stays: it has begun.")).toBeTruthy();
  });
});
