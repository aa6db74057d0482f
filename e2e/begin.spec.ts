import { expect, test } from "@playwright/test";
import { beside, bringPlan, broughtPlan, signIn } from "./helpers.ts";

test("someone who was never trained begins a real plan in three steps", async ({ page }) => {
  await signIn(page, "tomas");
  await page.goto("/begin");
  await page.getByRole("link", { name: "In three steps" }).click();
  await page.getByLabel("Purpose").fill("Pilots find the channel at night");
  await page.getByLabel("What comes out, a line each").fill("Six lit buoys");
  for (const [i, [what, long, who]] of [
    ["Draw the positions", "3d", "Amadou Keller"],
    ["Order the buoys", "10d", ""],
    ["Lay the buoys", "4d", "Diver"],
  ].entries()) {
    await page.getByLabel(`What, ${i + 1}`, { exact: true }).fill(what!);
    await page.getByLabel(`How long, ${i + 1}`).fill(long!);
    await page.getByLabel(`By whom, ${i + 1}`).fill(who!);
  }
  await page.getByLabel("When, 2").selectOption("beside the one above");
  await page.getByRole("textbox", { name: "Day" }).fill("11 Jan 2027");
  await page.keyboard.press("Tab");
  await expect(page.getByRole("region", { name: "What it comes to" })).toContainText("is finished on 28 Jan 2027");
  await page.getByLabel("Code").fill("BUOY-1");
  await page.getByLabel("Name", { exact: true }).fill("Night buoys");
  await page.getByRole("button", { name: "Begin", exact: true }).click();
  await expect(page).toHaveURL(/\/plan$/);
  await expect(page.getByRole("heading", { name: "Night buoys" })).toBeVisible();
  const project = /projects\/([^/]+)\//.exec(page.url())![1]!;
  const tomas = await beside(page, "tomas");
  const { tables } = await tomas.get<{ tables: { people: [string, { name: string }][] } }>(
    `/api/projects/${project}/plan`,
  );
  expect(tables.people.map(([id, { name }]) => `${id}: ${name}`).toSorted()).toEqual([
    "amadou-keller: Amadou Keller",
    "who-2: Diver",
  ]);
  await page.getByRole("link", { name: "Set up" }).first().click();
  await expect(page.getByLabel("Purpose")).toHaveValue("Pilots find the channel at night");
  await expect(page.getByRole("table", { name: "Deliverables" })).toContainText("Six lit buoys");
});

test("a project becomes a template, and a project begins with it, back from a finish", async ({ page }) => {
  test.setTimeout(120_000);
  await signIn(page, "tomas");
  const source = await bringPlan(page, "Pattern jetty", broughtPlan("PJ-01", "Pattern jetty"));
  await page.goto(`/projects/${source}/charter`);
  await page.getByRole("button", { name: "Make a template …" }).click();
  await page.getByRole("dialog").getByLabel("Name", { exact: true }).fill("Jetty pattern");
  await page.getByRole("button", { name: "Save" }).click();
  await page.goto("/set-up/templates");
  await page.getByRole("link", { name: "Jetty pattern" }).click();
  await page.getByLabel("Dates are found").selectOption("is to be finished by");
  await page.getByRole("textbox", { name: "Day" }).fill("30 Jun 2028");
  await page.keyboard.press("Tab");
  const outcome = page.getByRole("region", { name: "What it comes to" });
  await expect(outcome).toContainText("is finished on 30 Jun 2028");
  await page.getByLabel("Code").fill("PJ-02");
  await page.getByLabel("Name", { exact: true }).fill("Second jetty");
  await page.getByRole("button", { name: "Begin", exact: true }).click();
  await expect(page.getByText(/finishes 30 Jun 2028/)).toBeVisible();
  await page.goto(`/begin/from?with=project:${source}`);
  await page.getByLabel("Dates are found").selectOption("is to be finished by");
  await page.getByRole("textbox", { name: "Day" }).fill("4 Jan 2021");
  await page.keyboard.press("Tab");
  await expect(page.getByText(/at the earliest\. Say a later finish/)).toBeVisible();
});

test("a project without a plan is kept by hand, and counts like every other", async ({ page }) => {
  await signIn(page, "tomas");
  await page.goto("/begin/by-hand");
  await page.getByLabel("Months from").fill("1 Feb 2027");
  await page.keyboard.press("Tab");
  await page.getByLabel("Months to").fill("31 Mar 2027");
  await page.keyboard.press("Tab");
  await page.getByRole("button", { name: "Add 2 months" }).click();
  await page.getByLabel("Budget, 1").fill("12 000");
  await page.getByLabel("Budget, 2").fill("8 000");
  await expect(page.getByRole("region", { name: "What it comes to" })).toContainText("20 000 EUR planned");
  await page.getByLabel("Code").fill("HAND-1");
  await page.getByLabel("Name", { exact: true }).fill("Kept by hand");
  await page.getByRole("button", { name: "Begin", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Kept by hand" })).toBeVisible();
  const tomas = await beside(page, "tomas");
  const { projects } = await tomas.get<{ projects: { code: string; summary: { activities: number } }[] }>(
    "/api/portfolio",
  );
  expect(projects.find(({ code }) => code === "HAND-1")!.summary.activities).toBe(2);
});
