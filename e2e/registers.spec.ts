import { expect, test } from "@playwright/test";
import { projectId, signIn } from "./helpers.ts";

test("a risk strikes: what it moves is shown, it becomes an issue, the parked work wakes, and all of it is undone", async ({
  page,
}) => {
  await signIn(page, "tomas");
  const id = await projectId(page, "LG-02");
  await page.goto(`/projects/${id}/registers?kind=risk`);
  await expect(page.getByRole("group", { name: "Open risks by probability and severity" })).toBeVisible();
  await page.getByRole("cell").getByRole("button", { name: "The sill is worse than surveyed" }).click();
  const dialog = page.getByRole("dialog", { name: "The sill is worse than surveyed" });
  await dialog.getByRole("button", { name: "It struck …" }).click();
  await expect(dialog.getByText(/Winter stand-by plant: – →/)).toBeVisible();
  await dialog.getByLabel("The issue that it becomes").fill("The sill is broken in three places");
  await dialog.getByRole("button", { name: "It struck", exact: true }).click();
  const issue = page.getByRole("dialog", { name: "The sill is broken in three places" });
  await expect(issue.getByRole("link", { name: "Winter stand-by plant" })).toBeVisible();
  await expect(page.getByText("The risk is an issue now. 1 parked activity is woken.")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("cell").getByRole("button", { name: "The sill is worse than surveyed" })).toHaveCount(0);
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(page.getByRole("cell").getByRole("button", { name: "The sill is worse than surveyed" })).toBeVisible();
  await page.goto(`/projects/${id}/registers?kind=issue`);
  await expect(page.getByRole("cell").getByRole("button", { name: /laid up until the new year/ })).toBeVisible();
  await expect(page.getByRole("cell").getByRole("button", { name: "The sill is broken in three places" })).toHaveCount(
    0,
  );
});

test("an action is raised, stands beside the work it is tied to and on its owner's desk, who says that it is done", async ({
  page,
}) => {
  await signIn(page, "tomas");
  const id = await projectId(page, "LG-02");
  await page.goto(`/projects/${id}/registers?kind=action`);
  await page.getByRole("button", { name: "Add action …" }).click();
  const form = page.getByRole("dialog", { name: "New action" });
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form.getByRole("alert")).toHaveText("Write what it is.");
  await form.getByLabel("What it is").fill("Book the crane");
  await form.getByLabel("Owner").fill("Amadou Keller");
  await form.getByLabel("Due", { exact: true }).fill("2 Feb 2026");
  await form.getByLabel("Due", { exact: true }).press("Tab");
  await form.getByRole("button", { name: "Save" }).click();
  const action = page.getByRole("dialog", { name: "Book the crane" });
  await expect(action.getByText("overdue since 2 Feb 2026")).toBeVisible();
  await action.getByLabel("Activity, deliverable, gate, request, report").fill("Winter stand-by plant");
  await expect(action.getByRole("link", { name: "Winter stand-by plant" })).toBeVisible();
  await signIn(page, "amadou");
  await page.goto("/desk");
  const mine = page.getByRole("region", { name: "Yours in the registers" });
  await mine.getByRole("button", { name: "Book the crane" }).click();
  const own = page.getByRole("dialog", { name: "Book the crane" });
  await expect(own.getByRole("combobox", { name: "Severity" })).toHaveCount(0);
  await own.getByRole("button", { name: "It is done" }).click();
  await expect(own.getByRole("button", { name: "Open it again" })).toBeVisible();
  await own.getByText(/^History/).click();
  await expect(own.getByRole("row").filter({ hasText: "Amadou Keller" })).toContainText("to do");
});

test("a list is brought into the registers from a spreadsheet, looked at first, and taken back whole", async ({
  page,
}) => {
  await signIn(page, "ines");
  await page.goto("/registers?kind=action");
  await page.getByRole("button", { name: "Bring a list …" }).click();
  const dialog = page.getByRole("dialog");
  const lines = [
    "What\tProject\tOwner\tDue",
    "Grease the hinges\tLG-02\tKeller, Amadou\t9 Dec 2026",
    "Wash the gauge\tnowhere\t\t",
  ];
  await dialog.getByLabel("Lines of a spreadsheet").fill(lines.join("\n"));
  await dialog.getByRole("button", { name: "Read these lines" }).click();
  await expect(dialog.getByRole("region", { name: "What was understood" })).toContainText("“nowhere” is no code");
  await expect(dialog.getByRole("button", { name: "Add 1" })).toBeDisabled();
  await page.keyboard.press("Escape");

  await page.getByRole("button", { name: "Bring a list …" }).click();
  await dialog.getByLabel("Lines of a spreadsheet").fill(lines.slice(0, 2).join("\n"));
  await dialog.getByRole("button", { name: "Read these lines" }).click();
  await dialog.getByRole("button", { name: "Add 1" }).click();
  const row = page.getByRole("row").filter({ hasText: "Grease the hinges" });
  await expect(row).toContainText("Amadou Keller");
  await expect(row).toContainText("9 Dec 2026");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(row).toHaveCount(0);
});
