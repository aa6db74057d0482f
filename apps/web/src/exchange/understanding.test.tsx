/** @jest-environment jsdom */
import type { FileChanges, ImportAnswers, ImportView } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { toast } from "../shared/messages/toast.ts";
import { listen, Refusal, show, someone, type Sent } from "../testing/fakePage.tsx";
import { Understanding } from "./Understanding.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const VIEW: ImportView = {
  id: "i",
  fileName: "plan.xlsx",
  state: "ready",
  progress: 1,
  step: "",
  kind: "tables",
  sheets: [
    {
      name: "Sheet1",
      table: "activities",
      rows: 12,
      headingRow: 3,
      headings: [
        { heading: "Task", column: "name", guessed: "same", sample: ["Dig", "Pour"] },
        { heading: "Wie lang", column: null, guessed: "none", sample: ["3 d"] },
      ],
      missing: [],
      leftOut: [],
    },
  ] as unknown as ImportView["sheets"],
  dateQuestion: null,
  numberQuestion: null,
  manager: null,
  rowKeysQuestion: null,
  datesQuestion: null,
  peopleQuestion: [],
  known: { calendars: [], people: [], managers: [{ id: "m", name: "Cora" }] },
  project: { code: "P", name: "Pier", start: "2026-03-02", currency: "EUR", dataDate: "", calendar: "standard" },
  counts: [
    { table: "activities", rows: 1200 },
    { table: "links", rows: 0 },
  ],
  preview: [{ id: "dig", name: "Dig", depth: 0, duration: "5 d", start: "2026-03-02", finish: "" }],
  problems: [],
  errors: 0,
  storable: true,
  storedAs: null,
  answers: {},
  tables: [
    {
      table: "activities",
      words: "activities of a plan",
      columns: [
        { column: "name", words: "Name of the activity" },
        { column: "durationDays", words: "Duration (days, if bare)" },
      ],
    },
    { table: "links", words: "links between activities", columns: [{ column: "from", words: "from" }] },
  ],
};
const PORTFOLIO = {
  programmes: [{ id: "g", name: "Coast", parent: null }],
  projects: [
    { id: "p", code: "P", name: "Pier", manager: "Cora", mayEdit: true, closed: false },
    { id: "q", code: "Q", name: "Quay", manager: "Cora", mayEdit: false, closed: false },
    { id: "r", code: "R", name: "Reef", manager: "Cora", mayEdit: true, closed: true },
  ],
};

const UNDERSTANDINGS = [{ id: "u", name: "site office", by: "Cora", at: "2026-03-01T10:00:00.000Z" }];

/** The page of a file; what is answered comes back as the server would have understood it. */
function open(view: ImportView, act: (sent: Sent) => unknown = () => ({ project: "new" })) {
  const all = listen((sent) =>
    sent.to === "GET /api/portfolio"
      ? PORTFOLIO
      : sent.to === "GET /api/understandings"
        ? UNDERSTANDINGS
        : sent.to === "PUT /api/imports/i"
          ? { ...view, answers: sent.body as ImportAnswers }
          : act(sent),
  );
  function Page() {
    const [now, setNow] = useState(view);
    return <Understanding view={now} onView={setNow} />;
  }
  show(<Page />, { me: someone("projectManager") });
  return (to: string) => all.filter((sent) => sent.to === to).map(({ body }) => body);
}
const button = (name: string) => screen.getByRole<HTMLButtonElement>("button", { name });

describe("what was understood of a file", () => {
  it("is told in rows, with the first activities as they would be stored", async () => {
    open(VIEW);
    expect(screen.getByText(/^Understood: 1.200 activities\.$/)).toBeTruthy();
    const preview = within(await screen.findByRole("table", { name: "Preview" }));
    expect(preview.getByText("5 d")).toBeTruthy();
    // What has no date yet shows none.
    expect(preview.getByText("–")).toBeTruthy();
  });

  it("asks what can be read in two ways, and reads it again", async () => {
    const sent = open({
      ...VIEW,
      numberQuestion: { sample: "1.200", point: "1.2", comma: "1200" },
      dateQuestion: { sample: "03/04/26", orders: ["dmy", "mdy"] },
    });
    const numbers = within(screen.getByRole("group", { name: "How numbers are written" }));
    await userEvent.click(numbers.getByRole("radio", { name: /a comma before decimals/ }));
    await waitFor(() => expect(sent("PUT /api/imports/i")).toEqual([{ numberStyle: "comma" }]));
    const dates = within(screen.getByRole("group", { name: "Order of dates" }));
    expect(dates.queryByRole("radio", { name: "year, month, day" })).toBeNull();
    await userEvent.click(dates.getByRole("radio", { name: "month, day, year" }));
    await waitFor(() => expect(sent("PUT /api/imports/i").at(-1)).toEqual({ numberStyle: "comma", dateOrder: "mdy" }));
  });

  it("loses nothing that is said before the file has been read again", async () => {
    let go: () => void = () => undefined;
    const first = new Promise<void>((resolve) => (go = resolve));
    const sent: ImportAnswers[] = [];
    listen(async ({ to, body }) => {
      if (to === "GET /api/portfolio") return PORTFOLIO;
      if (to === "GET /api/understandings") return UNDERSTANDINGS;
      sent.push(body as ImportAnswers);
      if (sent.length === 1) await first;
      return { ...VIEW, answers: body };
    });
    show(<Understanding view={VIEW} onView={() => undefined} />, { me: someone("projectManager") });
    await userEvent.type(screen.getByLabelText("Name"), " 2");
    await userEvent.type(screen.getByLabelText("Code"), "-2");
    expect(button("Store as a new project").disabled).toBe(true);
    await userEvent.selectOptions(screen.getByLabelText("Column for Wie lang"), "Duration (days, if bare)");
    go();
    await waitFor(() => expect(sent).toHaveLength(3));
    expect(sent.at(-1)).toEqual({
      project: { name: "Pier 2", code: "P-2" },
      sheets: { Sheet1: { table: "activities", columns: { "Wie lang": "durationDays" } } },
    });
    await waitFor(() => expect(button("Store as a new project").disabled).toBe(false));
  });

  it("takes a heading for a column of ours, and a sheet for nothing", async () => {
    const sent = open(VIEW);
    expect(screen.getByText("left out", { selector: "td" })).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText("Column for Wie lang"), "Duration (days, if bare)");
    await waitFor(() =>
      expect(sent("PUT /api/imports/i")).toEqual([
        { sheets: { Sheet1: { table: "activities", columns: { "Wie lang": "durationDays" } } } },
      ]),
    );
    await userEvent.selectOptions(screen.getByLabelText(/This sheet holds/), "nothing to be taken over");
    await waitFor(() => expect(sent("PUT /api/imports/i").at(-1)).toMatchObject({ sheets: { Sheet1: { table: "" } } }));
  });

  it("asks for what the file does not say of its project", async () => {
    const sent = open({ ...VIEW, project: { ...VIEW.project!, name: "", start: "" } });
    await userEvent.type(screen.getByLabelText("Name"), "Pier");
    await userEvent.tab();
    await waitFor(() => expect(sent("PUT /api/imports/i")).toEqual([{ project: { name: "Pier" } }]));
    await userEvent.type(screen.getByLabelText("Project starts"), "4 May 2026{Enter}");
    await waitFor(() =>
      expect(sent("PUT /api/imports/i").at(-1)).toEqual({ project: { name: "Pier", start: "2026-05-04" } }),
    );
  });

  it("is not stored while something must be mended, and says what and where", async () => {
    open({
      ...VIEW,
      storable: false,
      errors: 2,
      problems: [
        {
          level: "error",
          place: "Sheet1, B7",
          table: "activities",
          row: "Dig",
          field: "durationMinutes",
          message: "“long” is no length",
        },
      ] as ImportView["problems"],
    });
    expect(button("Store as a new project").disabled).toBe(true);
    expect(screen.getByText("Nothing is stored until 2 errors are mended.")).toBeTruthy();
    expect(screen.getByText("The first 1 of 2 are shown.")).toBeTruthy();
    expect(screen.getByText("Sheet1, B7")).toBeTruthy();
  });

  it("becomes a project of a programme that is made with it", async () => {
    const sent = open(VIEW, ({ to }) => (to === "POST /api/programmes" ? { id: "h" } : { project: "new" }));
    await userEvent.selectOptions(await screen.findByLabelText("Belongs to"), "a new group …");
    expect(button("Store as a new project").disabled).toBe(true);
    await userEvent.type(screen.getByLabelText("Its name"), "Harbour");
    await userEvent.click(button("Store as a new project"));
    await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/projects/new/plan"));
    expect(sent("POST /api/imports/i/store")).toEqual([{ programme: "h" }]);
    expect(toast).toHaveBeenCalledWith("Pier is stored.");
  });

  it("that is refused stays, with why; discarded, it goes", async () => {
    const sent = open(VIEW, ({ to }) =>
      to.startsWith("DELETE") ? { ok: true } : new Refusal("There is a project P already."),
    );
    await userEvent.click(button("Store as a new project"));
    expect(await screen.findByText("There is a project P already.")).toBeTruthy();
    await userEvent.click(button("Discard"));
    await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/import"));
    expect(sent("DELETE /api/imports/i")).toHaveLength(1);
  });

  it("may be an edited copy of a project that one may change and that is open; the one of its code is offered", async () => {
    const sent = open(VIEW, () => ({
      project: { id: "p", code: "P", name: "Pier" },
      revision: 5,
      madeFrom: null,
      rows: [],
    }));
    const choice = await screen.findByLabelText<HTMLSelectElement>(/^It is/);
    await waitFor(() =>
      expect([...choice.options].map(({ textContent }) => textContent)).toEqual([
        "a new project",
        "an edited copy of P Pier",
      ]),
    );
    await userEvent.click(button("Show what it would change"));
    await waitFor(() => expect(sent("PUT /api/imports/i")).toEqual([{ changesTo: "p" }]));
    expect(await screen.findByText("What it would change in P Pier")).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText(/^It is/), "a new project");
    await waitFor(() => expect(sent("PUT /api/imports/i").at(-1)).toEqual({}));
  });
});

describe("what is not understood", () => {
  const cell = (ref: string, text: string, alike = 1) => ({ sheet: "Sheet1", ref, heading: "How long", text, alike });
  const error = (ref: string, text: string, alike?: number): ImportView["problems"][number] => ({
    level: "error",
    place: `Sheet1!${ref}`,
    table: "activities",
    row: "",
    field: "durationDays",
    message: `"${text}" is no duration`,
    cell: cell(ref, text, alike),
  });
  const BROKEN: ImportView = {
    ...VIEW,
    storable: false,
    errors: 3,
    problems: [error("B3", "n/a", 2), error("B5", "n/a", 2), error("B6", "three")],
  };

  it("is mended for all cells alike at once, or singly, on the page itself", async () => {
    const sent = open(BROKEN);
    expect(screen.getByText("Sheet1!B3, Sheet1!B5")).toBeTruthy();
    await userEvent.click(screen.getAllByRole("button", { name: "It means nothing" })[0]!);
    const alike = { "How long": { "n/a": "" } };
    await waitFor(() => expect(sent("PUT /api/imports/i")).toEqual([{ sheets: { Sheet1: { alike } } }]));
    const field = screen.getByLabelText("Write instead at Sheet1!B6");
    await userEvent.clear(field);
    await userEvent.type(field, "3d{Enter}");
    await waitFor(() =>
      expect(sent("PUT /api/imports/i").at(-1)).toEqual({ sheets: { Sheet1: { alike, cells: { B6: "3d" } } } }),
    );
  });

  it("are people whom nobody knows: each is said to be someone, or all of them to be new", async () => {
    const asked = [
      { name: "Ann", count: 2, place: "Sheet1!D3", meant: [{ id: "p1", name: "Ann Berg" }] },
      { name: "Bo", count: 1, place: "Sheet1!D4", meant: [] },
    ];
    const known = {
      ...VIEW.known,
      people: [
        { id: "p1", name: "Ann Berg" },
        { id: "p2", name: "Boris Lind" },
      ],
    };
    const sent = open({ ...VIEW, peopleQuestion: asked, known });
    await userEvent.selectOptions(screen.getByLabelText("Who is Ann?"), "Ann Berg");
    await waitFor(() => expect(sent("PUT /api/imports/i")).toEqual([{ people: { Ann: "p1" } }]));
    await userEvent.selectOptions(screen.getByLabelText("Who is Bo?"), "someone else who is known …");
    await userEvent.type(screen.getByLabelText("Who is Bo?"), "Boris Lind");
    await waitFor(() => expect(sent("PUT /api/imports/i").at(-1)).toEqual({ people: { Ann: "p1", Bo: "p2" } }));
    await userEvent.click(button("All 2 are new people"));
    await waitFor(() => expect(sent("PUT /api/imports/i").at(-1)).toEqual({ people: { Ann: "new", Bo: "new" } }));
  });

  it("may be rows that are no activity, and is taken after all; or what numbers and dates mean", async () => {
    const sent = open({
      ...VIEW,
      sheets: [{ ...VIEW.sheets[0]!, leftOut: [{ line: 14, text: "TOTAL · 22 d", why: "a total", taken: false }] }],
      rowKeysQuestion: { sample: "3", taken: "rows", able: ["rows", "lines"] },
      datesQuestion: {
        count: 1,
        samples: [{ place: "Sheet1!B4", name: "Paint", given: "2026-03-19", byLinks: "2026-03-12" }],
      },
    });
    await userEvent.click(button("Take it"));
    await waitFor(() => expect(sent("PUT /api/imports/i")).toEqual([{ sheets: { Sheet1: { turned: [14] } } }]));
    await userEvent.click(screen.getByRole("radio", { name: "the row of the spreadsheet" }));
    await waitFor(() => expect(sent("PUT /api/imports/i").at(-1)).toMatchObject({ rowKeys: "lines" }));
    expect(screen.getByText("12 Mar 2026")).toBeTruthy();
    await userEvent.click(screen.getByRole("radio", { name: /^the dates/ }));
    await waitFor(() => expect(sent("PUT /api/imports/i").at(-1)).toMatchObject({ datesOrLinks: "dates" }));
  });

  it("is asked for once where a sheet of hours has no column for it", async () => {
    const hours = {
      ...VIEW.sheets[0]!,
      table: "timeEntries",
      missing: [{ column: "activity", words: "On which activity", said: "" }],
    };
    const sent = open({ ...VIEW, sheets: [hours] });
    await userEvent.type(screen.getByLabelText(/On which activity, for all of its rows/), "Dig{Enter}");
    await waitFor(() =>
      expect(sent("PUT /api/imports/i")).toEqual([{ sheets: { Sheet1: { fixed: { activity: "Dig" } } } }]),
    );
  });
});

describe("how files are read", () => {
  it("is noted under a name, and the next file is read so", async () => {
    const sent = open(VIEW, ({ to }) =>
      to === "POST /api/imports/i/understanding" ? UNDERSTANDINGS : { ...VIEW, fileName: "read so.xlsx" },
    );
    await userEvent.type(screen.getByLabelText("Note how it is read, for the next file"), "yard");
    await userEvent.click(button("Note"));
    await waitFor(() => expect(sent("POST /api/imports/i/understanding")).toEqual([{ name: "yard" }]));
    await userEvent.selectOptions(await screen.findByLabelText("Read it as an earlier file"), "u");
    await userEvent.click(button("Read it so"));
    expect(await screen.findByText("read so.xlsx")).toBeTruthy();
    expect(sent("POST /api/imports/i/understanding/u")).toHaveLength(1);
  });

  it("and someone else may be its manager", async () => {
    const sent = open({
      ...VIEW,
      known: {
        ...VIEW.known,
        managers: [
          { id: "m", name: "Cora" },
          { id: "t", name: "Tom" },
        ],
      },
    });
    await userEvent.selectOptions(await screen.findByLabelText("Manager"), "Tom");
    await userEvent.click(button("Store as a new project"));
    await waitFor(() => expect(sent("POST /api/imports/i/store")).toEqual([{ programme: null, manager: "t" }]));
  });
});

describe("what an edited copy would change", () => {
  const CHANGES: FileChanges = {
    project: { id: "p", code: "P", name: "Pier" },
    revision: 5,
    madeFrom: { revision: 3, at: "2026-03-01T10:00:00.000Z" },
    rows: [
      { key: "l1", table: "links", what: "removed", name: "Dig → Pour", fields: [], both: false },
      {
        key: "a2",
        table: "activities",
        what: "changed",
        name: "Pour",
        fields: [{ field: "name", from: "Pour", to: "Cast", then: "Pouring" }],
        both: true,
      },
      {
        key: "a1",
        table: "activities",
        what: "added",
        name: "Shore",
        fields: [{ field: "name", from: null, to: "Shore" }],
        both: false,
      },
    ],
  };
  const changing = (changes: FileChanges, act: (sent: Sent) => unknown = () => ({ project: "p", revision: 6 })) =>
    open({ ...VIEW, answers: { changesTo: "p" } }, (sent) =>
      sent.to.startsWith("GET") ? changes : sent.to.endsWith("/effect") ? EFFECT : act(sent),
    );
  const EFFECT = {
    finish: null,
    activities: [],
    milestones: [],
    deadlines: [],
    cost: null,
    performance: null,
    currency: "EUR",
    minorDigits: 2,
  };
  const tick = (name: string) => screen.getByRole<HTMLInputElement>("checkbox", { name: `Take over ${name}` });

  it("is selected but for what both changed, activities first and from the top", async () => {
    changing(CHANGES);
    await screen.findByText(/The file was made from revision 3 of/);
    expect(screen.getByText(/1 row was changed in both, and is not selected/)).toBeTruthy();
    expect([tick("Shore").checked, tick("Pour").checked, tick("Dig → Pour").checked]).toEqual([true, false, true]);
    expect(screen.getByText("changed, in both")).toBeTruthy();
    expect(screen.getByText(/was .*Pouring.*, now .*Pour.* → .*Cast/)).toBeTruthy();
    const names = screen.getAllByRole("checkbox", { name: /^Take over/ }).map((box) => box.getAttribute("aria-label"));
    expect(names).toEqual(["Take over Shore", "Take over Pour", "Take over Dig → Pour"]);
  });

  it("is taken over as it is selected; what it moves is shown for that alone", async () => {
    const sent = changing(CHANGES);
    await screen.findByText(/The file was made from/);
    await userEvent.click(button("Show what moves"));
    expect(await screen.findByRole("region", { name: "What would move" })).toBeTruthy();
    await userEvent.click(tick("Pour"));
    expect(screen.queryByRole("region", { name: "What would move" })).toBeNull();
    await userEvent.click(tick("Dig → Pour"));
    await userEvent.click(button("Take over 2 rows"));
    await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/projects/p/plan"));
    expect(sent("POST /api/imports/i/changes")).toEqual([{ revision: 5, keys: ["a2", "a1"] }]);
  });

  it("of a file of which nobody knows what it was made from is selected by hand", async () => {
    changing({ ...CHANGES, madeFrom: null });
    await screen.findByText(/The file does not say which revision/);
    expect(button("Take over 0 rows").disabled).toBe(true);
    await userEvent.click(button("Select all"));
    expect(button("Take over 3 rows").disabled).toBe(false);
    await userEvent.click(button("Select none"));
    expect(tick("Shore").checked).toBe(false);
  });

  it("is compared anew when the plan has moved on, and that is told", async () => {
    const sent = changing(CHANGES, () => new Refusal("The plan is at revision 6 now.", 409, "conflict"));
    await screen.findByText(/The file was made from/);
    await userEvent.click(button("Take over 2 rows"));
    await waitFor(() => expect(toast.error).toHaveBeenCalledWith("The plan is at revision 6 now."));
    await waitFor(() => expect(sent("GET /api/imports/i/changes")).toHaveLength(2));
  });
});
