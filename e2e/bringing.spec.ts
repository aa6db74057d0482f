import { readFileSync } from "node:fs";
import { expect, test, type Page } from "@playwright/test";
import ExcelJS from "exceljs";
import { fileOf, projectId, signIn } from "./helpers.ts";

/** A plan as a site office keeps it: titles, outline numbers, lengths in words, headings again, a total, another sheet. */
async function untidy(): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Programme");
  const headings = ["No.", "Work item", "How long", "Comes after", "By whom", "Budget (EUR)", "Zone"];
  sheet.addRow(["Quay wall, works programme"]);
  sheet.mergeCells("A1:G1");
  sheet.addRow([]);
  sheet.addRow(headings);
  for (const row of [
    ["1", "Preparation"],
    ["1.1", "Survey the wall", "3 days", null, "Keller, Amadou", 1200, "North"],
    ["1.2", "Obtain permits", "2w", "1.1", "Gudrun Ahl 16h", null, "North"],
    [],
    ["2", "Works"],
    headings,
    ["2.1", "Dredge the basin", "1,5 d", "1.1FS+2d; 1.2", "Gudrun Ahl 50%; Bo Ek", 8000.5, "South"],
    ["2.2", "Pour the beam", "n/a", "2.1SS-1d", "Bo Ek", null, "South"],
    ["2.3", "Backfill", "n/a", "2.2", null, null, "South"],
    ["2.4", "Open the quay", "0d", "2.3", null, null, null],
    ["TOTAL", null, "22 d", null, null, 9200.5],
  ])
    sheet.addRow(row);
  book.addWorksheet("Notes").addRow(["Call the harbour master first"]);
  return Buffer.from(await book.xlsx.writeBuffer());
}

const cell = (page: Page, row: string, column: number) =>
  page
    .getByRole("row")
    .filter({ has: page.getByRole("rowheader", { name: row, exact: true }) })
    .locator(`[aria-colindex="${column}"]`);

test("a plan as people have it arrives with its branches, lengths, links, people and costs; what is not understood is mended on the page", async ({
  page,
}) => {
  await signIn(page, "ines");
  await page.goto("/import");
  await page
    .getByLabel("Files to bring")
    .setInputFiles({ name: "Quay.xlsx", mimeType: "application/octet-stream", buffer: await untidy() });
  const store = page.getByRole("button", { name: "Store as a new project" });
  await expect(page.getByText("2 rows left out")).toBeVisible();
  await expect(store).toBeDisabled();
  // Amadou is found by his name in another order; two are nobody's names.
  await page.getByRole("button", { name: "All 2 are new people" }).click();
  await expect(page.getByText("Gudrun Ahl is a new person")).toBeVisible();
  const mending = page.getByRole("row", { name: /Programme!C11, Programme!C12/ });
  await mending.getByRole("textbox").fill("2d");
  await mending.getByRole("button", { name: "Mend all 2" }).click();
  await page.getByLabel("Column for Zone").selectOption({ label: "A field of its own" });
  await page.getByLabel("Code").fill("BRING-1");
  await page.getByLabel("Project starts").fill("1 Mar 2027");
  await page.getByLabel("Project starts").press("Enter");
  await expect(page.getByRole("table", { name: "Preview" }).getByText("Backfill")).toBeVisible();
  await page.getByLabel("Note how it is read, for the next file").fill("site office");
  await page.getByRole("button", { name: "Note", exact: true }).click();
  await expect(page.getByText("The next file can be read as “site office”.")).toBeVisible();
  await expect(store).toBeEnabled();
  await store.click();
  await expect(page.getByRole("rowheader")).toHaveText([
    "Preparation",
    "Survey the wall",
    "Obtain permits",
    "Works",
    "Dredge the basin",
    "Pour the beam",
    "Backfill",
    "Open the quay",
  ]);
  await expect(cell(page, "Dredge the basin", 2)).toHaveText("1.5 d");
  await expect(cell(page, "Backfill", 2)).toHaveText("2 d");
  const id = /projects\/([^/]+)/.exec(page.url())![1]!;
  const bundle = (await (await page.request.get(`/api/projects/${id}/export/json1`)).json()) as {
    links: { from: string; to: string; type?: string; lagMinutes?: number }[];
    people: { id: string; name: string }[];
    assignments: { activity: string; person: string; plannedMinutes: number; unitsPercent?: number }[];
    costs: { activity: string; plannedMinor: number }[];
  };
  expect(bundle.links).toEqual([
    { from: "1.1", to: "1.2" },
    { from: "1.1", to: "2.1", lagMinutes: 960 },
    { from: "1.2", to: "2.1" },
    { from: "2.1", to: "2.2", type: "SS", lagMinutes: -480 },
    { from: "2.2", to: "2.3" },
    { from: "2.3", to: "2.4" },
  ]);
  const named = new Map(bundle.people.map((person) => [person.id, person.name]));
  expect(
    bundle.assignments.map(({ activity, person, plannedMinutes }) => [activity, named.get(person), plannedMinutes]),
  ).toEqual([
    ["1.1", "Amadou Keller", 1440],
    ["1.2", "Gudrun Ahl", 960],
    ["2.1", "Gudrun Ahl", 360],
    ["2.1", "Bo Ek", 720],
    ["2.2", "Bo Ek", 960],
  ]);
  expect(bundle.costs.map(({ activity, plannedMinor }) => [activity, plannedMinor])).toEqual([
    ["1.1", 120_000],
    ["2.1", 800_050],
  ]);

  // The next file of the same people is read so, and nothing is asked twice.
  await page.goto("/import");
  await page
    .getByLabel("Files to bring")
    .setInputFiles({ name: "Quay 2.xlsx", mimeType: "application/octet-stream", buffer: await untidy() });
  await page.getByLabel("Read it as an earlier file").selectOption({ index: 1 });
  await page.getByRole("button", { name: "Read it so" }).click();
  await expect(store).toBeEnabled();
  await page.getByRole("button", { name: "Discard" }).click();
});

test("rows copied from a spreadsheet are pasted into the page, and are a plan", async ({ page }) => {
  await signIn(page, "ines");
  await page.goto("/import");
  await expect(page.getByRole("heading", { name: "Bring a plan" })).toBeVisible();
  await page.evaluate((text) => {
    const data = new DataTransfer();
    data.setData("text/plain", text);
    document.body.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  }, "Task\tDuration\tPredecessors\r\nDig\t2d\t\r\nPour\t1d\tDig\r\n");
  await expect(page.getByText(/^Understood: 2 activities, 1 link/)).toBeVisible();
  await page.getByLabel("Code").fill("BRING-2");
  await page.getByLabel("Code").press("Tab");
  await expect(page.getByRole("button", { name: "Store as a new project" })).toBeEnabled();
  await page.getByRole("button", { name: "Store as a new project" }).click();
  await expect(page.getByRole("rowheader")).toHaveText(["Dig", "Pour"]);
});

test("a project leaves with all that it holds, and comes in under another code with its history and what-ifs", async ({
  page,
}) => {
  await signIn(page, "ines");
  await page.goto(`/projects/${await projectId(page, "SW-04")}/plan`);
  await page.getByText("Export", { exact: true }).first().click();
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "All that it holds (.json)" }).click(),
  ]);
  expect(file.suggestedFilename()).toBe("SW-04.json");
  await page.goto("/import");
  await page
    .locator("input[type=file]")
    .first()
    .setInputFiles(fileOf(file.suggestedFilename(), readFileSync(await file.path(), "utf8")));
  await expect(page.getByText(/^Understood: .*5 revisions/)).toBeVisible();
  // Everybody who wrote in it is here, and so are its periods: nothing of the house is to be told.
  await expect(page.getByText("How it was read")).toHaveCount(0);
  const code = page.getByLabel("Code", { exact: true });
  await code.fill("SW-04B");
  await code.press("Tab");
  await page.getByRole("button", { name: "Store as a new project" }).click();
  await expect(page).toHaveURL(/\/projects\/[^/]+\/plan$/);
  await expect(page.getByText("SW-04B", { exact: false }).first()).toBeVisible();
  const at = new URL(page.url()).pathname.replace(/\/plan$/, "");
  await page.goto(`${at}/history`);
  await expect(page.getByRole("table").locator("tbody tr")).toHaveCount(5);
  const whatIfs = (await (await page.request.get(`/api${at}/whatifs`)).json()) as { name: string }[];
  expect(JSON.stringify(whatIfs)).toContain("Night work on the pools");
});
