import { readFileSync } from "node:fs";
import { join } from "node:path";
import { deflateRawSync } from "node:zlib";
import type { ImportAnswers, ImportView } from "@chronometra/contract";
import { analyse, parseBundle, type PlanBundle } from "@chronometra/core";
import { parse as parseCsv } from "csv-parse/sync";
import ExcelJS from "exceljs";
import { strToU8, unzipSync, zipSync } from "fflate";
import { readSheet } from "read-excel-file/node";
import { ProjectEntity } from "../project/projectEntity.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { ImportDraftEntity } from "./importEntities.ts";
import { stopWorkers } from "../shared/workers.ts";

let world: TestWorld;
let ines: Caller;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
});
afterAll(async () => {
  await stopWorkers();
  await world.drop();
});

type File = readonly [name: string, content: Buffer | string];

async function bring(...files: File[]): Promise<ImportView> {
  let call = ines.send("post", "/api/imports");
  for (const [name, content] of files) call = call.attach("file", Buffer.from(content as string), name);
  const begun = await call;
  expect(begun.status).toBe(200);
  for (let view = begun.body as ImportView; ; view = (await ines.get(`/api/imports/${view.id}`)).body as ImportView) {
    if (view.state !== "reading") return view;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

const answer = async (view: ImportView, answers: ImportAnswers): Promise<ImportView> =>
  (await ines.send("put", `/api/imports/${view.id}`, answers)).body as ImportView;
const store = (view: ImportView) => ines.send("post", `/api/imports/${view.id}/store`, {});
const exported = (project: string, form: string) =>
  ines
    .get(`/api/projects/${project}/export/${form}`)
    .buffer(true)
    .parse((response, done) => {
      const chunks: Buffer[] = [];
      response.on("data", (chunk: Buffer) => chunks.push(chunk));
      response.on("end", () => done(null, Buffer.concat(chunks)));
    });
const bundleOf = async (project: string): Promise<PlanBundle> =>
  JSON.parse(((await exported(project, "json1")).body as Buffer).toString()) as PlanBundle;
const projects = () => world.database.getRepository(ProjectEntity).count();
const errors = (view: ImportView) => view.problems.filter(({ level }) => level === "error");

async function workbook(fill: (book: ExcelJS.Workbook) => void): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  fill(book);
  return Buffer.from(await book.xlsx.writeBuffer());
}

/** A plan that uses every table and field of the format. */
function fullPlan(code: string): PlanBundle {
  const bundle = JSON.parse(
    readFileSync(join(__dirname, "../../../../packages/core/fixtures/worked/09-earned-value/bundle.json"), "utf8"),
  ) as PlanBundle;
  const activities = bundle.activities.map((activity, i) => ({
    ...activity,
    ...(i === 1
      ? {
          credit: {
            rule: "steps" as const,
            steps: [
              { name: 'a, "b"', weight: 1.5, doneOn: "2026-03-05" },
              { name: "=1+1", weight: 2 },
            ],
          },
        }
      : {}),
    ...(i === 2 ? { wish: { type: "startNotBefore" as const, date: "2026-03-02", reason: "line one\nline two" } } : {}),
  }));
  const formulas = [
    '=HYPERLINK("http://x")',
    "+1",
    "-2",
    "@SUM(A1)",
    "'=kept",
    "''",
    "1e5",
    "007",
    "2026-03-01",
    "TRUE",
    "–",
  ];
  const extra = formulas.map((name, i) => ({
    id: `x${i}`,
    name,
    durationMinutes: 60,
    credit: {
      rule: "stages" as const,
      stages: [
        { name: "begun", credit: 10 },
        { name: "done", credit: 100 },
      ],
      stage: "begun",
    },
  }));
  return {
    ...bundle,
    project: { ...bundle.project, code },
    activities: [...activities, ...extra],
    calendars: [
      ...bundle.calendars,
      {
        id: "empty week",
        name: "Only exceptions",
        week: {},
        exceptions: [{ from: "2026-03-07", to: "2026-03-07", shifts: [["08:00", "24:00"]], label: "Saturday" }],
      },
    ],
  };
}

describe("what is exported comes in again to the same figures", () => {
  it.each(["json", "xlsx", "csv"])("%s", async (form) => {
    const original = fullPlan(`FULL-${form}`);
    const first = await bring(["plan.json", JSON.stringify(original)]);
    expect(errors(first)).toEqual([]);
    const project = (await store(first)).body.project as string;
    const file = (await exported(project, form)).body as Buffer;
    let again = await bring([`plan.${form === "csv" ? "zip" : form}`, file]);
    expect(errors(again)).toEqual([]);
    again = await answer(again, { project: { code: `BACK-${form}` } });
    const returned = await bundleOf((await store(again)).body.project as string);
    expect(analyse(returned)).toEqual(analyse(original));
    const { project: _a, ...rest } = returned;
    const { project: _b, ...wanted } = JSON.parse(JSON.stringify(original)) as PlanBundle;
    expect(rest).toEqual(wanted);
  });

  it("spaces around a text come back from tables that were written here", async () => {
    const plan = smallPlan();
    const first = await bring([
      "plan.json",
      JSON.stringify({ ...plan, activities: [...plan.activities, { id: "s", name: "\t spaced " }] }),
    ]);
    const file = (await exported((await store(first)).body.project as string, "csv")).body as Buffer;
    const again = await answer(await bring(["plan.zip", file]), { project: { code: `S-${plan.project.code}` } });
    expect(again.preview.at(-1)).toMatchObject({ id: "s", name: "\t spaced ", depth: 0 });
  });

  it("another reader finds in the workbook what was written, and no formula", async () => {
    const first = await bring(["plan.json", JSON.stringify(fullPlan("READ-X"))]);
    const project = (await store(first)).body.project as string;
    const file = (await exported(project, "xlsx")).body as Buffer;
    const rows = (await readSheet(file, "activities")) as unknown[][];
    const names = rows.slice(1).map((row) => row[rows[0]!.indexOf("name")]);
    expect(names).toContain('\'=HYPERLINK("http://x")');
    expect(names.filter((name) => typeof name === "string" && /^[=+\-@\t]/.test(name))).toEqual([]);
    const sheets = Object.entries(unzipSync(file)).filter(([name]) => name.startsWith("xl/worksheets/"));
    expect(sheets.length).toBeGreaterThan(8);
    for (const [, xml] of sheets) expect(new TextDecoder().decode(xml)).not.toMatch(/<f[ >]/);
  });

  it("another reader finds in the CSV files what was written, with cells that would run made harmless", async () => {
    const first = await bring(["plan.json", JSON.stringify(fullPlan("READ-C"))]);
    const project = (await store(first)).body.project as string;
    const files = unzipSync((await exported(project, "csv")).body as Buffer);
    const rows = parseCsv(Buffer.from(files["activities.csv"]!), { columns: true, bom: true }) as Record<
      string,
      string
    >[];
    expect(rows).toHaveLength(fullPlan("x").activities.length);
    for (const row of rows) for (const cell of Object.values(row)) expect(cell).not.toMatch(/^[=+@\t\r]|^-(?!\d)/);
    expect(rows.find(({ id }) => id === "x4")!["name"]).toBe("''=kept");
  });

  it("a bundle that is exported keeps to the format", async () => {
    const first = await bring(["plan.json", JSON.stringify(smallPlan())]);
    const bundle = await bundleOf((await store(first)).body.project as string);
    expect(parseBundle(bundle)).toMatchObject({ ok: true });
  });
});

describe("an untidy workbook", () => {
  const untidy = () =>
    workbook((book) => {
      const sheet = book.addWorksheet("Plan Q2");
      sheet.addRow(["Ferry landing, works plan"]);
      sheet.addRow([]);
      sheet.addRow(["What", "Days needed", "Begin", "Promised"]);
      const rows: [string, number, string | number | null, string | null, string | null][] = [
        ["Preparation", 0, null, null, null],
        ["Survey", 1, 3, "02/03/2026", null],
        ["Permits", 1, "1,000", "05/03/2026", "03/04/2030"],
        ["Works", 0, null, null, null],
        ["Dredge", 1, 10, null, null],
        ["Opening", 1, 0, null, "05/12/2030"],
      ];
      for (const [what, indent, days, begin, promised] of rows) {
        const row = sheet.addRow([what, days, begin, promised]);
        row.getCell(1).alignment = { indent };
        if (what === "Survey") sheet.addRow([]);
      }
    });

  it("is understood by asking: headings matched by hand, the order of dates, and what is indented lies below", async () => {
    let view = await bring(["Ferry landing.xlsx", await untidy()]);
    expect(view).toMatchObject({ state: "ready", kind: "tables", storable: false });
    expect(view.sheets[0]).toMatchObject({ name: "Plan Q2", headingRow: 3 });
    view = await answer(view, {
      sheets: {
        "Plan Q2": {
          table: "activities",
          columns: { What: "name", "Days needed": "durationDays", Begin: "start", Promised: "deadline" },
        },
      },
      project: { start: "2026-03-02", code: "UNTIDY" },
    });
    expect(view.dateQuestion).toEqual({ sample: "02/03/2026", orders: ["dmy", "mdy"] });
    expect(view.storable).toBe(false);
    view = await answer(view, { ...view.answers, dateOrder: "dmy" });
    // "1,000" stands alone in its column: nothing tells whether that is a thousand.
    expect([view.numberQuestion, errors(view).length]).toEqual([{ sample: "1,000", point: "1000", comma: "1" }, 1]);
    view = await answer(view, { ...view.answers, numberStyle: "point" });
    expect(errors(view)).toEqual([]);
    expect(view.preview.map(({ name, depth, duration }) => [name, depth, duration])).toEqual([
      ["Preparation", 0, "summary"],
      ["Survey", 1, "3 d"],
      ["Permits", 1, "1000 d"],
      ["Works", 0, "summary"],
      ["Dredge", 1, "10 d"],
      ["Opening", 1, "milestone"],
    ]);
    const bundle = await bundleOf((await store(view)).body.project as string);
    expect(bundle.activities.find(({ name }) => name === "Survey")).toMatchObject({
      parent: "1",
      durationMinutes: 1440,
      wish: { type: "startNotBefore", date: "2026-03-02" },
    });
    expect(bundle.activities.find(({ name }) => name === "Opening")).toMatchObject({
      kind: "milestone",
      deadline: "2030-12-05",
    });
  });

  it("headings once matched by hand are remembered for the next file", async () => {
    const view = await bring(["Next.csv", "What;Days needed;Begin;Promised\nSurvey;3;2026-03-02;\n"]);
    const named = await answer(view, {
      sheets: { [view.sheets[0]!.name]: { table: "activities" } },
      project: { start: "2026-03-02" },
    });
    expect(named.sheets[0]!.headings.map(({ heading, column, guessed }) => [heading, column, guessed])).toEqual([
      ["What", "name", "remembered"],
      ["Days needed", "durationDays", "remembered"],
      ["Begin", "start", "remembered"],
      ["Promised", "deadline", "remembered"],
    ]);
    expect(errors(named)).toEqual([]);
  });

  it("dates that leave no doubt are not asked about; a number stored as a date is one", async () => {
    const view = await bring(["d.csv", "id,name,durationDays,deadline\nA,Alpha,2,25/03/2026\nB,Beta,1,04/05/2026\n"]);
    expect(view.dateQuestion).toBeNull();
    expect(
      errors(await answer(view, { project: { start: "2026-03-02" }, sheets: { d: { table: "activities" } } })),
    ).toEqual([]);
  });
});

describe("what is not understood is told with its cell and why, and nothing can be stored", () => {
  it.each<[string, string, string, string]>([
    ["a date that is none", "id,name,durationDays,deadline\nA,Alpha,2,31.02.2026\n", "D2", "deadline"],
    ["text where a number belongs", "id,name,durationDays\nA,Alpha,soon\n", "C2", "durationDays"],
    ["an unknown parent", "id,name,durationDays,parent\nA,Alpha,2,Z\n", "D2", "parent"],
    ["an id that stands twice", "id,name,durationDays\nA,Alpha,2\nA,Again,2\n", "A2", "id"],
    ["a kind that is none", "id,name,kind\nA,Alpha,epic\n", "C2", "kind"],
    ["a negative duration", "id,name,durationMinutes\nA,Alpha,-60\n", "C2", "durationMinutes"],
    ["a broken number", "id,name,durationMinutes\nA,Alpha,1.5.2\n", "C2", "durationMinutes"],
  ])("%s", async (_what, csv, cell, field) => {
    const before = await projects();
    const view = await answer(await bring(["activities.csv", csv]), {
      project: { start: "2026-03-02" },
      dateOrder: "dmy",
    });
    expect(view.storable).toBe(false);
    expect(errors(view)).toEqual(
      expect.arrayContaining([
        expect.objectContaining({
          table: "activities",
          field,
          place: `activities!${cell}`,
          message: expect.stringMatching(/./),
        }),
      ]),
    );
    expect((await store(view)).status).toBe(422);
    expect(await projects()).toBe(before);
  });

  it("a loop of links names the activities on it", async () => {
    const view = await bring(
      ["activities.csv", "id,name,durationDays\nA,Alpha,1\nB,Beta,1\n"],
      ["links.csv", "from,to\nA,B\nB,A\n"],
    );
    const after = await answer(view, { project: { start: "2026-03-02" } });
    expect(errors(after)[0]).toMatchObject({
      table: "links",
      message: expect.stringMatching(/loop: (A -> B -> A|B -> A -> B)/),
    });
  });

  it("a cell with an error or an unsaved formula says so", async () => {
    const file = await workbook((book) => {
      const sheet = book.addWorksheet("activities");
      sheet.addRow(["id", "name", "durationMinutes"]);
      sheet.addRow(["A", "Alpha", { error: "#REF!" } as never]);
      sheet.addRow(["B", "Beta", { formula: "1+1", result: undefined } as never]);
    });
    const view = await answer(await bring(["broken.xlsx", file]), { project: { start: "2026-03-02" } });
    expect(errors(view).map(({ place, message }) => [place, message])).toEqual([
      ["activities!C2", "holds the error #REF!"],
      ["activities!C3", expect.stringMatching(/formula without a value/)],
    ]);
  });

  it("a person with 25 hours on one day", async () => {
    const plan = smallPlan({
      timeEntries: [
        { activity: "dig", person: "ann", date: "2026-03-03", minutes: 900, state: "posted" },
        { activity: "dig", person: "ann", date: "2026-03-03", minutes: 600, state: "posted" },
      ],
    });
    const view = await bring([
      "plan.json",
      JSON.stringify({ ...plan, project: { ...plan.project, dataDate: "2026-03-06" } }),
    ]);
    expect(errors(view)).toEqual([
      expect.objectContaining({
        table: "timeEntries",
        row: "dig / ann",
        field: "minutes",
        message: "ann has more than 24 hours booked on 2026-03-03",
      }),
    ]);
  });

  it("an unknown field of a bundle is refused by name", async () => {
    const view = await bring(["plan.json", JSON.stringify({ ...smallPlan(), surprise: 1 })]);
    expect(errors(view)[0]).toMatchObject({
      field: "surprise",
      message: expect.stringContaining("is not a field of this format"),
    });
  });
});

describe("files that cannot be read at all", () => {
  it.each<[string, File, RegExp]>([
    ["an empty file", ["plan.json", ""], /./],
    ["half a bundle", ["plan.json", '{"format": "chronometra-plan",'], /./],
    ["something else with the ending of a workbook", ["plan.xlsx", "PK\u0003\u0004 but no zip"], /damaged/],
    ["a program", ["plan.csv", Buffer.from([0x7f, 0x45, 0x4c, 0x46, 0, 0, 0, 1])], /neither JSON nor CSV/],
    [
      "a zip without tables",
      ["plan.zip", Buffer.from(zipSync({ "a.txt": strToU8("hello") }))],
      /neither a workbook nor CSV/,
    ],
    ["a CSV with an open quote", ["activities.csv", 'id,name\nA,"Alpha\n'], /line/],
  ])("%s", async (_what, file, words) => {
    const before = await projects();
    const view = await bring(file);
    expect(view.storable).toBe(false);
    expect(
      view.state === "failed"
        ? view.step
        : errors(view)
            .map(({ message }) => message)
            .join(),
    ).toMatch(words);
    expect(await projects()).toBe(before);
  });

  it("a workbook that is a bomb is stopped while it unpacks", async () => {
    const name = "xl/worksheets/sheet1.xml";
    const pressed = deflateRawSync(Buffer.alloc(450 * 1024 * 1024));
    // The head of a file in a zip (APPNOTE.TXT, 4.3.7); sums are left at nothing, and so is the directory.
    const head = Buffer.alloc(30);
    head.writeUInt32LE(0x04034b50, 0);
    head.writeUInt16LE(8, 8);
    head.writeUInt32LE(pressed.length, 18);
    head.writeUInt16LE(name.length, 26);
    const view = await bring(["bomb.xlsx", Buffer.concat([head, Buffer.from(name), pressed])]);
    expect(view).toMatchObject({ state: "failed", step: expect.stringMatching(/more than 400 MB/) });
  }, 180_000);

  it("a 200 MB file is refused before it is read", async () => {
    const before = await world.database.getRepository(ImportDraftEntity).count();
    const refused = await ines
      .send("post", "/api/imports")
      .attach("file", Buffer.alloc(200 * 1024 * 1024, 32), "huge.csv");
    expect([refused.status, refused.body.code]).toEqual([413, "tooLarge"]);
    expect(await world.database.getRepository(ImportDraftEntity).count()).toBe(before);
  }, 60_000);

  it("no file at all", async () => {
    expect((await ines.send("post", "/api/imports").field("nothing", "x")).body.message).toMatch(/No file came/);
  });
});

describe("storing", () => {
  it("is all or nothing, once, and under a code of its own", async () => {
    const plan = smallPlan({ project: { code: "ONCE" } as never });
    const view = await bring(["plan.json", JSON.stringify(plan)]);
    const twice = await Promise.all([store(view), store(view)]);
    expect(twice.map(({ status }) => status).sort()).toEqual([200, 409]);
    const same = await store(await bring(["plan.json", JSON.stringify(plan)]));
    expect([same.status, same.body.problems[0]]).toEqual([
      409,
      expect.objectContaining({ table: "project", row: "ONCE", field: "code" }),
    ]);
  });

  it("a file is seen by whoever brought it alone, and dropping it leaves nothing", async () => {
    const view = await bring(["plan.json", JSON.stringify(smallPlan())]);
    const other = await world.caller("nosy", ["controller"]);
    expect((await other.get(`/api/imports/${view.id}`)).status).toBe(404);
    expect((await ines.send("delete", `/api/imports/${view.id}`)).status).toBe(200);
    expect(await world.database.getRepository(ImportDraftEntity).countBy({ id: view.id })).toBe(0);
  });

  it("10 000 activities come in, with a step told on the way", async () => {
    const activities = Array.from({ length: 10_000 }, (_, i) => ({
      id: `a${i}`,
      name: `Activity ${i}`,
      durationMinutes: 480,
    }));
    const links = Array.from({ length: 9_999 }, (_, i) => ({
      from: `a${i}`,
      to: `a${i + 1}`,
      type: "SS" as const,
      lagMinutes: 60,
    }));
    const view = await bring([
      "big.json",
      JSON.stringify({ ...smallPlan(), activities, links, assignments: [], costs: [], people: [] }),
    ]);
    expect(view.counts.find(({ table }) => table === "activities")).toEqual({ table: "activities", rows: 10_000 });
    expect((await store(view)).status).toBe(200);
  }, 60_000);
});
