import type { ImportAnswers, ImportView, PlanView } from "@chronometra/contract";
import ExcelJS from "exceljs";
import { stopWorkers } from "../../shared/workers.ts";
import { columnsOf, MADE_FROM, NUMBERS_SAY, SHEET_NAMES } from "../sheets/columns.ts";
import { TestWorld, type Caller } from "../../testing/testWorld.ts";

let world: TestWorld;
let ines: Caller;
let tomas: Caller;
let quill: Caller;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
  quill = await world.caller("quill", ["reader"]);
});
afterAll(async () => {
  await stopWorkers();
  await world.drop();
});

type Row = readonly (string | number | null)[];

/** A workbook of one sheet, brought by someone and read. */
async function bring(rows: readonly Row[], sheet = "Works", who = ines): Promise<ImportView> {
  const book = new ExcelJS.Workbook();
  const page = book.addWorksheet(sheet);
  for (const row of rows) page.addRow([...row]);
  const file = Buffer.from(await book.xlsx.writeBuffer());
  const begun = await who.send("post", "/api/imports").attach("file", file, "Quay.xlsx");
  for (let view = begun.body as ImportView; ; view = (await who.get(`/api/imports/${view.id}`)).body as ImportView) {
    if (view.state !== "reading") return view;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}
const answer = async (view: ImportView, answers: ImportAnswers): Promise<ImportView> =>
  (await ines.send("put", `/api/imports/${view.id}`, answers)).body as ImportView;
const store = (view: ImportView, body: object = {}) => ines.send("post", `/api/imports/${view.id}/store`, body);
const planOf = async (project: string): Promise<PlanView> =>
  (await ines.get(`/api/projects/${project}/plan`)).body as PlanView;

/** A number in letters, as names have no digits. */
const letters = (n: number): string => String(n).replace(/\d/g, (digit) => "abcdefghij"[Number(digit)]!);

const ROWS: readonly Row[] = [
  ["Was", "Wie lang", "Nach", "Wer", "Art", "Zone"],
  ["Dig", "3 days", null, "Ann", null, "North"],
  ["Pour", "n/a", "Dig", "Bob", null, "South"],
];
const COLUMNS = {
  Was: "name",
  "Wie lang": "durationDays",
  Nach: "predecessors",
  Wer: "people",
  Art: "role",
  Zone: "own",
};
const ANSWERS: ImportAnswers = {
  sheets: { Works: { table: "activities", columns: COLUMNS, alike: { "Wie lang": { "n/a": "2d" } } } },
  people: { Ann: "new", Bob: "role" },
  project: { code: "QUAY", name: "Quay", start: "2026-03-02", dataDate: "2026-03-02", currency: "JPY" },
};

describe("an ordinary sheet that is stored", () => {
  it("is a plan with fields of its own, people who stand for a role, and the manager who was chosen", async () => {
    const view = await answer(await bring(ROWS), ANSWERS);
    expect(view.problems.filter(({ level }) => level === "error")).toEqual([]);
    expect(view.known.managers.map(({ name }) => name)).toEqual(["Ines", "Tomas"]);
    const refused = await store(view, { manager: quill.me.id });
    expect([refused.status, refused.body.message]).toEqual([422, expect.stringContaining("no project manager")]);
    const stored = await store(view, { manager: tomas.me.id });
    const { tables, project: head } = await planOf(stored.body.project as string);
    const of = (table: keyof typeof tables) => Object.fromEntries(tables[table] as [string, object][]);
    expect(of("fields")).toEqual({ "field-1": { id: "field-1", name: "Zone", type: "text" } });
    expect(of("ownValues")).toEqual({ 1: { "field-1": "North" }, 2: { "field-1": "South" } });
    const [bob] = Object.entries(of("people")).find(([, row]) => (row as { name: string }).name === "Bob")!;
    expect(of("placeholders")).toEqual({ [bob]: { person: bob } });
    expect(head).toMatchObject({ currency: "JPY", minorDigits: 0 });
    const project = await world.database.query("select manager_id from project where id = ?", [stored.body.project]);
    expect(project).toEqual([{ manager_id: tomas.me.id }]);
    // Whoever came in with one file is known to the next.
    const next = await bring([
      ["Task", "Duration", "Who"],
      ["Sweep", "1d", "ann"],
    ]);
    expect([next.peopleQuestion, next.known.people.map(({ name }) => name)]).toEqual([[], ["Ann"]]);
  });

  it("is read as an earlier one was, whatever its sheet is called; its single cells are its own", async () => {
    const first = await answer(await bring(ROWS), {
      ...ANSWERS,
      sheets: { Works: { ...ANSWERS.sheets!["Works"]!, cells: { A2: "Excavate" } } },
    });
    const kept = await ines.send("post", `/api/imports/${first.id}/understanding`, { name: "yard" });
    expect(kept.body).toMatchObject([{ name: "yard", by: "Ines" }]);
    const again = await bring([ROWS[0]!, ["Drive piles", "n/a", null, "Ann", null, "West"]], "April", tomas);
    // Headings are known by now; what "n/a" means is not.
    expect(again.errors).toBeGreaterThan(0);
    const read = (await tomas.send("post", `/api/imports/${again.id}/understanding/${kept.body[0].id as string}`, {}))
      .body as ImportView;
    expect(read.preview).toMatchObject([{ name: "Drive piles", duration: "2 d" }]);
    expect(read.sheets[0]!.headings.map(({ column }) => column)).toEqual(Object.values(COLUMNS));
    expect(read.project).toMatchObject({
      code: "QUAY",
      currency: "JPY",
      start: expect.not.stringMatching("2026-03-02"),
    });
    // Of one name there is one; whoever brings plans may replace it, and take it away.
    const replaced = await tomas.send("post", `/api/imports/${again.id}/understanding`, { name: "yard" });
    expect(replaced.body).toMatchObject([{ id: kept.body[0].id, by: "Tomas" }]);
    expect((await tomas.send("post", `/api/imports/${again.id}/understanding`, { name: " " })).status).toBe(422);
    expect((await quill.get("/api/understandings")).status).toBe(403);
    await tomas.send("delete", `/api/understandings/${kept.body[0].id as string}`);
    expect((await ines.get("/api/understandings")).body).toEqual([]);
    const gone = await tomas.send("post", `/api/imports/${again.id}/understanding/${kept.body[0].id as string}`, {});
    expect(gone.status).toBe(404);
  });

  it("offers every column of every table in words, and no field of the format by its name", async () => {
    const { tables } = await bring([
      ["Task", "Duration"],
      ["Dig", "1d"],
    ]);
    const offered = new Map(tables.map(({ table, columns }) => [table, columns]));
    for (const table of SHEET_NAMES)
      for (const column of Object.keys(columnsOf(table)).filter((each) => each !== NUMBERS_SAY && each !== MADE_FROM))
        expect([table, column, offered.get(table)!.some((each) => each.column === column)]).toEqual([
          table,
          column,
          true,
        ]);
    for (const { words } of [...offered.values()].flat()) expect(words).toMatch(/^[A-Z]\p{L}*/u);
  });

  it("of 10 000 rows that are all wrong is told as such, and does not take longer than one that is right", async () => {
    const rows: Row[] = Array.from({ length: 10_000 }, (_, i) => [
      `Step ${i}`,
      "n/a",
      `No ${i}`,
      `Who ${letters(i % 4000)}`,
      "someday",
    ]);
    const view = await bring([["Task", "Duration", "Predecessors", "Who", "Deadline"], ...rows]);
    expect([view.state, view.errors]).toEqual(["ready", 34_000]);
    expect(view.problems[0]!.cell).toMatchObject({ text: "n/a", alike: 10_000 });
  });

  it("of 10 000 rows with links, people and a total is understood as a whole", async () => {
    const rows: Row[] = Array.from({ length: 10_000 }, (_, i) => [
      i % 10 === 0 ? `${i / 10 + 1}` : `${Math.floor(i / 10) + 1}.${i % 10}`,
      `Step ${i}`,
      i % 10 === 0 ? null : `${(i % 4) + 1}d`,
      i % 10 < 2 ? null : `${Math.floor(i / 10) + 1}.${(i % 10) - 1}`,
      i % 10 === 0 ? null : "Ann",
    ]);
    const view = await bring([
      ["WBS", "Task", "Duration", "Predecessors", "Who"],
      ...rows,
      ["Total", null, "999 d", null, null],
    ]);
    expect(view.errors).toBe(0);
    expect(view.counts.filter(({ table }) => table === "activities" || table === "links")).toEqual([
      { table: "activities", rows: 10_000 },
      { table: "links", rows: 8_000 },
    ]);
    expect(view.sheets[0]!.leftOut).toMatchObject([{ line: 10_002, why: "a total" }]);
  });
});
