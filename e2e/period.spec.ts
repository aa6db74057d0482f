import { expect, test, type Page } from "@playwright/test";
import { broughtPlan, fileOf, planCell, signIn } from "./helpers.ts";

/** Moves the data date of every project, having looked at what that moves. */
async function moveDataDates(page: Page, date: string): Promise<void> {
  await page.getByRole("link", { name: "Move data dates" }).click();
  await page.getByLabel("Data date", { exact: true }).fill(date);
  await page.getByLabel("Data date", { exact: true }).press("Enter");
  await page.getByLabel("Select all projects").check();
  await page.getByRole("button", { name: "Show what it would move" }).click();
  await page.getByRole("button", { name: /^Move \d+ data dates$/ }).click();
}

test("one reporting period, end to end: a plan comes in, is approved, time is booked and accepted, and the figures say so", async ({
  page,
}) => {
  await test.step("a project manager brings a plan and looks at it before storing it", async () => {
    await signIn(page, "tomas");
    await page.getByRole("link", { name: "Bring a plan" }).click();
    await page
      .getByLabel("Files to bring")
      .setInputFiles(fileOf("jetty.json", JSON.stringify(broughtPlan("JT-01", "Timber jetty"))));
    await expect(page.getByText("Understood: 4 activities, 2 links")).toBeVisible();
    await expect(page.getByRole("table", { name: "Preview" }).getByText("Drive piles")).toBeVisible();
    await page.getByLabel("Belongs to").selectOption({ label: "Locks and crossings" });
    await page.getByRole("button", { name: "Store as a new project" }).click();
    await expect(page.getByRole("heading", { name: "Timber jetty" })).toBeVisible();
    await expect(await planCell(page, "Jetty open", "Finishes")).toHaveText("27 Nov 2026");
  });

  await test.step("asks for approval", async () => {
    await page.getByRole("navigation", { name: "Project" }).getByRole("link", { name: "Approve" }).click();
    await page.getByLabel("Ask for approval of the plan as it stands").fill("As walked through on site.");
    await page.getByRole("button", { name: "Ask for approval" }).click();
    await expect(page.getByText("waits for a decision")).toBeVisible();
  });

  await test.step("an approver, another person, approves with a reason; baseline 1 is frozen and its digest holds", async () => {
    await signIn(page, "margit");
    await page.getByRole("navigation", { name: "Places" }).getByRole("link", { name: "Approvals" }).click();
    const request = page.getByRole("listitem").filter({ hasText: "Timber jetty" });
    await expect(request.getByRole("button", { name: "Approve and freeze" })).toBeDisabled();
    await request.getByLabel("Your reason").fill("Funds released by the board.");
    await request.getByRole("button", { name: "Approve and freeze" }).click();
    await expect(page.getByText("Baseline 1 of Timber jetty is frozen.")).toBeVisible();
    await page.goto("/");
    await page.getByRole("link", { name: "JT-01 Timber jetty" }).click();
    await page.getByRole("navigation", { name: "Project" }).getByRole("link", { name: "Approve" }).click();
    await page.getByRole("button", { name: "Check" }).click();
    await expect(page.getByText("unchanged since it was frozen")).toBeVisible();
  });

  await test.step("the controller moves the data date", async () => {
    await signIn(page, "ines");
    await moveDataDates(page, "13 Nov 2026");
    await expect(page.getByText(/projects recalculated as of 13 Nov 2026/)).toBeVisible();
  });

  await test.step("a contributor books 1.5h in a single step, and says how far along it is", async () => {
    await signIn(page, "amadou");
    await expect(page).toHaveURL(/\/desk$/);
    const card = page
      .getByRole("listitem")
      .filter({ hasText: "Timber jetty" })
      .filter({ has: page.getByRole("heading", { name: "Drive piles" }) });
    await page.getByLabel("Day to book on").fill("10 Nov 2026");
    await page.getByLabel("Day to book on").press("Enter");
    await card.getByLabel("Time on Drive piles", { exact: true }).fill("1.5h first pile");
    await card.getByLabel("Time on Drive piles", { exact: true }).press("Enter");
    await expect(card.getByText("1.5 h waiting to be accepted")).toBeVisible();
    await card.getByRole("button", { name: "More on Drive piles" }).click();
    await card.getByLabel("Percent done of Drive piles, to the point", { exact: true }).fill("25");
    await card.getByLabel("Percent done of Drive piles, to the point", { exact: true }).press("Enter");
    await expect(page.getByRole("complementary").getByText("25% done")).toBeVisible();
  });

  await test.step("what cannot be time stays as typed, with the reason beside it", async () => {
    const card = page
      .getByRole("listitem")
      .filter({ hasText: "Timber jetty" })
      .filter({ has: page.getByRole("heading", { name: "Drive piles" }) });
    const field = card.getByLabel("Time on Drive piles", { exact: true });
    await field.fill("a while");
    await field.press("Enter");
    await expect(card.getByRole("alert")).toContainText("“a while” is no time");
    await expect(field).toHaveValue("a while");
    await field.fill("25h");
    await field.press("Enter");
    await expect(card.getByRole("alert")).toHaveText("A day has 24 hours.");
  });

  await test.step("the manager sees what accepting would do, and accepts", async () => {
    await signIn(page, "tomas");
    await page.getByRole("link", { name: "Collect", exact: true }).click();
    await page.getByLabel("All reports on Timber jetty").check();
    const preview = page.getByRole("complementary", { name: "Effect preview" });
    await expect(preview.getByText("Accepting 2 reports would")).toBeVisible();
    await expect(preview.getByText("90 EUR more, 90 in all")).toBeVisible();
    await expect(preview.getByText(/Activities whose finish moves/)).toBeVisible();
    await preview.getByRole("button", { name: "Accept" }).click();
    await expect(page.getByText("2 reports accepted; the time is posted.")).toBeVisible();
  });

  await test.step("everyone reads the figures: the activity has begun, the time costs money, a quarter is earned", async () => {
    await signIn(page, "quill");
    await page.getByRole("link", { name: "JT-01 Timber jetty" }).click();
    // Budget: 80 h at 60 and timber 2500; a quarter of the piles is 1200.
    const row = page
      .getByRole("table", { name: "Figures by activity" })
      .getByRole("row")
      .filter({ hasText: "Drive piles" });
    await expect(row).toContainText("4 800");
    await expect(row).toContainText("1 200");
    await row.getByRole("button", { name: "90", exact: true }).click();
    const behind = page.getByRole("dialog", { name: "Drive piles" });
    await expect(behind.getByRole("table", { name: "Time posted" })).toContainText("10 Nov 2026 · Amadou Keller");
    await expect(behind.getByRole("table", { name: "Time posted" })).toContainText("first pile");
    await expect(page).toHaveURL(/behind=A/);
    await page.keyboard.press("Escape");
    await page.getByRole("navigation", { name: "Project" }).getByRole("link", { name: "Plan" }).click();
    await expect(await planCell(page, "Drive piles", "Percent done")).toHaveText("25%");
    await expect(page.getByText("You may look at this plan, not change it.")).toBeVisible();
  });

  await test.step("the portfolio has a line for it, and the project page issues the period", async () => {
    await signIn(page, "ines");
    const line = page.getByRole("table", { name: "Projects" }).getByRole("row").filter({ hasText: "Timber jetty" });
    await expect(line).toContainText("7 300");
    await moveDataDates(page, "27 Nov 2026");
    await expect(page.getByText(/projects recalculated as of 27 Nov 2026/)).toBeVisible();
    await page.goto("/");
    await line.getByRole("link", { name: "Timber jetty" }).click();
  });

  await test.step("its report is rated and written, looked at as it will be read, issued, and read on paper", async () => {
    await page.getByRole("link", { name: "Report of period 10" }).click();
    const schedule = page.getByRole("region", { name: "Schedule" });
    const text = schedule.getByLabel("What is said of schedule");
    await expect(text).toHaveValue(/^The finish is forecast for /);
    await text.fill("The piles come on Monday.");
    await schedule.getByLabel("goes well").check();
    const why = schedule.getByLabel(/^Why it differs/);
    await expect(schedule.getByText("needed before the report is issued")).toBeVisible();
    await page.getByRole("button", { name: "Issue the report of period 10" }).click();
    await expect(page.getByText(/Say why the rating of Schedule differs/)).toBeVisible();
    await why.fill("The crane is late.");
    await why.press("Tab");
    await expect(schedule.getByText("needed before the report is issued")).toBeHidden();
    await page.getByRole("button", { name: "As it will be read" }).click();
    const paper = page.getByRole("article");
    await expect(paper.getByText("The piles come on Monday.")).toBeVisible();
    await expect(paper.getByText(/The limits suggest .* The crane is late\./)).toBeVisible();
    await page.getByRole("button", { name: "Issue the report of period 10" }).click();
    await expect(page.getByText("The report of period 10 is issued.")).toBeVisible();
    await expect(page.getByRole("link", { name: "Report of period 10" })).toBeHidden();
    await page.getByRole("link", { name: "Read it" }).click();
    await expect(page.getByText("✓ as issued")).toBeVisible();
    await expect(paper.getByText("The piles come on Monday.")).toBeVisible();
    const downloading = page.waitForEvent("download");
    await page.getByRole("button", { name: "PDF" }).click();
    const download = await downloading;
    expect(download.suggestedFilename()).toBe("JT-01-report-10.pdf");
  });
});
