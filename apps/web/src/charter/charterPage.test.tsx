/** @jest-environment jsdom */
import type { CharterView, WriteCharter } from "@chronometra/contract";
import type { QueryClient } from "@tanstack/react-query";
import { act, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../shared/messages/toast.ts";
import { listen, Refusal, show, someone, type Sent } from "../testing/fakePage.tsx";
import { CharterPage } from "./CharterPage.tsx";
import { moneyLines, readMoneyLines } from "./rows.ts";

jest.mock("../documents/DocumentList.tsx", () => ({ DocumentList: () => null }));
jest.mock("../documents/DocumentsButton.tsx", () => ({ DocumentsButton: () => null }));
jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const VIEW: CharterView = {
  id: "p",
  revision: 4,
  head: { code: "P-1", name: "Pier", currency: "EUR", start: "2026-03-02", calendar: "five" },
  manager: { id: "t", name: "Tomas" },
  managers: [
    { id: "r", name: "Radu" },
    { id: "t", name: "Tomas" },
  ],
  calendars: [
    { id: "five", name: "Five days" },
    { id: "six", name: "Six days" },
  ],
  activities: [{ id: "open", name: "Open" }],
  mayEdit: true,
  mayHandOver: true,
  closed: false,
  booked: false,
  charter: {
    state: "running",
    sponsor: "",
    organisation: "",
    kind: "",
    purpose: "A pier",
    assumptions: "",
    constraints: "",
    words: {},
    benefits: {},
    deliverables: {},
  },
  log: [],
};

/** The page of a project; what is written comes back as the server would have it. */
function open(view: CharterView = VIEW, answer: (sent: Sent) => unknown = () => undefined) {
  let now = view;
  const all = listen((sent) => {
    const said = answer(sent);
    if (said !== undefined) return said;
    if (sent.to.startsWith("GET")) return now;
    if (sent.to.endsWith("/changes")) return { revision: 5, undoable: true, changes: [], merged: 0 };
    const written = sent.body as WriteCharter;
    if (sent.to.startsWith("PUT"))
      now = {
        ...now,
        charter: {
          ...now.charter,
          [written.field]:
            "id" in written ? { ...now.charter[written.field], [written.id]: written.value } : written.value,
        },
      };
    return now;
  });
  open.client = show(<CharterPage />, {
    me: someone("projectManager"),
    at: "/projects/p/charter",
    project: { id: "p" },
  });
  return (to: string) => all.filter((sent) => sent.to === to).map(({ body }) => body);
}
open.client = null as QueryClient | null;
const PUT = "PUT /api/projects/p/charter";

describe("the page of a project", () => {
  it("writes one thing at a time, with what stood there, and takes it back", async () => {
    const sent = open();
    const sponsor = await screen.findByLabelText("Sponsor");
    await userEvent.type(sponsor, "Board{Enter}");
    await waitFor(() => expect(sent(PUT)).toEqual([{ field: "sponsor", was: "", value: "Board" }]));
    const [, options] = jest.mocked(toast).mock.calls.at(-1)! as unknown as [
      string,
      { action: { onClick: () => void } },
    ];
    options.action.onClick();
    await waitFor(() => expect(sent(PUT).at(-1)).toEqual({ field: "sponsor", was: "Board", value: "" }));
    const purpose = screen.getByLabelText("Purpose");
    await userEvent.type(purpose, " for ships");
    await userEvent.keyboard("{Control>}{Enter}{/Control}");
    await waitFor(() =>
      expect(sent(PUT).at(-1)).toEqual({ field: "purpose", was: "A pier", value: "A pier for ships" }),
    );
  });

  it("has words of its own for states and priorities; cleared, they are those of the house again", async () => {
    const sent = open({ ...VIEW, charter: { ...VIEW.charter, words: { high: "must" } } });
    const high = await screen.findByLabelText<HTMLInputElement>("Priority high");
    expect(high.value).toBe("must");
    await userEvent.clear(high);
    await userEvent.keyboard("{Enter}");
    await waitFor(() => expect(sent(PUT)).toEqual([{ field: "words", id: "high", was: "must", value: null }]));
    const parked = screen.getByLabelText<HTMLInputElement>("Activity parked");
    await userEvent.type(parked, " laid up {Enter}");
    await waitFor(() =>
      expect(sent(PUT).at(-1)).toEqual({ field: "words", id: "parked", was: null, value: "laid up" }),
    );
  });

  it("shows someone else’s word beside what was typed, and loses neither", async () => {
    let theirs = false;
    open(VIEW, ({ to }) => {
      if (to.startsWith("PUT")) {
        theirs = true;
        return new Refusal("Purpose was changed by someone else meanwhile.", 409, "conflict");
      }
      return theirs ? { ...VIEW, charter: { ...VIEW.charter, purpose: "Their pier" } } : undefined;
    });
    const purpose = await screen.findByLabelText<HTMLTextAreaElement>("Purpose");
    await userEvent.type(purpose, "!");
    await userEvent.tab();
    expect(await screen.findByText(/changed by someone else meanwhile\. It says now: “Their pier”/)).toBeTruthy();
    expect(purpose.value).toBe("A pier!");
    await userEvent.click(purpose);
    await userEvent.keyboard("{Escape}");
    expect(purpose.value).toBe("Their pier");
  });

  it("says what its writer saw when they began, whatever came in meanwhile", async () => {
    const sent = open(VIEW, ({ to, body }) =>
      to.startsWith("PUT") && (body as WriteCharter).was !== "Theirs"
        ? new Refusal("Purpose was changed by someone else meanwhile.", 409, "conflict")
        : undefined,
    );
    const client = open.client;
    const purpose = await screen.findByLabelText<HTMLTextAreaElement>("Purpose");
    await userEvent.type(purpose, "!");
    act(
      () => void client!.setQueryData(["charter", "p"], { ...VIEW, charter: { ...VIEW.charter, purpose: "Theirs" } }),
    );
    expect(purpose.value).toBe("A pier!");
    await userEvent.tab();
    await waitFor(() => expect(sent(PUT)).toEqual([{ field: "purpose", was: "A pier", value: "A pier!" }]));
  });

  it("changes the head as a change of the plan; what cannot be is told at its field", async () => {
    const sent = open();
    const code = await screen.findByLabelText<HTMLInputElement>("Code");
    await userEvent.clear(code);
    await userEvent.type(code, "P-2{Enter}");
    await waitFor(() =>
      expect(sent("POST /api/projects/p/changes")).toEqual([
        { revision: 4, changes: [{ type: "setProject", set: { code: "P-2" } }] },
      ]),
    );
    const start = screen.getByLabelText("Start");
    await userEvent.clear(start);
    await userEvent.type(start, "someday{Enter}");
    expect(await screen.findByRole("alert")).toBeTruthy();
    expect(sent("POST /api/projects/p/changes")).toHaveLength(1);
  });

  it("is handed over to someone else, with a word", async () => {
    const sent = open();
    await userEvent.click(await screen.findByRole("button", { name: "Hand over …" }));
    const dialog = within(screen.getByRole("dialog", { name: "Hand over Pier" }));
    expect([...dialog.getByLabelText<HTMLSelectElement>("To").options].map((each) => each.textContent)).toEqual([
      "whom …",
      "Radu",
    ]);
    await userEvent.selectOptions(dialog.getByLabelText("To"), "Radu");
    await userEvent.type(dialog.getByLabelText("A word with it"), "Yours");
    await userEvent.click(dialog.getByRole("button", { name: "Hand over" }));
    await waitFor(() => expect(sent("POST /api/projects/p/hand-over")).toEqual([{ manager: "r", word: "Yours" }]));
  });

  it("measures a benefit in money against what was expected by then", async () => {
    const tolls = {
      ...{ what: "Tolls", measure: "", target: "", by: null },
      money: [
        { period: "2025", amountMinor: 100_000 },
        { period: "2026-02", amountMinor: 20_000 },
        { period: "2099", amountMinor: 1 },
      ],
      measured: [
        { on: "2026-01-31", text: "opened late", amountMinor: null },
        { on: "2026-02-28", text: "from the till", amountMinor: 90_000 },
      ],
    };
    const sent = open({ ...VIEW, charter: { ...VIEW.charter, benefits: { b: tolls } } });
    expect((await screen.findByText("900 came")).className).toBe("adverse");
    expect(screen.getByText(/1.200 expected by 28 Feb 2026/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Tolls" }));
    const benefit = within(screen.getByRole("dialog", { name: "Benefit" }));
    expect(benefit.getByText("28 Feb 2026: from the till, 900 EUR")).toBeTruthy();
    await userEvent.type(benefit.getByLabelText("What was measured"), "March");
    const amount = benefit.getByLabelText(/^EUR that came/);
    await userEvent.type(amount, "lots");
    expect(benefit.getByRole<HTMLButtonElement>("button", { name: "Add" }).disabled).toBe(true);
    expect(benefit.getByRole("alert").textContent).toBe("“lots” is no amount in EUR.");
    await userEvent.clear(amount);
    await userEvent.type(amount, "400");
    await userEvent.click(benefit.getByRole("button", { name: "Add" }));
    await userEvent.click(benefit.getByRole("button", { name: "Save" }));
    await waitFor(() =>
      expect(sent(PUT)).toMatchObject([{ value: { measured: [{}, {}, { text: "March", amountMinor: 40_000 }] } }]),
    );
    expect((await screen.findByText(/1.300 came/)).className).toBe("favourable");
  });

  it("takes a benefit with its money by month and year, and a deliverable with what makes it", async () => {
    const sent = open();
    await userEvent.click(await screen.findByRole("button", { name: "Add a benefit" }));
    const benefit = within(screen.getByRole("dialog", { name: "A benefit that is expected" }));
    await userEvent.type(benefit.getByLabelText("What comes of it"), "Tolls");
    const money = benefit.getByLabelText(/^Where it is money/);
    await userEvent.type(money, "2027: much");
    await userEvent.click(benefit.getByRole("button", { name: "Save" }));
    expect(benefit.getByRole("alert").textContent).toContain("“2027: much”");
    await userEvent.clear(money);
    await userEvent.type(money, "2027: 12 000{Enter}2028-3: 1500.50");
    await userEvent.click(benefit.getByRole("button", { name: "Save" }));
    await waitFor(() =>
      expect(sent(PUT)).toMatchObject([
        {
          field: "benefits",
          was: null,
          value: {
            what: "Tolls",
            money: [
              { period: "2027", amountMinor: 1_200_000 },
              { period: "2028-03", amountMinor: 150_050 },
            ],
          },
        },
      ]),
    );
    await userEvent.click(await screen.findByRole("button", { name: "Add a deliverable" }));
    const deliverable = within(screen.getByRole("dialog", { name: "Something it brings forth" }));
    await userEvent.type(deliverable.getByLabelText("Name"), "Deck");
    await userEvent.type(deliverable.getByLabelText("a milestone or activity"), "Open");
    await userEvent.type(deliverable.getByLabelText("Accepted by"), "Board");
    await userEvent.click(deliverable.getByRole("button", { name: "Save" }));
    expect(deliverable.getByRole("alert").textContent).toBe("Say who accepted it and when, or neither.");
    await userEvent.click(deliverable.getByRole("button", { name: "Not accepted" }));
    await userEvent.click(deliverable.getByRole("button", { name: "Save" }));
    await waitFor(() =>
      expect(sent(PUT).at(-1)).toMatchObject({
        field: "deliverables",
        value: { name: "Deck", makes: ["open"], accepted: null },
      }),
    );
    expect(await screen.findByRole("link", { name: "Open" })).toBeTruthy();
  });

  it("is read where nothing may be changed", async () => {
    open({ ...VIEW, mayEdit: false, mayHandOver: false, booked: true });
    expect(await screen.findByText("A pier")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Add|Hand over/ })).toBeNull();
    expect(screen.getByText("P-1")).toBeTruthy();
    expect(screen.queryByRole("textbox")).toBeNull();
    expect(screen.queryByRole("combobox")).toBeNull();
  });
});

describe("money by month and year", () => {
  it("is read as it is written, in currencies of 0, 2 and 3 digits", () => {
    for (const [text, digits, minor] of [
      ["2027: 1500", 0, 1500],
      ["2027: 1500.25", 2, 150_025],
      ["2027: 1500.125", 3, 1_500_125],
    ] as const) {
      const read = readMoneyLines(text, digits);
      expect(read).toEqual([{ period: "2027", amountMinor: minor }]);
      expect(readMoneyLines(moneyLines(read as never, digits), digits)).toEqual(read);
    }
    expect(readMoneyLines("2027-13: 5", 2)).toContain("write a year or a month");
    expect(readMoneyLines("", 2)).toEqual([]);
  });
});
