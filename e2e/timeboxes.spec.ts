import { expect, test, type Page } from "@playwright/test";
import { bringPlan, broughtPlan, signIn } from "./helpers.ts";

const box = (page: Page, name: string) => page.getByRole("region", { name, exact: true });
const linesIn = (page: Page, name: string) => box(page, name).getByRole("checkbox");

test("timeboxes are made, filled by dragging and by keys, moved on together, looked back at and undone", async ({
  page,
  browser,
}) => {
  await signIn(page, "ines");
  const id = await bringPlan(page, "Jetty boxed", broughtPlan("BOX-1", "Jetty boxed"));
  await page.goto(`/projects/${id}/timeboxes`);
  await expect(page.getByText("No timeboxes yet")).toBeVisible();
  const waits = page.getByRole("region", { name: "Waits" });
  const names = await waits
    .getByRole("checkbox")
    .evaluateAll((all) => all.map((each) => each.getAttribute("aria-label")!));

  // The series is seen before it is made.
  await page.getByRole("button", { name: "Make a series" }).click();
  await page.getByLabel("How many").fill("2");
  await expect(page.getByRole("list", { name: "What is made" }).getByRole("listitem")).toHaveCount(2);
  await page.getByRole("button", { name: "Make them" }).click();
  await expect(box(page, "Fortnight 2")).toBeVisible();

  // By pointer.
  const grip = waits.getByRole("listitem").filter({ hasText: names[0]! }).getByTitle("Drag to another place");
  const [from, onto] = [(await grip.boundingBox())!, (await box(page, "Fortnight 1").getByRole("list").boundingBox())!];
  await page.mouse.move(from.x + 8, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(from.x - 30, from.y + 12, { steps: 4 });
  await page.mouse.move(onto.x + 60, onto.y + onto.height - 6, { steps: 8 });
  await expect(box(page, "Fortnight 1").getByRole("list")).toHaveClass(/outline-accent/);
  await page.mouse.up();
  await expect(linesIn(page, "Fortnight 1")).toHaveCount(1);
  await expect(page.getByText("Saving …")).toHaveCount(0);
  await expect(box(page, "Fortnight 1")).toContainText("1 activity");

  // By keys: from the top of what waits up into the last timebox; someone else sees it come.
  const other = await browser.newPage();
  await signIn(other, "ines");
  await other.goto(`/projects/${id}/timeboxes`);
  await expect(linesIn(other, "Fortnight 1")).toHaveCount(1);
  await waits.getByRole("checkbox").first().focus();
  await page.keyboard.press("Alt+ArrowUp");
  await expect(linesIn(page, "Fortnight 2")).toHaveCount(1);
  await expect(linesIn(page, "Fortnight 2")).toBeFocused();
  await expect(linesIn(other, "Fortnight 2")).toHaveCount(1);
  await other.close();

  // Several at once, once it is seen what that moves.
  await linesIn(page, "Fortnight 1").check();
  await waits.getByRole("checkbox").first().check();
  await page.getByRole("button", { name: "Put them elsewhere" }).click();
  await page
    .getByLabel("Into")
    .selectOption({ label: await page.getByLabel("Into").locator("option").nth(2).innerText() });
  await expect(page.getByText("Project finish")).toBeVisible();
  await page.getByRole("button", { name: "Put them there" }).click();
  await expect(linesIn(page, "Fortnight 2")).toHaveCount(3);
  const told = page.getByRole("listitem").filter({ hasText: "2 activities are put into Fortnight 2." });
  await told.getByRole("button", { name: "Undo" }).click();
  await expect(linesIn(page, "Fortnight 2")).toHaveCount(1);

  // Its own page tells what was meant and what came of it.
  await box(page, "Fortnight 1").getByRole("link", { name: "Fortnight 1" }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Fortnight 1" })).toBeVisible();
  await expect(page.getByRole("row").filter({ hasText: names[0]! })).toContainText("not finished");

  // Offline it says so, and nothing stands elsewhere than before.
  await page.goBack();
  await expect(linesIn(page, "Fortnight 1")).toHaveCount(1);
  await page.context().setOffline(true);
  await linesIn(page, "Fortnight 1").focus();
  await page.keyboard.press("Alt+ArrowDown");
  await expect(page.getByText(/could not be reached|cannot be reached|offline/i).first()).toBeVisible();
  await expect(linesIn(page, "Fortnight 1")).toHaveCount(1);
  await page.context().setOffline(false);

  // The reason of its dates bears the name of the box.
  const rows = await page.evaluate(async (at) => (await fetch(at)).json(), `/api/projects/${id}/boxes`);
  const { boxes } = rows as { boxes: { works: { id: string }[] }[] };
  await page.goto(`/projects/${id}/plan?at=${boxes[1]!.works[0]!.id}&about=why`);
  await expect(page.getByText(/timebox “Fortnight 2”/)).toBeVisible();
});

test("a milestone gathers activities: counted by state, with links where asked for, and let go again", async ({
  page,
}) => {
  await signIn(page, "ines");
  const id = await bringPlan(page, "Jetty gathered", broughtPlan("BOX-2", "Jetty gathered"));
  await page.goto(`/projects/${id}/dates`);
  const counts = page.getByRole("link", { name: /gathers 0$/ });
  const name = (await counts.first().getAttribute("aria-label"))!.replace(/ gathers 0$/, "");
  await counts.first().click();
  await expect(page.getByText("It gathers nothing yet.")).toBeVisible();
  await page.getByRole("button", { name: "Gather more" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("checkbox").nth(1).check();
  await dialog.getByRole("checkbox").nth(2).check();
  await dialog.getByRole("button", { name: "Gather 2" }).click();
  await expect(page.getByRole("img", { name: /^2 parts · 0 finished/ })).toBeVisible();
  await page
    .getByRole("button", { name: /^Gather .* no more$/ })
    .first()
    .click();
  await expect(page.getByRole("img", { name: /^1 part · / })).toBeVisible();
  const told = page.getByRole("listitem").filter({ hasText: "no more" });
  await told.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("img", { name: /^2 parts/ })).toBeVisible();
  await page.goto(`/projects/${id}/dates`);
  await expect(page.getByRole("link", { name: `${name} gathers 2` })).toBeVisible();
});
