import { expect, test } from "@playwright/test";
import { projectId, signIn } from "./helpers.ts";

test("a manager notes what has to be known of an activity and adds a file; whoever works on it reads both on the desk", async ({
  page,
}) => {
  await signIn(page, "tomas");
  const id = await projectId(page, "LG-02");
  await page.goto(`/projects/${id}/charter`);
  const documents = page.getByRole("region", { name: "Documents" });
  await documents.getByLabel("Add files").setInputFiles([
    { name: "survey.csv", mimeType: "text/csv", buffer: Buffer.from("depth\n4.2\n") },
    { name: "tool.txt", mimeType: "text/plain", buffer: Buffer.concat([Buffer.from("MZ"), Buffer.alloc(100)]) },
  ]);
  await expect(documents.getByRole("alert")).toContainText("“tool.txt” is a program");
  await documents.getByRole("button", { name: "survey.csv", exact: true }).click();
  const shown = page.getByRole("dialog", { name: "survey.csv" });
  await expect(shown.frameLocator("iframe").getByText("4.2")).toBeVisible();
  await page.keyboard.press("Escape");
  await documents
    .getByLabel("New version of survey.csv")
    .setInputFiles({ name: "survey 2.csv", mimeType: "text/csv", buffer: Buffer.from("depth\n4.4\n") });
  await expect(documents.getByRole("listitem").filter({ hasText: "survey.csv" }).getByText("2 versions")).toBeVisible();
  await documents.getByRole("button", { name: "Remove survey.csv" }).click();
  await expect(documents.getByRole("button", { name: "survey.csv", exact: true })).toHaveCount(0);
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(documents.getByRole("button", { name: "survey.csv", exact: true })).toBeVisible();

  // The demo's own: what is said of the drives stands on the desk of whoever aligns them.
  const worker = await page.evaluate(async (project) => {
    const { tables } = await (await fetch(`/api/projects/${project}/plan`)).json();
    const [activity] = tables.activities.find(([, row]: [string, { name: string }]) =>
      row.name.startsWith("Align drives, north"),
    );
    const person = tables.assignments.find(([, row]: [string, { activity: string }]) => row.activity === activity)[1]
      .person;
    return { activity, name: tables.people.find(([key]: [string]) => key === person)[1].name as string };
  }, id);
  await page.goto(`/projects/${id}/plan?at=${worker.activity}&about=notes`);
  const panel = page.getByRole("region", { name: "About the activity" });
  await panel.getByLabel("Add to the check-list").fill("Radio channel agreed");
  await panel.getByLabel("Add to the check-list").press("Enter");
  await expect(panel.getByText(/2 of 5 done/)).toBeVisible();
  await expect(page.getByText("All is saved")).toBeVisible();
  await signIn(
    page,
    worker.name
      .split(" ")[0]!
      .normalize("NFD")
      .replace(/[^A-Za-z]/g, "")
      .toLowerCase(),
  );
  await page.goto("/desk");
  const card = page.getByRole("listitem").filter({ hasText: "Align drives, north" }).first();
  await card.getByText(/check-list of 5 · 1 document/).click();
  await expect(card.getByText("Radio channel agreed")).toBeVisible();
  await card.getByRole("button", { name: "Method.txt" }).click();
  await expect(
    page
      .getByRole("dialog")
      .frameLocator("iframe")
      .getByText(/three strokes without a stop/),
  ).toBeVisible();
});
