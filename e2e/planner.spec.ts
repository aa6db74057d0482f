import { expect, test, type Page } from "@playwright/test";
import { planCell, projectId, signIn } from "./helpers.ts";

const saved = (page: Page) => expect(page.getByRole("status").filter({ hasText: "All is saved" })).toBeVisible();
const names = (page: Page): Promise<string[]> => page.getByRole("rowheader").allTextContents();

test("a plan is built from nothing without the mouse: names, lengths, branches, links", async ({ page }) => {
  await signIn(page, "tomas");
  await page.goto("/import");
  await page.getByLabel("Code").fill("HM-01");
  await page.getByLabel("Name", { exact: true }).fill("Harbour mast");
  await page.getByLabel("Starts").fill("1 Mar 2027");
  await page.getByLabel("Starts").press("Enter");
  await expect(page.getByText("This plan has no activities yet.")).toBeVisible();
  await page.getByRole("button", { name: "Type the first activity" }).press("Enter");
  await page.getByRole("rowheader").first().click();
  await page.keyboard.press("F2");
  // Typed as fast as keys can be pressed: no row is waited for.
  for (const name of ["Foundation", "Dig", "Cast", "Mast", "Erect", "Wire"]) {
    await page.keyboard.type(name);
    await page.keyboard.press("Enter");
  }
  await expect(page.getByRole("textbox", { name: "Activity of New activity" })).toBeVisible();
  for (const name of ["Foundation", "Dig", "Cast", "Mast", "Erect", "Wire"]) await expect(page.getByRole("rowheader", { name, exact: true })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+Delete");
  await expect(page.getByRole("rowheader", { name: "New activity" })).toBeHidden();

  // Dig and Cast below Foundation, Erect and Wire below Mast: two rows chosen, one step in.
  await page.keyboard.press("Control+Home");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Alt+Shift+ArrowRight");
  await expect(page.getByRole("row", { name: /Dig/ })).toHaveAttribute("aria-level", "2");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Alt+Shift+ArrowRight");
  await expect(page.getByRole("row", { name: /Wire/ })).toHaveAttribute("aria-level", "2");
  expect(await names(page)).toEqual(["▼Foundation", "Dig", "Cast", "▼Mast", "Erect", "Wire"]);

  await page.keyboard.press("Control+Home");
  for (const step of ["ArrowDown", "ArrowRight"]) await page.keyboard.press(step);
  for (const length of ["3d", "2d"]) {
    await page.keyboard.type(length);
    await page.keyboard.press("Enter");
  }
  await page.keyboard.press("ArrowDown");
  for (const length of ["1w", "4h"]) {
    await page.keyboard.type(length);
    await page.keyboard.press("Enter");
  }
  await saved(page);
  await expect(await planCell(page, "Mast", "Finishes")).toHaveText("5 Mar 2027");

  await page.getByText("Columns", { exact: true }).click();
  await page.getByLabel("After").check();
  await page.getByText("Columns", { exact: true }).click();
  const link = async (activity: string, text: string): Promise<void> => {
    const cell = await planCell(page, activity, "After");
    await cell.dblclick();
    await page.keyboard.type(text);
    await page.keyboard.press("Enter");
  };
  await link("Cast", "dig");
  await link("Erect", "cast + 2d");
  await link("Wire", "with erect");
  await saved(page);
  await expect(await planCell(page, "Erect", "After")).toHaveText("Cast + 2d");
  await expect(await planCell(page, "Mast", "Finishes")).toHaveText("16 Mar 2027");
  await page.getByRole("button", { name: "Why" }).click();
  await page.getByRole("rowheader", { name: "Erect", exact: true }).click();
  const why = page.getByRole("complementary", { name: "Why" });
  await expect(why).toContainText("after Cast, which finishes 5 Mar 2027, + 2 d, in the calendar Standard week");
  await expect(why).toContainText("The whole way: Dig → Cast → Erect");
  await expect(why).toContainText("Wire starts no earlier than it does");
  await page.getByRole("button", { name: "Close the reasons" }).click();
  await link("Dig", "wire");
  await expect(page.getByRole("alert")).toContainText("the links form a loop");
  await page.keyboard.press("Escape");
  await link("Dig", "weld");
  await expect(page.getByRole("alert")).toContainText("There is no activity “weld”");
  await page.keyboard.press("Escape");
  await page.reload();
  await expect(page.getByRole("rowheader", { name: "Wire", exact: true })).toBeVisible();
});

test("a block of 500 rows is pasted, and undone exactly", async ({ page, context }) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await signIn(page, "ines");
  const id = await projectId(page, "SW-05");
  await page.goto(`/projects/${id}/plan`);
  const grid = page.getByRole("treegrid", { name: "Plan" });
  const plan = (): Promise<string> => page.evaluate(async (project) => JSON.stringify(((await (await fetch(`/api/projects/${project}/plan`)).json()) as { tables: unknown }).tables), id);
  const before = await plan();
  const rows = Number(await grid.getAttribute("aria-rowcount"));
  await page.evaluate((text) => navigator.clipboard.writeText(text), Array.from({ length: 500 }, (_, i) => `Sample ${i + 1}\t${1 + (i % 5)}d`).join("\n"));
  await grid.getByRole("rowheader").first().click();
  await page.keyboard.press("Control+End");
  await page.keyboard.press("Home");
  await page.keyboard.press("Insert");
  await expect(page.getByRole("textbox", { name: "Activity of New activity" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+v");
  await expect(grid).toHaveAttribute("aria-rowcount", String(rows + 500));
  await saved(page);
  await page.keyboard.press("Control+End");
  await expect(await planCell(page, "Sample 500", "Length")).toHaveText("5 d");
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(grid).toHaveAttribute("aria-rowcount", String(rows));
  await saved(page);
  expect(await plan()).toBe(before);
});

test("cells are copied as a spreadsheet wants them, filled down and cleared; what cannot be is told and changes nothing", async ({ page, context }) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await signIn(page, "ines");
  await page.goto(`/projects/${await projectId(page, "SW-05")}/plan`);
  const first = await planCell(page, "Survey, buoys", "Length");
  const was = await first.textContent();
  await first.click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Control+c");
  expect((await page.evaluate(() => navigator.clipboard.readText())).split("\n")).toHaveLength(2);
  await page.keyboard.press("Control+d");
  await expect(await planCell(page, "Drawings, buoys", "Length")).toHaveText(was!);
  await page.keyboard.press("Control+z");
  await page.evaluate(() => navigator.clipboard.writeText("soon\n2d"));
  await first.click();
  await page.keyboard.press("Control+v");
  await expect(page.getByText(/Length of “Survey, buoys”: Write a length/)).toBeVisible();
  await expect(first).toHaveText(was!);
  await first.click();
  await page.keyboard.press("Delete");
  await expect(first).toHaveText("");
  await page.keyboard.press("Control+z");
  await expect(first).toHaveText(was!);
});
