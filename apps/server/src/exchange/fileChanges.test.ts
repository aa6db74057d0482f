import type { FileChanges, ImportView } from "@chronometra/contract";
import type { Change, PlanBundle } from "@chronometra/core";
import ExcelJS from "exceljs";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { stopWorkers } from "../shared/workers.ts";

let world: TestWorld;
let tomas: Caller;
let project: string;

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
});
beforeEach(async () => {
  project = await world.addProject(tomas.me, smallPlan());
});
afterAll(async () => {
  await stopWorkers();
  await world.drop();
});

const download = async (form: string): Promise<Buffer> =>
  (
    await tomas
      .get(`/api/projects/${project}/export/${form}`)
      .buffer(true)
      .parse((response, done) => {
        const chunks: Buffer[] = [];
        response.on("data", (chunk: Buffer) => chunks.push(chunk));
        response.on("end", () => done(null, Buffer.concat(chunks)));
      })
  ).body as Buffer;
const bundle = async (): Promise<PlanBundle> => JSON.parse((await download("json1")).toString()) as PlanBundle;

/** Downloads the plan as a workbook, edits it as someone would, and brings it back. */
async function edited(edit: (book: ExcelJS.Workbook) => void): Promise<ImportView> {
  const book = new ExcelJS.Workbook();
  await book.xlsx.load((await download("xlsx")) as never);
  edit(book);
  const begun = await tomas
    .send("post", "/api/imports")
    .attach("file", Buffer.from(await book.xlsx.writeBuffer()), "plan.xlsx");
  for (let view = begun.body as ImportView; ; view = (await tomas.get(`/api/imports/${view.id}`)).body as ImportView) {
    if (view.state !== "reading")
      return (await tomas.send("put", `/api/imports/${view.id}`, { changesTo: project })).body as ImportView;
    await new Promise((resolve) => setTimeout(resolve, 40));
  }
}
const changesOf = async (view: ImportView): Promise<FileChanges> =>
  (await tomas.get(`/api/imports/${view.id}/changes`)).body as FileChanges;
const take = (view: ImportView, revision: number, keys: string[]) =>
  tomas.send("post", `/api/imports/${view.id}/changes`, { revision, keys });

/** The cell of a row, found by its id, under a heading. */
function cell(book: ExcelJS.Workbook, sheet: string, id: string, heading: string): ExcelJS.Cell {
  const page = book.getWorksheet(sheet)!;
  const headings = page.getRow(1).values as string[];
  let found: ExcelJS.Row | undefined;
  page.eachRow((row) => void (row.getCell(1).value === id && (found = row)));
  return found!.getCell(headings.indexOf(heading));
}
function deleteRow(book: ExcelJS.Workbook, sheet: string, id: string): void {
  const page = book.getWorksheet(sheet)!;
  let at = 0;
  page.eachRow((row, n) => void (row.getCell(1).value === id && (at = n)));
  page.spliceRows(at, 1);
}

describe("a plan exported to a workbook, edited, and brought back as changes", () => {
  it("says nothing where nothing was edited", async () => {
    const view = await edited(() => undefined);
    expect(await changesOf(view)).toMatchObject({ project: { id: project }, revision: 1, rows: [] });
  });

  it("tells each row with what was and what would be, previews and takes over those that are ticked as one list, which can be undone", async () => {
    const before = await bundle();
    const view = await edited((book) => {
      cell(book, "activities", "dig", "durationMinutes").value = 2880;
      cell(book, "activities", "pour", "name").value = "Pour concrete";
      book.getWorksheet("activities")!.addRow({}).getCell(2).value = "Inspect";
      cell(book, "assignments", "dig", "plannedMinutes").value = 2000;
    });
    const { rows } = await changesOf(view);
    expect(rows.map(({ table, what, name, fields }) => [table, what, name, fields.map(({ field }) => field)])).toEqual([
      ["activities", "added", "Inspect", []],
      ["activities", "changed", "Pour", ["name"]],
      ["activities", "changed", "Dig", ["durationMinutes"]],
      ["assignments", "changed", "Dig / Ann", ["plannedMinutes"]],
    ]);
    const keys = rows.filter(({ name }) => name !== "Pour").map(({ key }) => key);
    const effect = await tomas.send("post", `/api/imports/${view.id}/changes/effect`, { revision: 1, keys });
    expect(effect.body.finish).toMatchObject({ from: "2026-03-11", to: "2026-03-12" });
    expect(await bundle()).toEqual(before);
    const taken = await take(view, 1, keys);
    expect(taken.body).toMatchObject({ project, revision: 2, undoable: true });
    const after = await bundle();
    expect(after.activities.map(({ name }) => name)).toEqual(["Works", "Dig", "Pour", "Open", "Inspect"]);
    expect([after.activities[1]!.durationMinutes, after.assignments![0]!.plannedMinutes]).toEqual([2880, 2000]);
    await tomas.send("post", `/api/projects/${project}/undo`, { revision: 2 });
    expect(await bundle()).toEqual(before);
  });

  it("a row deleted in the activities goes with its links, people and costs, without having to delete those too", async () => {
    const view = await edited((book) => deleteRow(book, "activities", "pour"));
    expect(view.problems.filter(({ level }) => level === "error")).toEqual([]);
    const { rows } = await changesOf(view);
    expect(rows.map(({ table, what, name }) => `${what} ${table} ${name}`)).toEqual([
      "removed links Dig -> Pour",
      "removed links Pour -> Open",
      "removed assignments Pour / Bo",
      "removed costs Pour / material",
      "removed activities Pour",
    ]);
    // Ticking the activity alone would leave its links without an end.
    const alone = await take(view, 1, ["activities/pour"]);
    expect([alone.status, alone.body.message]).toEqual([
      422,
      expect.stringMatching("Dig → .*Select what they rest on too"),
    ]);
    expect(
      (
        await take(
          view,
          1,
          rows.map(({ key }) => key),
        )
      ).status,
    ).toBe(200);
    expect((await bundle()).activities.map(({ id }) => id)).toEqual(["works", "dig", "open"]);
  });

  it("is asked to look again when the plan was changed meanwhile, and nothing is stored", async () => {
    const view = await edited((book) => void (cell(book, "activities", "dig", "name").value = "Dredge"));
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision: 1,
      changes: [{ type: "setName", activity: "pour", name: "Cast" }],
    });
    const late = await take(view, 1, ["activities/dig"]);
    expect([late.status, late.body.message]).toEqual([409, expect.stringContaining("look again")]);
    // Looked at again, what only the other wrote is no change of the file.
    expect((await changesOf(view)).rows.map(({ name, fields, both }) => [name, fields[0]!.to, both])).toEqual([
      ["Dig", "Dredge", false],
    ]);
  });

  it("is compared with what it was made from, though colleagues went on: what both changed says all three values", async () => {
    const view = await edited((book) => {
      cell(book, "activities", "dig", "name").value = "Dredge";
      cell(book, "activities", "dig", "durationMinutes").value = 960;
    });
    const added: Change = {
      type: "addRow",
      table: "activities",
      key: "extra",
      row: { id: "extra", name: "Extra", durationMinutes: 60 },
    };
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision: 1,
      changes: [
        { type: "setDuration", activity: "dig", minutes: 480 },
        { type: "setName", activity: "pour", name: "Cast" },
        added,
      ],
    });
    const { madeFrom, revision, rows } = await changesOf(view);
    expect([madeFrom!.revision, revision]).toEqual([1, 2]);
    expect(rows).toEqual([
      expect.objectContaining({
        name: "Dig",
        both: true,
        fields: [
          { field: "name", from: "Dig", to: "Dredge" },
          { field: "durationMinutes", from: 480, to: 960, then: 2400 },
        ],
      }),
    ]);
    expect((await take(view, 2, ["activities/dig"])).status).toBe(200);
    expect((await bundle()).activities.map(({ name }) => name)).toEqual(["Works", "Dredge", "Cast", "Open", "Extra"]);
  });

  it("that does not say what it was made from, or of which that is not kept, is compared with the plan as it is and says so", async () => {
    const view = await edited((book) => void (cell(book, "activities", "dig", "name").value = "Dredge"));
    await world.database.query("delete from exported_plan");
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision: 1,
      changes: [{ type: "setName", activity: "pour", name: "Cast" }],
    });
    expect(await changesOf(view)).toMatchObject({ madeFrom: null, rows: [{ name: "Cast" }, { name: "Dig" }] });
  });

  it("is closed to whoever may not change the project", async () => {
    const other = await world.caller("wanjiru", ["projectManager"]);
    const begun = await other.send("post", "/api/imports").attach("file", await download("json"), "plan.json");
    for (let state = begun.body.state as string; state === "reading";) {
      await new Promise((resolve) => setTimeout(resolve, 40));
      state = (await other.get(`/api/imports/${begun.body.id}`)).body.state as string;
    }
    await other.send("put", `/api/imports/${begun.body.id}`, { changesTo: project });
    expect((await other.get(`/api/imports/${begun.body.id}/changes`)).status).toBe(403);
  });
});
