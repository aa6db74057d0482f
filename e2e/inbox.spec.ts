import { expect, test } from "@playwright/test";
import { bringPlan, broughtPlan, planCell, signIn, typeInto } from "./helpers.ts";

test("what is asked waits in the inbox until it is done or put aside; what moved is seen", async ({ page }) => {
  await signIn(page, "margit");
  await page.getByRole("link", { name: /^Inbox, \d+ open$/ }).click();
  const waits = page.getByRole("region", { name: "Waits for you" });
  const asked = waits.getByRole("listitem").filter({ hasText: "Second fitting crew for the south chamber" });
  await expect(asked).toContainText("The traffic window in February is lost otherwise");
  await asked.getByRole("button", { name: "Put aside" }).click();
  await expect(asked).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await asked.getByRole("link", { name: "Decide" }).click();
  await expect(page).toHaveURL(/\/approvals$/);

  await signIn(page, "brigid");
  await page.goto("/inbox?kind=moved");
  const news = page.getByRole("region", { name: "New" });
  await expect(news.getByRole("listitem").first()).toContainText(/→/);
  await page.getByRole("button", { name: "All new is seen" }).click();
  await expect(news).toHaveCount(0);
});

test("how one is told is said by kind, and stays", async ({ page }) => {
  await signIn(page, "quill");
  await page.goto("/settings#told");
  const begin = page.getByRole("radiogroup", { name: "Can begin" });
  await begin.getByRole("radio", { name: "Can begin: once a week" }).check();
  await page.getByLabel("no mail between").check();
  const stored = page.waitForResponse((answer) => answer.request().postData()?.includes("18:30") === true);
  await page.getByLabel("Quiet from").fill("18:30");
  await stored;
  await expect(page.locator("#told")).toHaveAttribute("aria-busy", "false");
  await page.reload();
  await expect(begin.getByRole("radio", { name: "Can begin: once a week" })).toBeChecked();
  await expect(page.getByLabel("Quiet from")).toHaveValue("18:30");
});

test("a cell's history stands beside the plan: what was, what is, by whom", async ({ page }) => {
  await signIn(page, "ines");
  const id = await bringPlan(page, "Jetty remembered", broughtPlan("INB-1", "Jetty remembered"));
  await page.goto(`/projects/${id}/plan?about=history`);
  await typeInto(page, "Lay deck", "Deadline", "4 Jan 2029");
  await typeInto(page, "Lay deck", "Deadline", "5 Jan 2029");
  await (await planCell(page, "Lay deck", "Deadline")).click();
  const about = page.getByRole("region", { name: "About the activity" });
  await expect(about.getByRole("list", { name: "History of the activity" })).toContainText("4 Jan 2029 → 5 Jan 2029");
  await expect(about).toContainText("Ines Okafor, by hand");
});
