import { expect, test } from "@playwright/test";
import { bringPlan, broughtPlan, signIn } from "./helpers.ts";

test("stages are made for a project once, moved along by keys, renamed for all that earn by them, and undone", async ({
  page,
}) => {
  await signIn(page, "ines");
  const id = await bringPlan(page, "Jetty staged", broughtPlan("BRD-1", "Jetty staged"));
  await page.goto(`/projects/${id}/board`);
  const other = page.getByRole("region", { name: "Other work" });
  await expect(other.getByRole("listitem").first()).toContainText("not started");

  await page.getByRole("button", { name: "New stages" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("alert")).toContainText("Select the activities");
  await dialog.getByRole("group", { name: "More activities" }).getByRole("checkbox").nth(1).check();
  await dialog.getByRole("group", { name: "More activities" }).getByRole("checkbox").nth(2).check();
  await dialog.getByLabel("Percent that stage 2 earns").fill("200");
  await expect(dialog.getByRole("alert")).toContainText("0 to 100%");
  await dialog.getByLabel("Percent that stage 2 earns").fill("60");
  await dialog.getByRole("button", { name: "Save" }).click();
  const staged = page.getByRole("region", { name: "Begun, Done, Checked" });
  await expect(staged.getByRole("radiogroup")).toHaveCount(2);

  const first = staged.getByRole("radiogroup").first();
  await first.getByRole("radio", { name: "Begun, earns 10%" }).focus();
  await page.keyboard.press("ArrowRight");
  await expect(first.getByRole("radio", { name: "Done, earns 60%" })).toBeChecked();

  // Renamed for all, and what stands there stays there.
  await staged.getByRole("button", { name: "Change stages" }).click();
  await dialog.getByLabel("Name of stage 2").fill("Made");
  await expect(dialog.getByText("2 activities earn by them; 2 of those change.")).toBeVisible();
  await dialog.getByRole("button", { name: "Save" }).click();
  const renamed = page.getByRole("region", { name: "Begun, Made, Checked" });
  await expect(renamed.getByRole("radio", { name: "Made, earns 60%" }).first()).toBeChecked();
  const told = page.getByRole("listitem").filter({ hasText: "2 activities earn by these stages." });
  await told.first().getByRole("button", { name: "Undo" }).click();
  await expect(staged.getByRole("radio", { name: "Done, earns 60%" }).first()).toBeChecked();

  await page.getByLabel("Together by").selectOption("state");
  await expect(page).toHaveURL(/by=state/);
  await expect(page.getByRole("heading", { name: "not started" }).first()).toBeVisible();
});
