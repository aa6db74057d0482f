/** @jest-environment jsdom */
import type { DraftAspect, IssuedReport, ReportContent, ReportDraft } from "@chronometra/contract";
import { ASPECTS, type Aspect } from "@chronometra/core";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { listen, Refusal, show, someone, type Sent } from "../testing/fakePage.tsx";
import { IssuedPage } from "./IssuedPage.tsx";
import { ReportPage } from "./ReportPage.tsx";

jest.mock("../documents/DocumentsButton.tsx", () => ({ DocumentsButton: () => null }));
jest.mock("../talk/TalkButton.tsx", () => ({ TalkButton: () => null }));
jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const aspect = (name: Aspect, more: Partial<DraftAspect> = {}): DraftAspect => ({
  aspect: name,
  version: 0,
  suggested: "well",
  rules: ["no limit is broken"],
  rating: null,
  reason: "",
  text: null,
  begun: `Begun on ${name}.`,
  last: null,
  by: null,
  at: null,
  ...more,
});
const line = (number: number, more: object = {}) => ({
  number,
  edition: 1,
  dataDate: "2026-10-30",
  by: "Mo",
  at: "2026-10-30T18:00:00.000Z",
  digest: "0123456789abcdef".repeat(4),
  holds: true,
  reopened: null,
  ...more,
});
const DRAFT: ReportDraft = {
  id: "p",
  of: "project",
  name: "Jetty",
  mayEdit: true,
  mayIssue: true,
  period: { number: 10, dataDate: "2026-11-27", issueBy: "2026-12-01T12:00" },
  hindrance: null,
  issued: false,
  aspects: ASPECTS.map((name) =>
    aspect(name, name === "cost" ? { last: { rating: "care", text: "Steel was dear." } } : {}),
  ),
  reports: [line(9), line(9, { edition: 0, holds: false, reopened: "an invoice came" })],
};
const content = (period: number, spi: string): ReportContent => ({
  format: 1,
  of: "project",
  organisation: "Saltmarrow",
  title: "Jetty",
  under: "J-1",
  manager: "Mo",
  period,
  dataDate: "2026-11-27",
  parts: [
    {
      id: "ratings",
      title: "What the manager says",
      level: 1,
      blocks: [
        {
          is: "said",
          aspect: "cost",
          name: "Cost",
          rating: "care",
          words: "needs care",
          why: "CPI",
          text: "<b>dear</b>",
        },
      ],
    },
    {
      id: "figures",
      title: "Figures",
      level: 1,
      blocks: [{ is: "figures", items: [{ name: "SPI", value: { text: spi }, change: "−0.10", link: "/projects/p" }] }],
    },
    {
      id: "curves",
      title: "Curves",
      level: 1,
      blocks: [
        {
          is: "curve",
          currency: "JPY",
          minorDigits: 0,
          dataDate: "2026-11-27",
          points: [
            { date: "2026-09-30", pv: 0, ev: 0, ac: 0 },
            { date: "2026-11-27", pv: 900, ev: 700, ac: 800 },
            { date: "2026-12-31", pv: 1000, ev: null, ac: null },
          ],
        },
        {
          is: "trend",
          dates: ["2026-10-30", "2026-11-27"],
          lines: [{ name: "Open", forecasts: [null, "2026-12-24"] }],
        },
        { is: "table", columns: [{ name: "Promise", number: false }], rows: [], none: "Nothing has a deadline." },
        { is: "lines", items: [{ text: "Decide", tone: "adverse", link: "/approvals" }], none: "" },
      ],
    },
  ],
});
const ISSUED: IssuedReport = {
  line: line(9),
  content: content(9, "0.90"),
  whole: true,
  before: 8,
  after: null,
  numbers: [9, 8],
  editions: [line(9), line(9, { edition: 0, holds: false })],
};

type Act = (sent: Sent) => unknown;
/** A server that keeps what is said, as it is told. */
function serve(first: ReportDraft, act: Act = () => ({ ok: true })): () => Sent[] {
  let draft = first;
  const all = listen(async (sent) => {
    if (!sent.to.startsWith("GET")) {
      const answer = await act(sent);
      if (sent.to.includes("/said/") && !(answer instanceof Refusal)) {
        const { version, ...said } = sent.body as { version: number };
        const keep = (each: DraftAspect): DraftAspect =>
          sent.to.endsWith(each.aspect) ? { ...each, ...said, version: version + 1 } : each;
        draft = { ...draft, aspects: draft.aspects.map(keep) };
      }
      return answer;
    }
    if (sent.to.endsWith("/preview")) return content(10, "0.80");
    if (sent.to.endsWith("/recipients")) return { mayEdit: true, accounts: [], addresses: [], choices: [] };
    if (sent.to.includes("/cycle")) return { id: "p", broken: [] };
    return draft;
  });
  return () => all.filter(({ to }) => !to.startsWith("GET"));
}
const page = (at = "/projects/p/report", ...roles: Parameters<typeof someone>): void =>
  void show(
    <Routes>
      <Route path="projects/:project/report" element={<ReportPage />} />
      <Route path="projects/:project/report/:number" element={<IssuedPage />} />
    </Routes>,
    { at, me: someone(...(roles.length === 0 ? (["controller"] as const) : roles)) },
  );
const part = async (name: string) => within(await screen.findByRole("region", { name }));

describe("a report that is written", () => {
  it("begins with what the app says, and shows what was said last beside it", async () => {
    serve(DRAFT);
    page();
    const cost = await part("Cost");
    expect(cost.getByLabelText<HTMLTextAreaElement>("What is said of cost").value).toBe("Begun on cost.");
    expect(cost.getByText("Steel was dear.")).toBeTruthy();
    expect(cost.getByText(/Begun from the figures/)).toBeTruthy();
    expect(cost.getByText(/no limit is broken/)).toBeTruthy();
  });

  it("stores text and rating one after the other, whoever goes from one to the other at once", async () => {
    const sent = serve(DRAFT, async () => {
      await new Promise((resolve) => setTimeout(resolve, 30));
      return { ok: true };
    });
    page();
    const cost = await part("Cost");
    await userEvent.type(cost.getByLabelText("What is said of cost"), " And more.");
    await userEvent.click(cost.getByLabelText("in trouble"));
    await waitFor(() => expect(sent()).toHaveLength(2));
    expect(sent()).toEqual([
      {
        to: "PUT /api/status-reports/p/said/cost",
        body: { rating: null, reason: "", text: "Begun on cost. And more.", version: 0 },
      },
      {
        to: "PUT /api/status-reports/p/said/cost",
        body: { rating: "trouble", reason: "", text: "Begun on cost. And more.", version: 1 },
      },
    ]);
    expect(cost.getByText("needed before the report is issued")).toBeTruthy();
    await userEvent.type(cost.getByLabelText(/^Why it differs/), "Steel.");
    await userEvent.tab();
    await waitFor(() => expect(sent()[2]?.body).toMatchObject({ reason: "Steel.", version: 2 }));
  });

  it("keeps what could not be stored, says why, and tries again", async () => {
    let refuse = true;
    const sent = serve(DRAFT, () =>
      refuse ? new Refusal("The server cannot be reached.", 503, "unavailable") : { ok: true },
    );
    page();
    const cost = await part("Cost");
    const field = cost.getByLabelText<HTMLTextAreaElement>("What is said of cost");
    await userEvent.type(field, " Mine.");
    await userEvent.tab();
    expect(await cost.findByText(/cannot be reached/)).toBeTruthy();
    expect(field.value).toBe("Begun on cost. Mine.");
    refuse = false;
    const before = sent().length;
    await userEvent.click(cost.getByRole("button", { name: "Try again" }));
    await waitFor(() => expect(sent()).toHaveLength(before + 1));
    expect(sent().at(-1)?.body).toMatchObject({ text: "Begun on cost. Mine.", version: 0 });
    await waitFor(() => expect(cost.queryByRole("alert")).toBeNull());
    expect(field.value).toBe("Begun on cost. Mine.");
  });

  it.each([
    ["Discard mine", null, "Theirs."],
    ["Save mine in its place", "Begun on cost. Mine.", "Begun on cost. Mine."],
  ])("shows what somebody else wrote meanwhile, and writes over nothing unseen: %s", async (choice, stored, shown) => {
    const sent: Sent[] = [];
    let theirs = false;
    listen((each) => {
      if (each.to.startsWith("GET"))
        return each.to.endsWith("/p")
          ? {
              ...DRAFT,
              aspects: DRAFT.aspects.map((said) =>
                theirs && said.aspect === "cost" ? { ...said, version: 3, text: "Theirs.", by: "Mo" } : said,
              ),
            }
          : { mayEdit: false, accounts: [], addresses: [], choices: [], broken: [] };
      sent.push(each);
      theirs = true;
      return (each.body as { version: number }).version === 3
        ? { ok: true }
        : new Refusal("Mo wrote.", 409, "conflict");
    });
    page();
    const cost = await part("Cost");
    const field = cost.getByLabelText<HTMLTextAreaElement>("What is said of cost");
    await userEvent.type(field, " Mine.");
    await userEvent.tab();
    expect(await cost.findByText("Theirs.")).toBeTruthy();
    expect(cost.getByText(/Mo wrote here meanwhile/)).toBeTruthy();
    expect(field.value).toBe("Begun on cost. Mine.");
    await userEvent.click(cost.getByRole("button", { name: choice }));
    await waitFor(() => expect(cost.queryByRole("alert")).toBeNull());
    if (stored !== null) expect(sent.at(-1)?.body).toMatchObject({ text: stored, version: 3 });
    else expect(sent).toHaveLength(1);
    if (stored === null) await waitFor(() => expect(field.value).toBe(shown));
  });

  it("cannot be written by whoever may not, nor once it is issued", async () => {
    serve({ ...DRAFT, mayEdit: false, mayIssue: false });
    page("/projects/p/report", "reader");
    const cost = await part("Cost");
    expect(cost.getByLabelText<HTMLTextAreaElement>("What is said of cost").readOnly).toBe(true);
    expect(cost.getByLabelText("in trouble").closest("fieldset")!.disabled).toBe(true);
    expect(screen.queryByRole("button", { name: /^Issue the/ })).toBeNull();
  });

  it("is looked at as it will be read, each figure opening its rows, and issued", async () => {
    const sent = serve(DRAFT);
    page("/projects/p/report?view=preview");
    const paper = within(await screen.findByRole("article"));
    expect(paper.getByText("0.80").closest("a")!.getAttribute("href")).toBe("/projects/p");
    expect(paper.getByText(/draft, not issued/)).toBeTruthy();
    expect(paper.getByText("<b>dear</b>")).toBeTruthy();
    expect(paper.getByText("Nothing has a deadline.")).toBeTruthy();
    expect(paper.getByRole("img", { name: /Planned value/ }).textContent).toContain("earned 700");
    await userEvent.click(screen.getByRole("button", { name: "Issue the report of period 10" }));
    await waitFor(() => expect(sent()).toEqual([{ to: "POST /api/status-reports/p", body: undefined }]));
  });

  it("says why it cannot be issued, and what there is where no period is open", async () => {
    serve({ ...DRAFT, hindrance: "The data date is not set.", mayIssue: false });
    page();
    expect(await screen.findByText("The data date is not set.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /^Issue the/ })).toBeNull();
  });

  it("lists what was issued, with what holds and what was withdrawn", async () => {
    serve({ ...DRAFT, period: null, mayIssue: false });
    page();
    const table = within(await screen.findByRole("table", { name: "Issued reports" }));
    expect(table.getByText("holds")).toBeTruthy();
    expect(table.getByText("withdrawn: an invoice came")).toBeTruthy();
  });
});

describe("a report that is issued", () => {
  it("is read word for word, opens nothing, and steps to its neighbours", async () => {
    listen(() => ISSUED);
    page("/projects/p/report/9");
    const paper = within(await screen.findByRole("article"));
    expect(paper.getByText("0.90").closest("a")).toBeNull();
    expect(screen.getByRole("link", { name: "← Period 8" }).getAttribute("href")).toBe("/projects/p/report/8");
    expect(screen.getByText(/✓ as issued/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "0" }));
    expect(screen.getByLabelText("address").textContent).toBe("/projects/p/report/9?edition=0");
  });

  it("whose text is another one than was issued says so", async () => {
    listen(() => ({ ...ISSUED, whole: false }));
    page("/projects/p/report/9");
    expect(await screen.findByText(/its text is not the one that was issued/)).toBeTruthy();
  });

  it("is compared with the one before, line by line", async () => {
    listen(({ to }) => (to.includes("/8/") ? { ...ISSUED, content: content(8, "1.00") } : ISSUED));
    page("/projects/p/report/9");
    await userEvent.selectOptions(await screen.findByLabelText("Compare with"), "period 8");
    const table = within(await screen.findByRole("table", { name: "Two reports compared" }));
    const spi = table.getByText("SPI").closest("tr")!;
    expect([...spi.cells].map(({ textContent }) => textContent)).toEqual(["SPI", "1.00", "0.90"]);
    expect(table.getByText("Cost").closest("tr")!.textContent).toContain("the same");
  });
});
