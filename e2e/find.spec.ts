import { expect, test, type Page } from "@playwright/test";
import { planCell, projectId, seriousFindings, signIn } from "./helpers.ts";

const field = (page: Page) => page.getByRole("combobox", { name: "Find anything" });
const find = async (page: Page, text: string): Promise<void> => {
  await expect(page.getByRole("button", { name: "Find anything" })).toBeVisible();
  await page.keyboard.press("Control+k");
  await field(page).fill(text);
};

test("anything is found from anywhere by one key, misspelt as well, and what was opened comes first the next time", async ({
  page,
}) => {
  await signIn(page, "ines");
  await page.goto("/deadlines");
  await find(page, "braekwater");
  await expect(page.getByRole("group", { name: "Projects" }).getByRole("option")).toHaveText(/Outer breakwater/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 1, name: "Outer breakwater" })).toBeVisible();
  await expect(page).toHaveTitle("FS-01 Figures · Chronometra");

  await find(page, "fs-01 survey arm");
  await expect(page.getByRole("option", { name: /Survey, armour/ })).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/plan\?at=/);
  await expect(await planCell(page, "Survey, armour", "Finishes")).toBeVisible();
  // Also from the plan itself one is led to another of its rows.
  await find(page, "fs-01 deliver training");
  await expect(page.getByRole("option", { name: /Deliver, training/ })).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("row", { name: /^Deliver, training/, selected: true })).toBeVisible();

  await find(page, "");
  await expect(page.getByRole("group", { name: "Opened lately" }).getByRole("option").first()).toHaveText(
    /Deliver, training/,
  );
  expect(await seriousFindings(page)).toEqual([]);
  await page.keyboard.press("Escape");
  await expect(field(page)).toBeHidden();
});

test("commands of the page are carried out, and pages are gone to", async ({ page }) => {
  await signIn(page, "ines");
  await expect(page.getByRole("button", { name: "Fold the log" })).toBeVisible();
  await find(page, "fold log");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Show the log" })).toBeVisible();
  await page.getByRole("button", { name: "Show the log" }).click();
  await page.goto(`/projects/${await projectId(page, "LG-02")}/plan`);
  await find(page, "trust");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/trust$/);
  await expect(page.getByRole("navigation", { name: "Look" }).getByRole("link", { name: "Trust" })).toHaveAttribute(
    "aria-current",
    "page",
  );
});

test("a contributor finds work of their own alone, and is led to its card", async ({ page }) => {
  await signIn(page, "amadou");
  const own = await page.evaluate(
    async () => ((await (await fetch("/api/desk")).json()) as { activities: { name: string }[] }).activities[0]!.name,
  );
  await find(page, own);
  await page.getByRole("option", { name: own }).first().click();
  await expect(page).toHaveURL(/\/desk#work/);
  await find(page, "Outer breakwater");
  await expect(page.getByText(/Nothing bears these words/)).toBeVisible();
});

test("whoever is new is told what to do, in order, until they close it", async ({ page }) => {
  await signIn(page, "margit");
  await page.getByRole("link", { name: "First steps" }).click();
  const steps = page.getByRole("region", { name: "Approver" });
  await steps.getByRole("link", { name: "Decide what waits" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Waiting for approval");
  await page.goto("/");
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
  await expect(page.getByRole("link", { name: "First steps" })).toBeHidden();
});
