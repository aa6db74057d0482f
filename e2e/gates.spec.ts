import { expect, test } from "@playwright/test";
import { beside, bringPlan, broughtPlan, signIn } from "./helpers.ts";

test("a project is given stages, asks for a gate with something missing, and passes it with conditions that become work", async ({
  page,
  browser,
}) => {
  test.setTimeout(120_000);
  await signIn(page, "ines");
  await test.step("a life cycle is written for a kind of project", async () => {
    await page.goto("/set-up/life-cycles");
    await page.getByLabel("Kind of project", { exact: true }).fill("Jetty");
    await page.getByRole("button", { name: "Add a life cycle" }).click();
    const jetty = page.getByRole("region", { name: "Jetty" });
    await jetty.getByLabel("Gate of Proposal").fill("Worth it");
    await jetty.getByLabel("Gate of Proposal").press("Enter");
    await expect(jetty.getByRole("list", { name: "What must be true at Worth it" })).toBeVisible();
  });

  const project = await bringPlan(page, "Gated jetty", broughtPlan("GJ-01", "Gated jetty"));
  await test.step("its manager asks for the first gate, and says why", async () => {
    await page.goto(`/projects/${project}/stages`);
    await page.getByLabel("Life cycle").selectOption("Jetty");
    await expect(page.getByRole("list", { name: "Stages" }).getByRole("listitem")).toHaveCount(4);
    await page.getByLabel("Why it is asked for all the same: 1 not met").fill("The board writes it down on Monday");
    await page.getByRole("button", { name: "Ask for this gate" }).click();
    await expect(page.getByRole("region", { name: "What is asked" })).toContainText("on Monday");
    await expect(page.getByRole("form", { name: "Decide" })).toHaveCount(0);
  });

  await test.step("an approver finds it among what waits, and decides", async () => {
    const other = await (await browser.newContext()).newPage();
    await signIn(other, "margit");
    await other.goto("/approvals");
    await other.getByRole("link", { name: "GJ-01 Gated jetty: Worth it" }).click();
    const form = other.getByRole("form", { name: "Decide" });
    await expect(form.getByRole("radio", { name: /^Pass not while 1/ })).toBeDisabled();
    await form.getByLabel("By whom, 1").fill("Ines");
    await form.getByLabel("A word with it").fill("Agreed, if it is written");
    await form.getByRole("button", { name: "Pass with conditions" }).click();
    await expect(other.getByRole("table", { name: "To be done after gates" })).toContainText("Ines");
  });

  await test.step("the project is in its next stage everywhere", async () => {
    await page.reload();
    await expect(page.getByRole("listitem").filter({ hasText: "Planning · now" })).toBeVisible();
    await page.getByRole("button", { name: /^Done: / }).click();
    await expect(page.getByRole("table", { name: "To be done after gates" })).toContainText("Ines Okafor,");
    await page.goto("/?by=stage");
    await expect(page.getByRole("row").filter({ hasText: "GJ-01" })).toBeVisible();
    const ines = await beside(page, "ines");
    const { projects } = await ines.get<{ projects: { code: string; stage: string | null }[] }>("/api/portfolio");
    expect(projects.find(({ code }) => code === "GJ-01")).toMatchObject({ stage: "Planning" });
  });
});
