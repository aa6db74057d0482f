import type { ImportAnswers } from "@chronometra/contract";
import { schedulePlan, formatDate } from "@chronometra/core";
import ExcelJS from "exceljs";
import { NOTHING_KNOWN } from "../../testing/nothingKnown.ts";
import { readFiles } from "../sheets/readFiles.ts";
import { understand, type Known, type Understood } from "../understand.ts";

type Row = readonly (string | number | boolean | Date | null)[];

/** A workbook as another program writes it. */
async function workbook(fill: (book: ExcelJS.Workbook) => void): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  fill(book);
  return new Uint8Array(await book.xlsx.writeBuffer());
}

const day = (date: string): Date => new Date(`${date}T00:00:00Z`);

async function read(
  fill: ((book: ExcelJS.Workbook) => void) | readonly Row[],
  answers: ImportAnswers = {},
  known: Partial<Known> = {},
): Promise<Understood> {
  const rows = fill;
  const data = await workbook(
    typeof rows === "function"
      ? rows
      : (book) => rows.forEach((row) => void addRow(book.worksheets[0] ?? book.addWorksheet("Plan"), row)),
  );
  return understand(
    await readFiles([{ name: "Quay.xlsx", data }]),
    answers,
    { ...NOTHING_KNOWN, ...known },
    "Quay.xlsx",
  );
}
const addRow = (sheet: ExcelJS.Worksheet, row: Row): ExcelJS.Row => sheet.addRow([...row]);

const errors = ({ view }: Understood): string[] =>
  view.problems.filter(({ level }) => level === "error").map(({ place, message }) => `${place}: ${message}`);
const notices = ({ view }: Understood): string[] =>
  view.problems.filter(({ level }) => level === "notice").map(({ message }) => message);
const activities = ({ bundle }: Understood) =>
  bundle!.activities.map(({ id, name, parent, kind, durationMinutes }) => [
    id,
    name,
    parent ?? null,
    kind ?? "work",
    durationMinutes ?? null,
  ]);
const links = ({ bundle }: Understood) =>
  bundle!.links!.map(({ from, to, type, lagMinutes }) => [from, to, type ?? "FS", lagMinutes ?? 0]);
const ALL_NEW = { people: { Ann: "new", Bob: "new", "Moss, Brigid": "new" } } satisfies ImportAnswers;

/** Title rows over merged cells, outline numbers, lengths in words, headings again, a total, and a second sheet. */
function untidy(book: ExcelJS.Workbook): void {
  const sheet = book.addWorksheet("Programme");
  addRow(sheet, ["Quay wall, works programme"]);
  sheet.mergeCells("A1:G1");
  addRow(sheet, ["prepared by the site office, not yet agreed"]);
  addRow(sheet, []);
  addRow(sheet, ["No.", "Work item", "How long", "Comes after", "By whom", "Budget (EUR)", "% so far"]);
  const rows: Row[] = [
    ["1", "Preparation", null, null, null, null, null],
    ["1.1", "Survey", "3 days", null, "Ann", 1200, null],
    ["1.2", "Permits", "2w", "1.1", "Bob 16h", null, null],
    [null, null, null, null, null, null, null],
    ["2", "Works", null, null, null, null, null],
    ["No.", "Work item", "How long", "Comes after", "By whom", "Budget (EUR)", "% so far"],
    ["2.1", "Dredge", "1,5 d", "1.1FS+2d; 1.2", "Ann 50%; Bob", 8000.5, null],
    ["2.2", "Pour", "4h", "2.1SS-1w", "Moss, Brigid", null, null],
    ["2.3", "Opening", "0d", "2.2FS+50%, 2.1FF", null, null, null],
    ["TOTAL", null, "22 d", null, null, 9200.5, null],
  ];
  rows.forEach((row) => void addRow(sheet, row));
  addRow(book.addWorksheet("Notes"), ["Call the harbour master first"]);
}

describe("one ordinary sheet", () => {
  it("that is untidy arrives with its hierarchy, lengths, links, people and costs, and nothing typed again", async () => {
    const asked = await read(untidy);
    expect(asked.view.peopleQuestion.map(({ name, count, place }) => [name, count, place])).toEqual([
      ["Ann", 2, "Programme!E6"],
      ["Bob", 2, "Programme!E7"],
      ["Moss, Brigid", 1, "Programme!E12"],
    ]);
    const found = await read(untidy, ALL_NEW);
    expect(errors(found)).toEqual([]);
    expect(activities(found)).toEqual([
      ["1", "Preparation", null, "summary", null],
      ["1.1", "Survey", "1", "work", 1440],
      ["1.2", "Permits", "1", "work", 4800],
      ["2", "Works", null, "summary", null],
      ["2.1", "Dredge", "2", "work", 720],
      ["2.2", "Pour", "2", "work", 240],
      ["2.3", "Opening", "2", "milestone", null],
    ]);
    expect(links(found)).toEqual([
      ["1.1", "1.2", "FS", 0],
      ["1.1", "2.1", "FS", 960],
      ["1.2", "2.1", "FS", 0],
      ["2.1", "2.2", "SS", -2400],
      ["2.2", "2.3", "FS", 120],
      ["2.1", "2.3", "FF", 0],
    ]);
    const { people, assignments, costs } = found.bundle!;
    const called = new Map(people!.map(({ id, name }) => [id, name]));
    expect(
      assignments!.map(({ activity, person, plannedMinutes, unitsPercent }) => [
        activity,
        called.get(person),
        plannedMinutes,
        unitsPercent,
      ]),
    ).toEqual([
      ["1.1", "Ann", 1440, undefined],
      ["1.2", "Bob", 960, undefined],
      ["2.1", "Ann", 360, 50],
      ["2.1", "Bob", 720, undefined],
      ["2.2", "Moss, Brigid", 240, undefined],
    ]);
    expect(costs!.map(({ activity, plannedMinor }) => [activity, plannedMinor])).toEqual([
      ["1.1", 120_000],
      ["2.1", 800_050],
    ]);
    expect(found.view.sheets.map(({ name, table }) => [name, table])).toEqual([
      ["Programme", "activities"],
      ["Notes", null],
    ]);
    expect(found.view.sheets[0]!.leftOut.map(({ line, why }) => [line, why])).toEqual([
      [10, "the headings again"],
      [14, "a total"],
    ]);
    expect(notices(found).join("\n")).toContain("1 lag is a share");
  });

  it("takes what it left out, and leaves out what it took, where that is said", async () => {
    const found = await read(untidy, { ...ALL_NEW, sheets: { Programme: { table: "activities", turned: [14, 12] } } });
    expect(found.view.sheets[0]!.leftOut.map(({ line, why, taken }) => [line, why, taken])).toEqual([
      [10, "the headings again", false],
      [12, "left out by you", false],
      [14, "a total", true],
    ]);
    expect(found.view.sheets[0]!.rows).toBe(10);
  });
});

const HEAD = ["Task", "Duration", "Predecessors"];

describe("what lies below what", () => {
  const plain = [
    ["Task", "Duration"],
    ["Phase", null],
    ["Dig", "2d"],
    ["Pour", "1d"],
  ] as const;
  const BELOW = [
    [null, "summary"],
    ["1", "work"],
    ["1", "work"],
  ];
  const shape = (found: Understood) => activities(found).map(([, , parent, kind]) => [parent, kind]);

  it("is told by leading blanks, by the indent of cells, by the grouping of rows, or by a number of how deep", async () => {
    expect(shape(await read([plain[0], plain[1], ["   Dig", "2d"], ["   Pour", "1d"]]))).toEqual(BELOW);
    expect(
      shape(
        await read((book) => {
          const sheet = book.addWorksheet("Plan");
          plain.forEach((row, i) => (addRow(sheet, row).getCell(1).alignment = { indent: i > 1 ? 1 : 0 }));
        }),
      ),
    ).toEqual(BELOW);
    expect(
      shape(
        await read((book) => {
          const sheet = book.addWorksheet("Plan");
          plain.forEach((row, i) => (addRow(sheet, row).outlineLevel = i > 1 ? 1 : 0));
        }),
      ),
    ).toEqual(BELOW);
    expect(
      shape(
        await read([
          ["Task", "Duration", "Level"],
          ["Phase", null, 1],
          ["Dig", "2d", 2],
          ["Pour", "1d", 2],
        ]),
      ),
    ).toEqual(BELOW);
  });

  it("is a branch for each that rows name beside them, also where its cell is merged down", async () => {
    const found = await read((book) => {
      const sheet = book.addWorksheet("Plan");
      addRow(sheet, ["Phase", "Task", "Duration", "Predecessors"]);
      addRow(sheet, ["Groundworks", "Dig", "2d", null]);
      addRow(sheet, [null, "Pour", "1d", "Dig"]);
      addRow(sheet, ["Fit-out", "Paint", "1d", "Pour"]);
      sheet.mergeCells("A2:A3");
    });
    expect(activities(found)).toEqual([
      ["branch-1", "Groundworks", null, "summary", null],
      ["1", "Dig", "branch-1", "work", 960],
      ["2", "Pour", "branch-1", "work", 480],
      ["branch-2", "Fit-out", null, "summary", null],
      ["3", "Paint", "branch-2", "work", 480],
    ]);
    expect(links(found)).toEqual([
      ["1", "2", "FS", 0],
      ["2", "3", "FS", 0],
    ]);
  });

  it("knows that 1.1 after 1.9 was 1.10 before a spreadsheet took it for a number", async () => {
    const rows: Row[] = Array.from({ length: 10 }, (_, i) => [Number(`1.${i + 1}`), `Step ${i + 1}`, "1d"]);
    const found = await read([["WBS", "Task", "Duration"], [1, "All", null], ...rows]);
    expect(
      activities(found)
        .map(([id, , parent]) => [id, parent])
        .slice(-2),
    ).toEqual([
      ["1.9", "1"],
      ["1.10", "1"],
    ]);
  });
});

describe("what comes before", () => {
  it("calls rows by their ids, by their place in the list, or by the rows of the spreadsheet, whichever fits", async () => {
    const byId = await read([
      ["ID", ...HEAD],
      [10, "Dig", "2d", null],
      [20, "Pour", "1d", "10"],
    ]);
    expect(links(byId)).toEqual([["10", "20", "FS", 0]]);
    const byPlace = await read([HEAD, ["Dig", "2d", null], ["Pour", "1d", 1], ["Paint", "1d", "2SS+1d"]]);
    expect(links(byPlace)).toEqual([
      ["1", "2", "FS", 0],
      ["2", "3", "SS", 480],
    ]);
    const byLine = await read([HEAD, ["Dig", "2d", null], ["Pour", "1d", 2], ["Paint", "1d", 3]]);
    expect(links(byLine)).toEqual([
      ["1", "2", "FS", 0],
      ["2", "3", "FS", 0],
    ]);
    expect(byLine.view.rowKeysQuestion).toEqual({ sample: "2", taken: "lines", able: ["rows", "lines"] });
    const other = await read([HEAD, ["Dig", "2d", null], ["Pour", "1d", null], ["Paint", "1d", 2]], {
      rowKeys: "lines",
    });
    expect(links(other)).toEqual([["1", "3", "FS", 0]]);
  });

  it("that cannot be is told with its cell, all at once, and nothing can be stored", async () => {
    const found = await read(
      [
        [...HEAD, "Who", "Start", "Finish", "Cost"],
        ["Dig", "2d", "Paint", null, null, null, null],
        ["Pour", "n/a", "Dig; Nowhere", "Ann; Ann 4h", null, null, null],
        ["Paint", "1d", "Dig", null, null, null, 1.234],
        ["Clean", "n/a", null, null, day("2026-03-10"), day("2026-03-02"), null],
        ["Dig", "1d", null, null, null, null, null],
      ],
      ALL_NEW,
    );
    expect(found.bundle).toBeNull();
    expect(errors(found)).toEqual([
      'Plan!B3: "n/a" is no duration; write 8:30, 8.5 h or 2 d',
      'Plan!B5: "n/a" is no duration; write 8:30, 8.5 h or 2 d',
      "Plan!F5: it finishes on 2026-03-02, before it starts on 2026-03-10",
      expect.stringMatching(/^Plan!C3: “Nowhere” means nothing here/),
      "Plan!C4: “Dig” is what several rows are called; write its number",
      "Plan!D3: “Ann” is named twice; write them once, with all of their hours",
      "Plan!G4: 1.234 is finer than the currency, which has 2 decimals",
    ]);
    expect(found.view.problems[0]!.cell).toEqual({
      sheet: "Plan",
      ref: "B3",
      heading: "Duration",
      text: "n/a",
      alike: 2,
    });
  });

  it("and goes round in a loop is told at the cell that closes it", async () => {
    const found = await read([HEAD, ["Dig", "2d", "Paint"], ["Pour", "1d", "Dig"], ["Paint", "1d", "Pour"]]);
    expect(errors(found)).toEqual([expect.stringMatching(/^Plan!C\d: the links form a loop: /)]);
  });
});

describe("cells that are mended on the page", () => {
  const rows: readonly Row[] = [HEAD, ["Dig", "n/a", null], ["Pour", "n/a", "Dig"], ["Paint", "three", "Pour"]];

  it("say something else, singly or all alike of a column", async () => {
    expect(errors(await read(rows))).toHaveLength(3);
    const found = await read(rows, {
      sheets: { Plan: { alike: { Duration: { "n/a": "" } }, cells: { B4: "3d" } } },
    });
    expect(errors(found)).toEqual([]);
    expect(activities(found).map(([, , , , minutes]) => minutes)).toEqual([null, null, 1440]);
    expect(notices(found).join("\n")).toContain("2 activities have no duration");
  });
});

describe("dates beside links", () => {
  const rows: readonly Row[] = [
    ["Task", "Start", "Finish", "Predecessors"],
    ["Dig", day("2026-03-02"), day("2026-03-06"), null],
    ["Pour", day("2026-03-07"), day("2026-03-11"), "Dig"],
    ["Paint", day("2026-03-19"), day("2026-03-20"), "Pour"],
    ["Clean", day("2026-03-10"), day("2026-03-10"), "Paint"],
  ];
  const starts = (found: Understood): string[] =>
    schedulePlan(found.bundle!).rows.map((row) => (row == null ? "" : formatDate(row.startDay)));

  it("give lengths by the calendar, and are asked about where they disagree; a day off agrees with the next one", async () => {
    const found = await read(rows);
    expect(errors(found)).toEqual([]);
    expect(activities(found).map(([, , , , minutes]) => minutes)).toEqual([2400, 1440, 960, 480]);
    expect(found.view.datesQuestion).toEqual({
      count: 2,
      samples: [
        { place: "Plan!B4", name: "Paint", given: "2026-03-19", byLinks: "2026-03-12" },
        { place: "Plan!B5", name: "Clean", given: "2026-03-10", byLinks: "2026-03-16" },
      ],
    });
    expect(starts(found)).toEqual(["2026-03-02", "2026-03-09", "2026-03-12", "2026-03-16"]);
  });

  it("hold as date wishes that say so where that is chosen", async () => {
    const found = await read(rows, { datesOrLinks: "dates" });
    expect(found.bundle!.activities.map(({ wish }) => wish?.type ?? null)).toEqual([
      "startNotBefore",
      null,
      "startNotBefore",
      "startOn",
    ]);
    expect(starts(found)[2]).toBe("2026-03-19");
    expect(notices(found).join("\n")).toContain("start on the date of the file by a date wish: “Paint” 19 Mar 2026");
  });
});

describe("how far it is", () => {
  it("is a share, a percentage or a number up to 100, and begins and ends on the dates of the row", async () => {
    const found = await read(
      [
        ["Task", "Start", "Finish", "% complete", "Status"],
        ["Dig", day("2026-03-02"), day("2026-03-06"), "50%", null],
        ["Pour", day("2026-03-02"), day("2026-03-06"), 0.5, null],
        ["Paint", day("2026-03-02"), day("2026-03-06"), 50, null],
        ["Clean", day("2026-03-02"), day("2026-03-03"), null, "done"],
        ["Sweep", day("2026-04-02"), day("2026-04-03"), null, "not started"],
        ["Wait", day("2026-04-02"), day("2026-04-03"), null, "on hold"],
      ],
      {},
    );
    expect(errors(found)).toEqual([]);
    expect(found.bundle!.project.dataDate).toBe("2026-03-31");
    expect(
      found.bundle!.activities.map(({ percent, actualStart, actualFinish, parked }) => [
        percent,
        actualStart,
        actualFinish,
        parked,
      ]),
    ).toEqual([
      [50, "2026-03-02", undefined, undefined],
      [50, "2026-03-02", undefined, undefined],
      [50, "2026-03-02", undefined, undefined],
      [100, "2026-03-02", "2026-03-03", undefined],
      [undefined, undefined, undefined, undefined],
      [undefined, undefined, undefined, true],
    ]);
  });
});

describe("people", () => {
  const known = {
    people: [{ id: "p-7", name: "Brigid Moss", role: "Diver", rates: [{ from: "2026-01-01", perHourMinor: 5000 }] }],
  };
  const rows: readonly Row[] = [
    ["Task", "Duration", "Who", "Role", "Work (hours)"],
    ["Dig", "2d", "Moss, Brigid", null, 12],
    ["Pour", "1d", null, "Welder", 6],
    ["Paint", "1d", null, null, 5],
    ["Clean", "1d", "Brigid", null, null],
  ];

  it("who are known are found by their names in any order; whoever is not is asked about, with those who may be meant", async () => {
    const found = await read(rows, {}, known);
    expect(found.view.peopleQuestion).toEqual([
      { name: "Brigid", count: 1, place: "Plan!C5", meant: [{ id: "p-7", name: "Brigid Moss" }] },
    ]);
    expect(errors(found)).toEqual(["Plan!C5: “Brigid” is nobody who is known; say above who it is"]);
    const said = await read(rows, { people: { Brigid: "p-7" } }, known);
    expect(errors(said)).toEqual([]);
    expect(
      said.bundle!.people!.map(({ id, name, rates }) => [id.replace(/\d$/, "n"), name, rates?.length ?? 0]),
    ).toEqual([
      ["p-n", "Brigid Moss", 1],
      ["person-n", "Welder", 0],
      ["person-n", "Nobody yet", 0],
    ]);
    expect(said.bundle!.assignments!.map(({ activity, plannedMinutes }) => [activity, plannedMinutes])).toEqual([
      ["1", 720],
      ["2", 360],
      ["3", 300],
      ["4", 480],
    ]);
    expect(said.beside!.placeholders).toHaveLength(2);
    const nobody = await read(rows, { people: { Brigid: "nobody" } }, known);
    expect([errors(nobody), nobody.bundle!.assignments!.length]).toEqual([[], 3]);
  });
});

describe("columns that the plan has none for", () => {
  it("become fields of its own, and notes descriptions", async () => {
    const found = await read(
      [
        [...HEAD, "Remarks", "Zone", "Drawing"],
        ["Dig", "2d", null, "mind the cable", "North", 12],
        ["Pour", "1d", "Dig", null, "South", 14],
      ],
      { sheets: { Plan: { columns: { Zone: "own", Drawing: "own" } } } },
    );
    expect(errors(found)).toEqual([]);
    expect(found.beside!.fields).toEqual([
      { id: "field-1", name: "Zone", type: "text" },
      { id: "field-2", name: "Drawing", type: "number" },
    ]);
    expect(found.beside!.ownValues).toEqual({
      1: { "field-1": "North", "field-2": 12 },
      2: { "field-1": "South", "field-2": 14 },
    });
    expect(found.beside!.notes).toEqual({ 1: { description: "mind the cable" } });
  });
});

describe("hours that people worked", () => {
  const plan = (book: ExcelJS.Workbook): void => {
    const sheet = book.addWorksheet("Plan");
    [[...HEAD], ["Dig", "2d", null], ["Pour", "1d", "Dig"]].forEach((row) => void addRow(sheet, row));
  };
  const entries = ({ bundle }: Understood) =>
    bundle!.timeEntries!.map(({ activity, person, date, minutes, state }) => [
      activity,
      bundle!.people!.find(({ id }) => id === person)!.name,
      date,
      minutes,
      state,
    ]);

  it("are read from days across, people and activities down, without the sums at their ends", async () => {
    const found = await read((book) => {
      plan(book);
      const sheet = book.addWorksheet("Hours");
      addRow(sheet, ["Hours of March"]);
      addRow(sheet, ["Who", "Task", day("2026-03-02"), day("2026-03-03"), day("2026-03-04"), "Total"]);
      addRow(sheet, ["Ann", "Dig", 8, null, 4.5, 12.5]);
      addRow(sheet, ["Bob", "Pour", 0, 2, null, 2]);
      addRow(sheet, ["Total", null, 8, 2, 4.5, 14.5]);
    }, ALL_NEW);
    expect(errors(found)).toEqual([]);
    expect(entries(found)).toEqual([
      ["1", "Ann", "2026-03-02", 480, "posted"],
      ["1", "Ann", "2026-03-04", 270, "posted"],
      ["2", "Bob", "2026-03-03", 120, "posted"],
    ]);
  });

  it.each([
    ["Hours 2025", "Week 1", ["Mon 29 Dec", "Tue 30 Dec", "Fri 2 Jan"], ["2025-12-29", "2025-12-30", "2026-01-02"]],
    ["Hours", "2026", ["2.3.", "3.3.", "4.3."], ["2026-03-02", "2026-03-03", "2026-03-04"]],
    ["Hours", "2026", ["3/30", "3/31", "4/1"], ["2026-03-30", "2026-03-31", "2026-04-01"]],
    ["Hours", "of March 2026", [1, 2, 3, 4, 5], ["2026-03-01", "2026-03-02", "2026-03-03", "2026-03-04", "2026-03-05"]],
  ] as const)(
    "are read below days without a year, which stands above them: %s, %s, %j",
    async (name, title, days, dates) => {
      const found = await read((book) => {
        plan(book);
        const sheet = book.addWorksheet(name);
        addRow(sheet, [title]);
        addRow(sheet, ["Who", "Task", ...days]);
        addRow(sheet, ["Ann", "Dig", ...days.map(() => 8)]);
      }, ALL_NEW);
      expect(errors(found)).toEqual([]);
      expect(entries(found).map(([, , date]) => date)).toEqual(dates);
    },
  );

  it.each([
    ["no year stands above", "Hours", ["2 Mar", "3 Mar", "4 Mar"]],
    ["two years do", "2025 and 2026", ["2 Mar", "3 Mar", "4 Mar"]],
    ["a weekday is another one", "2026", ["Tue 2 Mar", "Wed 3 Mar", "Thu 4 Mar"]],
    ["few numbers could be anything", "March 2026", [1, 2, 3]],
  ] as const)("are not read from headings of which %s", async (_why, title, days) => {
    const found = await read((book) => {
      plan(book);
      const sheet = book.addWorksheet("Hours");
      addRow(sheet, [title]);
      addRow(sheet, ["Who", "Task", ...days]);
      addRow(sheet, ["Ann", "Dig", ...days.map(() => 8)]);
    }, ALL_NEW);
    expect(found.bundle?.timeEntries ?? []).toEqual([]);
  });

  it("are asked for what a sheet does not say, once for all of its rows", async () => {
    const fill = (book: ExcelJS.Workbook): void => {
      plan(book);
      const sheet = book.addWorksheet("Hours");
      addRow(sheet, ["Who", day("2026-03-02"), day("2026-03-03"), day("2026-03-04")]);
      addRow(sheet, ["Ann", 8, null, 4]);
    };
    const asked = await read(fill, ALL_NEW);
    expect(asked.view.sheets[1]!.missing).toEqual([{ column: "activity", words: "On which activity", said: "" }]);
    const said = await read(fill, {
      ...ALL_NEW,
      sheets: { Hours: { table: "timeEntries", fixed: { activity: "Dig" } } },
    });
    expect(errors(said)).toEqual([]);
    expect(entries(said).map(([activity, , date]) => [activity, date])).toEqual([
      ["1", "2026-03-02"],
      ["1", "2026-03-04"],
    ]);
  });

  it("are read from a list of day, person, activity and hours; a cell that cannot be is told by where it stands", async () => {
    const found = await read((book) => {
      plan(book);
      const sheet = book.addWorksheet("Timesheet");
      addRow(sheet, ["Date", "Employee", "Task", "Hours"]);
      addRow(sheet, [day("2026-03-02"), "Ann", "Dig", 7.5]);
      addRow(sheet, [day("2026-03-03"), "Ann", "Swim", 1]);
    }, ALL_NEW);
    expect(errors(found)).toEqual(["Timesheet!C3: there is no activity “Swim” in this file"]);
  });
});
