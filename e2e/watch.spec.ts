import { readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { signIn } from "./helpers.ts";

test("a question is put together, kept, found again by its link, acted on with the effect in view, and undone", async ({
  page,
  context,
}) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await signIn(page, "ines");
  await page.getByRole("navigation", { name: "Look" }).getByRole("link", { name: "Watchlists" }).click();
  const asked = page.getByRole("group", { name: "What must hold" });

  await test.step("asked part by part, each answered at once", async () => {
    await asked.getByLabel("and", { exact: true }).selectOption({ label: "Percent done" });
    await asked.getByLabel("Percent done: condition").selectOption({ label: "is below" });
    await asked.getByLabel("Percent done: how much").fill("15");
    await asked.getByLabel("Percent done: how much").press("Enter");
    await asked.getByLabel("and", { exact: true }).selectOption({ label: "Role" });
    await asked.getByLabel("Role: which").fill("nobody");
    await asked.getByLabel("Role: which").press("Enter");
    await expect(asked.getByRole("alert")).toHaveText('There is no "nobody" to select.');
    await asked.getByLabel("Role: which").fill("diver");
    await asked.getByLabel("Role: which").press("Enter");
    await expect(asked.getByRole("button", { name: "Remove diver" })).toBeVisible();
    await page.getByRole("button", { name: "Done", exact: true }).click();
    await expect(page.getByText(/Percent done is below 15 % and Role is diver/)).toBeVisible();
  });

  let address = "";
  await test.step("kept under a name, for project managers too; its link leads there", async () => {
    await page.getByRole("button", { name: "Save as …" }).click();
    await page.getByRole("dialog").getByLabel("Name").fill("Divers begin");
    await page.getByRole("dialog").getByLabel("project managers").check();
    await page.getByRole("dialog").getByRole("button", { name: "Save" }).click();
    await expect(page.getByRole("heading", { name: "Divers begin" })).toBeVisible();
    await page.getByRole("button", { name: "Link" }).click();
    await expect(page.getByText(/link to this question/)).toBeVisible();
    address = await page.evaluate(() => navigator.clipboard.readText());
    await signIn(page, "quill");
    await page.goto(address);
    await expect(page.getByRole("heading", { name: "Divers begin" })).toBeVisible();
    await expect(page.getByRole("button", { name: "Name and sharing" })).toBeHidden();
    await expect(
      page.getByRole("navigation", { name: "Watchlists" }).getByRole("link", { name: "Divers begin" }),
    ).toBeHidden();
  });

  await test.step("rows pushed out by worked days, the effect shown first, and taken back", async () => {
    await signIn(page, "ines");
    await page.goto("/watch/due-soon");
    const table = page.getByRole("table", { name: "Due soon" });
    const row = table.getByRole("row").filter({ hasText: "Paint, wheelhouse" });
    await row.getByRole("checkbox").check();
    const panel = page.getByRole("complementary", { name: "Effect preview" });
    await panel.getByLabel("Working days").fill("10");
    await expect(panel.getByText(/Paint, wheelhouse: .* later/).first()).toBeVisible();
    const before = await row.textContent();
    await panel.getByRole("button", { name: "Push out" }).last().click();
    await expect(page.getByText("1 activity changed.")).toBeVisible();
    await page.getByRole("button", { name: "Undo" }).click();
    await expect(page.getByText("It is as it was before.")).toBeVisible();
    await expect(row).toHaveText(before!);
  });

  await test.step("a cell changed where it stands; what cannot be stays as typed, with why", async () => {
    const row = page.getByRole("table", { name: "Due soon" }).getByRole("row").filter({ hasText: "Paint, wheelhouse" });
    await row.getByRole("button", { name: "Change Owner of Paint, wheelhouse" }).click();
    const field = page.getByLabel("Owner of Paint, wheelhouse");
    await field.fill("Nobody Atall");
    await field.press("Enter");
    await expect(row.getByRole("alert")).toHaveText('There is nobody called "Nobody Atall".');
    await field.fill("Silas Vandermeer");
    await field.press("Enter");
    await expect(row).toContainText("Silas Vandermeer");
  });

  await test.step("what is found leaves as a file", async () => {
    await page.getByText("Export", { exact: true }).click();
    const coming = page.waitForEvent("download");
    await page.getByRole("button", { name: "CSV file (.csv)" }).click();
    const text = readFileSync(await (await coming).path(), "utf8");
    expect(text.split("\r\n")[0]).toContain("Activity");
    expect(text).toContain("Paint, wheelhouse");
  });
});

test("a week that runs over is opened, and work moved to someone with room", async ({ page }) => {
  await signIn(page, "ines");
  await page.goto("/load?from=2026-11-25&over=yes");
  const table = page.getByRole("table", { name: "Load by week" });
  const over = table.getByRole("button", { name: /^Ignace Obuya, week of .* too much$/ }).first();
  await over.click();
  const week = page.getByRole("complementary", { name: "Week of Ignace Obuya" });
  await expect(week.getByText(/too much/)).toBeVisible();
  const work = week.getByRole("checkbox").first();
  const name = (await work.getAttribute("aria-label"))!.replace(/^Choose /, "");
  await work.check();
  const panel = page.getByRole("complementary", { name: "Effect preview" });
  await panel.getByRole("button", { name: "Move to someone else" }).first().click();
  await panel.getByLabel("to", { exact: true }).fill("Clara Nyström");
  await expect(panel.getByText(/Project finish|stays:/).first()).toBeVisible();
  await panel.getByRole("button", { name: "Move to someone else" }).last().click();
  await expect(page.getByText("1 activity changed.")).toBeVisible();
  await expect(week.getByText(name)).toBeHidden();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("It is as it was before.")).toBeVisible();
});
