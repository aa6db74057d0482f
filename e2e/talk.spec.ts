import { expect, test } from "@playwright/test";
import { projectId, signIn } from "./helpers.ts";

test("who is called in a talk hears of it, answers on the desk and by mail, and it stands where the work is", async ({
  page,
  browser,
}) => {
  await signIn(page, "tomas");
  const project = await projectId(page, "LG-02");
  await page.goto(`/projects/${project}/talk`);
  const field = page.getByLabel("What you say").first();
  await field.pressSequentially("Who has the key of the gatehouse, @amad");
  await page.getByRole("option", { name: "Amadou Keller" }).waitFor();
  await field.press("Tab");
  await field.press("Control+Enter");
  const log = page.getByRole("list", { name: "What was said" });
  await expect(log.getByText("Who has the key of the gatehouse, ")).toBeVisible();
  await expect(log.locator("strong", { hasText: "@Amadou Keller" })).toBeVisible();

  const other = await (await browser.newContext()).newPage();
  await signIn(other, "amadou");
  await other.goto("/mail");
  const letter = other.getByRole("listitem").filter({ hasText: "did both drives hold" });
  await letter.getByRole("button", { name: "Answer" }).click();
  await letter.getByRole("textbox").fill("Both held this night.");
  await letter.getByRole("button", { name: "Send" }).click();
  await expect(other.getByText("Answered: it stands where it was asked.")).toBeVisible();
  await other.goto("/inbox");
  await other
    .getByRole("listitem", { name: /Tomas Lindqvist asks you/ })
    .getByRole("link", { name: "Answer" })
    .first()
    .click();
  await expect(other.getByText("Who has the key of the gatehouse")).toBeVisible();
  const file = { name: "keys.txt", mimeType: "text/plain", buffer: Buffer.from("gatehouse: at the lock") };
  await other.getByLabel("Files to go with it").setInputFiles(file);
  await expect(other.getByRole("list", { name: "Files to go with it" })).toContainText("keys.txt");
  await other.getByLabel("What you say").fill("Or ask at the lock.");
  await other.getByRole("button", { name: "Send" }).click();
  await expect(other.getByText("Or ask at the lock.")).toBeVisible();
  const own = other.getByRole("listitem").filter({ hasText: "Or ask at the lock." });
  await own.getByRole("button", { name: "Remove" }).click();
  await expect(other.getByText("Removed by Amadou Keller.")).toBeVisible();
  await other.getByRole("button", { name: "Undo" }).click();
  await expect(other.getByText("Or ask at the lock.")).toBeVisible();

  await page.reload();
  await expect(page.getByText("Or ask at the lock.")).toBeVisible();
  await page.getByRole("button", { name: "keys.txt" }).click();
  await expect(page.frameLocator("iframe").getByText("gatehouse: at the lock")).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: /Align drives, north chamber/ }).click();
  const answered = page.getByRole("listitem").filter({ hasText: "Both held this night." });
  await expect(answered).toContainText("by mail");
});
