import { readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import ExcelJS from "exceljs";
import { planText, projectId, seriousFindings, signIn } from "./helpers.ts";

test("a shutdown in a calendar is previewed in every project that uses it, stored in some, and undone", async ({
  page,
}) => {
  await signIn(page, "ines");
  const [id, other] = [await projectId(page, "SW-04"), await projectId(page, "LG-05")];
  await page.goto(`/projects/${id}/resources`);
  const before = [await planText(page, id), await planText(page, other)];
  await page.getByLabel("Add an exception").fill("1 Feb to 12 Feb 2027: ice");
  await page.getByLabel("Add an exception").press("Enter");
  await expect(page.getByLabel(/^What for, row/).last()).toHaveValue("ice");
  await page.getByRole("button", { name: "None", exact: true }).click();
  await page.getByLabel("LG-05", { exact: true }).check();
  await page.getByRole("button", { name: "Show what moves" }).click();
  const moves = page.getByRole("region", { name: "What would move" });
  await expect(moves.getByText(/SW-04 Weir fish pass: finish .* later/)).toBeVisible();
  await expect(moves.getByText(/LG-05 Ferry landing: finish .* later/)).toBeVisible();
  expect([await planText(page, id), await planText(page, other)]).toEqual(before);
  await page.getByRole("button", { name: "Store in 2 projects" }).click();
  await expect(page.getByText(/is stored in 2 projects/)).toBeVisible();
  expect((await planText(page, other)).includes('"label":"ice"')).toBe(true);
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(page.getByText("It is as it was before.")).toBeVisible();
  expect([await planText(page, id), await planText(page, other)]).toEqual(before);
});

test("what is chosen on a calendar and not stored is not lost by going to another tab: it is asked first", async ({
  page,
}) => {
  await signIn(page, "ines");
  await page.goto(`/projects/${await projectId(page, "SW-04")}/resources`);
  await page.getByLabel("Add an exception").fill("1 Mar to 5 Mar 2027: flood");
  await page.getByLabel("Add an exception").press("Enter");
  await expect(page.getByLabel(/^What for, row/).last()).toHaveValue("flood");
  const asked = page.getByRole("dialog", { name: "Not saved yet" });
  await page.getByRole("navigation", { name: "Project" }).getByRole("link", { name: "Tell" }).click();
  await asked.getByRole("button", { name: "Stay and save it" }).click();
  await expect(page.getByLabel(/^What for, row/).last()).toHaveValue("flood");
  await page.getByRole("navigation", { name: "Project" }).getByRole("link", { name: "Tell" }).click();
  await asked.getByRole("button", { name: "Leave without saving" }).click();
  await expect(page).toHaveURL(/\/report$/);
});

test("public holidays come as exceptions that can be looked at and amended; bad shifts say so in place", async ({
  page,
}) => {
  await signIn(page, "ines");
  await page.goto(`/projects/${await projectId(page, "SW-04")}/resources`);
  await page.getByRole("button", { name: "Calendar", exact: true }).click();
  await page.getByLabel("Name of the calendar").fill("Fjord crew");
  await page.getByLabel("Name of the calendar").press("Enter");
  await page.getByRole("button", { name: "Give it a week of its own" }).click();
  await page.getByLabel("Saturday").fill("8-25");
  await page.getByLabel("Saturday").press("Enter");
  await expect(page.getByRole("alert")).toContainText("is no shift");
  await page.getByLabel("Saturday").fill("8-12");
  await page.getByLabel("Saturday").press("Enter");
  await expect(page.getByLabel("Saturday")).toHaveValue("08:00-12:00");
  await page.getByLabel("Country").selectOption("NO");
  await page.getByLabel("First year").fill("2027");
  await page.getByLabel("Last year").fill("2027");
  await page.getByRole("button", { name: "Add them" }).click();
  await expect(page.getByText(/holidays added/)).toBeVisible();
  await page.getByRole("button", { name: "The year after" }).click();
  await expect(page.getByTitle("6 May 2027: closed, Ascension Day")).toBeVisible();
  await page.getByRole("button", { name: "Remove Ascension Day" }).click();
  await expect(page.getByTitle("6 May 2027: 8 h", { exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Store in 1 project" }).click();
  await expect(page.getByText("The calendar Fjord crew is stored in 1 project.")).toBeVisible();
  await page.getByRole("button", { name: /Fjord crew not used/ }).click();
  await page.getByRole("button", { name: "Remove it" }).click();
  await expect(page.getByRole("button", { name: /Fjord crew/ })).toBeHidden();
});

test("leave moves what someone drives, and a role kept open is filled", async ({ page }) => {
  await signIn(page, "ines");
  const id = await projectId(page, "SW-05");
  await page.goto(`/projects/${id}/resources?part=people`);
  await page.getByRole("button", { name: "Person", exact: true }).click();
  await page.getByRole("textbox", { name: "Name", exact: true }).fill("A second diver");
  await page.getByRole("textbox", { name: "Name", exact: true }).press("Enter");
  await page.getByLabel("Add a rate").fill("64.50");
  await page.getByLabel("Add a rate").press("Enter");
  await page.getByRole("button", { name: "Store in 1 project" }).click();
  await page.getByRole("button", { name: "A second diver", exact: true }).click();
  await page.getByLabel("Stands for a role, to be filled later").click();
  await expect(page.getByRole("button", { name: "A second diver (to be named)" })).toBeVisible();
  const { people } = JSON.parse(await planText(page, id)) as { people: [string, { name: string }][] };
  const name = people[0]![1].name;
  await page.getByLabel("Filled by").selectOption({ label: name });
  await page.getByRole("button", { name: "Give them the work" }).click();
  await expect(page.getByRole("button", { name: /A second diver/ })).toBeHidden();
  await page.getByRole("button", { name, exact: true }).click();
  await page.getByLabel("Add leave").fill("8 Feb to 12 Feb 2027: away");
  await page.getByLabel("Add leave").press("Enter");
  await page.getByRole("button", { name: /^Store in \d+ projects$/ }).click();
  await expect(page.getByText(new RegExp(`${name} is stored in \\d+ projects`))).toBeVisible();
  const { calendars } = JSON.parse(await planText(page, id)) as { calendars: [string, { exceptions?: object[] }][] };
  expect(calendars.find(([key]) => key.startsWith("leave-"))![1].exceptions).toEqual([
    { from: "2027-02-08", to: "2027-02-12", shifts: [], label: "away" },
  ]);
});

test("a plan goes out as a workbook, is edited, and comes back as changes to tick", async ({ page }, info) => {
  await signIn(page, "ines");
  const id = await projectId(page, "SW-05");
  await page.goto(`/projects/${id}/plan`);
  await page.getByText("Export", { exact: true }).click();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Workbook (.xlsx)" }).click(),
  ]);
  const path = info.outputPath("plan.xlsx");
  await download.saveAs(path);
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(readFileSync(path) as never);
  const sheet = book.getWorksheet("activities")!;
  const headings = sheet.getRow(1).values as string[];
  const rows: ExcelJS.Row[] = [];
  sheet.eachRow((row, n) => n > 1 && row.getCell(headings.indexOf("durationMinutes")).value !== null && rows.push(row));
  rows[0]!.getCell(headings.indexOf("durationMinutes")).value = 4800;
  rows[1]!.getCell(headings.indexOf("name")).value = "Renamed in the workbook";
  await book.xlsx.writeFile(path);
  await page.goto("/import");
  await page.getByLabel("Files to bring").setInputFiles(path);
  await page.getByRole("button", { name: "Show what it would change" }).click();
  const table = page.getByRole("table", { name: "Changes of the file" });
  await expect(table.getByRole("checkbox")).toHaveCount(2);
  await expect(table).toContainText("→ “Renamed in the workbook”");
  expect(await seriousFindings(page)).toEqual([]);
  await table.getByRole("row").filter({ hasText: "Renamed in the workbook" }).getByRole("checkbox").uncheck();
  await page.getByRole("button", { name: "Show what moves" }).click();
  await expect(page.getByRole("region", { name: "What would move" })).toContainText("Project finish");
  const before = await planText(page, id);
  await page.getByRole("button", { name: "Take over 1 row" }).click();
  await expect(page).toHaveURL(/\/plan$/);
  expect(await planText(page, id)).toContain('"durationMinutes":4800');
  expect(await planText(page, id)).not.toContain("Renamed in the workbook");
  await page
    .getByRole("region", { name: /Notifications/ })
    .getByRole("button", { name: "Undo" })
    .click();
  await expect(page.getByText("It is as it was before.")).toBeVisible();
  expect(await planText(page, id)).toBe(before);
});

test("the plan is saved as pictures, one a page, and printed over as many pages", async ({ page }) => {
  await signIn(page, "ines");
  await page.goto(`/projects/${await projectId(page, "SW-04")}/plan/print?wide=2`);
  // How many there are depends on the columns this person shows.
  const first = page.getByRole("img", { name: /^Page 1 of / });
  const count = Number(/of (\d+)$/.exec((await first.getAttribute("aria-label"))!)![1]);
  expect(count).toBeGreaterThan(3);
  await expect(page.getByRole("img", { name: `Page ${count} of ${count}` })).toBeAttached();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Save as PNG" }).click(),
  ]);
  expect(download.suggestedFilename()).toBe("SW-04-plan.zip");
  const pdf = (await page.pdf({ preferCSSPageSize: true, printBackground: true })).toString("latin1");
  expect(pdf.match(/\/Type\s*\/Page[^s]/g)).toHaveLength(count);
});

test("someone of the register is changed there and in the projects that are selected, and a project takes a person over from it", async ({
  page,
}) => {
  await signIn(page, "ines");
  await page.goto("/set-up/register");
  await page.getByRole("button", { name: "Clara Nyström" }).click();
  const form = page.getByRole("region", { name: "Clara Nyström" });
  await form.getByLabel("Role", { exact: true }).fill("marine ecologist");
  await form.getByLabel("Role", { exact: true }).press("Enter");
  await form.getByRole("button", { name: "Show what moves" }).click();
  await expect(form.getByText(/Nothing moves in/)).toBeVisible();
  await form.getByRole("button", { name: /^Store in the register and \d+ projects?$/ }).click();
  await expect(page.getByText(/Clara Nyström is saved in the register and stored in \d+ projects?/)).toBeVisible();
  await expect(
    page.getByRole("table", { name: "People of the register" }).getByRole("row").filter({ hasText: "Clara Nyström" }),
  ).toContainText("marine ecologist");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("It is as it was before.")).toBeVisible();
  await expect(
    page.getByRole("table", { name: "People of the register" }).getByRole("row").filter({ hasText: "Clara Nyström" }),
  ).not.toContainText(/marine|differs/);

  await page.goto(`/projects/${await projectId(page, "SW-05")}/resources?part=people`);
  await page.getByRole("button", { name: "From the register …" }).click();
  const register = page.getByRole("dialog", { name: "People of the register" });
  const first = register.getByRole("listitem").filter({ hasText: "not here" }).first();
  const name = (await first.innerText()).split("\n")[0]!.trim();
  await first.getByRole("checkbox").check();
  await register.getByRole("button", { name: "Take 1 over" }).click();
  await expect(page.getByRole("table", { name: "People of the plan" }).getByText(name)).toBeVisible();
});
