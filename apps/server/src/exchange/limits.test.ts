import { mkdtempSync, readdirSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { ImportView } from "@chronometra/contract";
import ExcelJS from "exceljs";
import { inReader, ReaderEnded, stopWorkers } from "../shared/workers.ts";
import { TestWorld, type Caller } from "../testing/testWorld.ts";
import { sweepDrafts } from "./importService.ts";
import { readFiles } from "./sheets/readFiles.ts";
import { filesRoot } from "./receiveFiles.ts";

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const read = (name: string, text: string) => readFiles([{ name, data: bytes(text) }]);

describe("a small file that would take gigabytes is refused before anything is made of it", () => {
  it.each<[string, string, RegExp]>([
    ["wide.csv", `${"a,".repeat(1_000_000)}b\n1,2\n`, /row 1 has more than 4000 columns/],
    ["long.csv", "a\n".repeat(400_000), /more than 300000 rows/],
    ["deep.json", `${"[".repeat(200_000)}${"]".repeat(200_000)}`, /nested deeper than 64 levels/],
    ["deep.json", `{"format": ${'{"a":'.repeat(100)}1${"}".repeat(100)}}`, /nested deeper than 64 levels/],
  ])("%s", async (name, text, why) => {
    const began = Date.now();
    await expect(read(name, text)).rejects.toThrow(why);
    expect(Date.now() - began).toBeLessThan(5000);
  });

  it("commas and brackets in texts are no columns and no levels", async () => {
    expect(await read("ok.csv", `id,name\n1,"${"a,".repeat(9000)}"\n`)).toMatchObject({ kind: "tables" });
    expect(await read("ok.json", `{"format": "${'[\\"{'.repeat(500)}"}`)).toMatchObject({ kind: "bundle" });
  });

  it("a text that holds what none may is refused in a bundle with where, and cleared of it in a sheet", async () => {
    const bundle = { format: "chronometra-plan", activities: [{ name: "fine" }, { name: "Dig\u202e" }] };
    await expect(read("plan.json", JSON.stringify(bundle))).rejects.toThrow(
      /plan.json: activities \/ 1 \/ name holds an invisible character that turns .*U\+202E/,
    );
    await expect(read("plan.json", '{"name": "a\\u0000"}')).rejects.toThrow(/name holds .*U\+0000/);
    expect(await read("plan.json", '{"name": "\\ud83d\\ude00 \\u2019"}')).toMatchObject({ kind: "bundle" });
    const file = await read("plan.csv", "id,name\n1,Dig\u202edeep\u000b\n");
    expect(file.kind === "tables" && file.sheets[0]!.rows[1]).toEqual(["1", "Digdeep\n"]);
  });

  it("a workbook of two cells that lie far apart holds two cells", async () => {
    const book = new ExcelJS.Workbook();
    const page = book.addWorksheet("Far");
    page.getCell("A1").value = "name";
    page.getCell(250_000, 390).value = "far";
    const before = process.memoryUsage().heapUsed;
    const file = await readFiles([
      { name: "far.xlsx", data: new Uint8Array(Buffer.from(await book.xlsx.writeBuffer())) },
    ]);
    expect(file.kind === "tables" && file.sheets[0]!.rows.length).toBe(250_000);
    expect((process.memoryUsage().heapUsed - before) / 1e6).toBeLessThan(400);
  });
});

describe("a reader", () => {
  afterAll(stopWorkers);
  const fileIn = (text: string): string => {
    const path = join(mkdtempSync(join(tmpdir(), "chronometra-limits-")), "file");
    writeFileSync(path, text);
    return path;
  };

  it("is ended where it takes longer than it may, and where it needs more memory, and says so", async () => {
    const path = fileIn(`id,name\n${Array.from({ length: 250_000 }, (_, i) => `${i},Name ${i}`).join("\n")}`);
    const job = { job: "cells", files: [{ name: "much.csv", path }] };
    await expect(inReader("exchange/worker", job, { milliseconds: 1 })).rejects.toThrow(ReaderEnded);
    await stopWorkers();
    await expect(inReader("exchange/worker", job, { megabytes: 20 })).rejects.toThrow(/needs more than 20 MB/);
    await stopWorkers();
    expect(await inReader("exchange/worker", job)).toHaveProperty("cells");
  }, 60_000);
});

describe("files that were brought", () => {
  let world: TestWorld;
  let tomas: Caller;
  beforeAll(async () => {
    world = await TestWorld.open();
    tomas = await world.caller("tomas", ["projectManager"]);
  });
  afterAll(async () => {
    await stopWorkers();
    await world.drop();
  });
  const folders = (): number => readdirSync(filesRoot()).length;

  it("are on disk until they are read, and gone then", async () => {
    const before = folders();
    const begun = (await tomas.send("post", "/api/imports").attach("file", Buffer.from("id,name\n1,Dig\n"), "plan.csv"))
      .body as ImportView;
    let view = begun;
    for (; view.state === "reading"; view = (await tomas.get(`/api/imports/${begun.id}`)).body as ImportView)
      await new Promise((resolve) => setTimeout(resolve, 40));
    expect([view.state, folders()]).toEqual(["ready", before]);
  });

  it("whose reading was cut off say so, and those that nobody came back to are dropped", async () => {
    const { id } = (
      await tomas.send("post", "/api/imports").attach("file", Buffer.from("id,name\n1,Dig\n"), "plan.csv")
    ).body as ImportView;
    while (((await tomas.get(`/api/imports/${id}`)).body as ImportView).state === "reading")
      await new Promise((resolve) => setTimeout(resolve, 40));
    await world.database.query("update import_draft set state = 'reading', alive_at = ? where id = ?", [
      Date.now() - 120_000,
      id,
    ]);
    const view = (await tomas.get(`/api/imports/${id}`)).body as ImportView;
    expect([view.state, view.step]).toEqual(["failed", expect.stringContaining("bring the file again")]);
    await world.database.query("update import_draft set state = 'reading', alive_at = ? where id = ?", [
      Date.now() - 120_000,
      id,
    ]);
    await world.app.sweep();
    expect(await world.database.query("select state from import_draft where id = ?", [id])).toEqual([
      { state: "failed" },
    ]);
    await sweepDrafts(world.database, Date.now() + 15 * 86_400_000);
    expect(await world.database.query("select id from import_draft where id = ?", [id])).toEqual([]);
  });
});
