import { expect, test } from "@playwright/test";
import { signIn } from "./helpers.ts";

test("a week is filled in by cell, an undo takes it back, last week is copied, and a day without anything says so", async ({
  page,
}) => {
  await signIn(page, "brigid");
  await page.getByRole("link", { name: "The week" }).click();
  const table = page.getByRole("table", { name: "The week" });
  await expect(table.getByRole("columnheader")).toHaveCount(9);
  await page.getByRole("button", { name: "The week before" }).click();
  const monday = table.locator("tbody tr").first().getByRole("textbox").first();
  await expect(monday).toBeEnabled();
  const was = await monday.inputValue();
  const label = (await monday.getAttribute("aria-label"))!;
  await monday.fill("soon");
  await monday.press("Enter");
  await expect(page.getByRole("alert")).toContainText("is no time");
  await monday.fill("1:30 checked the boom");
  await monday.press("Enter");
  await expect(monday).toHaveValue("1.5h");
  await expect(page.getByText(/^1.5h on /)).toBeVisible();
  await expect(monday.locator("xpath=ancestor::td")).toHaveAttribute("title", /1.5h waiting; .*checked the boom/);
  await page.getByRole("button", { name: "The week after" }).click();
  await page.getByRole("button", { name: "Copy last week" }).click();
  await expect(table.getByLabel(label.replace(/, Mon .*$/, ", Mon"), { exact: false }).first()).not.toHaveValue("");
  await page.getByRole("button", { name: "The week before" }).click();
  await expect(monday).toHaveAttribute("aria-label", label);
  await monday.fill("0");
  await monday.press("Enter");
  await expect(monday).toHaveValue("");
  await page.getByText("0h on").locator("xpath=ancestor::li").getByRole("button", { name: "Undo" }).click();
  await expect(monday).toHaveValue("1.5h");
  if (was === "") await expect(table.getByText("nothing booked").first()).toBeVisible();
});
