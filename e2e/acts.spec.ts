import { expect, test, type Page } from "@playwright/test";
import { bringPlan, broughtPlan, drag, planCell, projectId, saved, showColumns, signIn, typeInto } from "./helpers.ts";

const focused = (page: Page): Promise<string> => page.evaluate(() => document.activeElement?.tagName ?? "");

/** Buttons and links that a message lies over. */
const covered = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const message = document.querySelector("[data-sonner-toast][data-front='true']")!.getBoundingClientRect();
    return [...document.querySelectorAll<HTMLElement>("main button, main a, main input")]
      .filter((each) => {
        const box = each.getBoundingClientRect();
        const meets =
          box.left < message.right && box.right > message.left && box.top < message.bottom && box.bottom > message.top;
        return (
          meets &&
          each.checkVisibility() &&
          document
            .elementFromPoint(box.left + box.width / 2, box.top + box.height / 2)
            ?.closest("[data-sonner-toast]") !== null
        );
      })
      .map((each) => each.textContent);
  });

test("what was done before others went on is taken back from the history, shown first; what later work rests on stays", async ({
  page,
}) => {
  await signIn(page, "ines");
  const id = await bringPlan(page, "Jetty of old", broughtPlan("ACT-1", "Jetty of old"));
  await page.goto(`/projects/${id}/plan`);
  const name = "Lay deck";
  await typeInto(page, name, "Deadline", "4 Jan 2029");
  await typeInto(page, name, "Deadline", "5 Jan 2029");
  await page.getByRole("navigation", { name: "Project" }).getByRole("link", { name: "Tell" }).click();
  await page.getByRole("link", { name: "History", exact: true }).click();
  const table = page.getByRole("table", { name: "History" });
  const label = (date: string): string => `Deadline of “${name}”: ${date}`;
  await table.getByRole("button", { name: label("4 Jan 2029") }).click();
  const opened = page.getByRole("dialog");
  await expect(opened).toContainText("It cannot be undone. It was changed again since.");
  await expect(opened).toContainText(`${name}: deadline, by Ines`);
  await page.keyboard.press("Escape");
  await expect(opened).toBeHidden();
  await expect(table.getByRole("button", { name: label("4 Jan 2029") })).toBeFocused();
  await table.getByRole("button", { name: label("5 Jan 2029") }).click();
  await expect(opened).toContainText("Taking it back would");
  await opened.getByRole("button", { name: "Undo" }).click();
  await expect(table.getByRole("row").nth(1)).toContainText(`Undid: ${label("5 Jan 2029")}`);
  await expect(table.getByRole("row").filter({ hasText: "undone" })).toHaveCount(1);
  expect(await focused(page)).not.toBe("BODY");
  await expect(page.getByText("Taken back: Deadline")).toBeVisible();
  expect(await covered(page)).toEqual([]);
  // Now nothing rests on the first.
  await table.getByRole("button", { name: label("4 Jan 2029"), exact: true }).click();
  await opened.getByRole("button", { name: "Undo" }).click();
  await expect(table.getByRole("row").filter({ hasText: "undone" })).toHaveCount(2);
});

test("a drag never takes a date wish with a reason away without asking", async ({ page }) => {
  await signIn(page, "ines");
  const id = await bringPlan(page, "Jetty dragged", broughtPlan("ACT-2", "Jetty dragged"));
  await page.goto(`/projects/${id}/plan`);
  const name = "Lay deck";
  await showColumns(page, "Date wish");
  await typeInto(page, name, "Date wish", "not before 4 Jan 2027: contract");
  const wish = await planCell(page, name, "Date wish");
  const lane = page
    .getByRole("row")
    .filter({ has: page.getByRole("rowheader", { name, exact: true }) })
    .locator('svg rect[fill="var(--band)"]')
    .first();
  let last = "";
  await expect
    .poll(
      async () => {
        const [was, now] = [last, JSON.stringify(await lane.boundingBox())];
        last = now;
        return was === now;
      },
      { intervals: [300] },
    )
    .toBe(true);
  const dragOn = async (): Promise<void> => {
    const { x, y, width } = (await lane.boundingBox())!;
    await (
      await drag(page, { x: x + width / 2, y: y + 3 }, { x: x + width / 2 + 60, y: y + 3 })
    )();
  };
  await dragOn();
  const replace = page.getByRole("dialog", { name: "Replace the date wish?" });
  await expect(replace).toContainText("It takes the place of: not before 4 Jan 2027: contract");
  await replace.getByRole("button", { name: "Cancel" }).click();
  await expect(wish).toHaveText("not before 4 Jan 2027: contract");
  await dragOn();
  await replace.getByRole("button", { name: "Replace it" }).click();
  await saved(page);
  await expect(wish).toHaveText(/^not before (?!4 Jan)[^:]+$/);
});

test("in a small window the plan keeps rows beside what is told of one, and all of it can be scrolled to", async ({
  page,
}) => {
  await page.setViewportSize({ width: 640, height: 400 });
  await signIn(page, "ines");
  await page.goto(`/projects/${await projectId(page, "LG-03")}/plan?about=work`);
  const about = page.getByRole("region", { name: "About the activity" });
  await expect(about).toBeAttached();
  const inSight = (): Promise<number> =>
    page
      .getByRole("treegrid", { name: "Plan" })
      .getByRole("row")
      .evaluateAll(
        (rows) =>
          rows.filter((row) => {
            const { top, bottom } = row.getBoundingClientRect();
            return top > 200 && bottom <= innerHeight;
          }).length,
      );
  await expect.poll(inSight).toBeGreaterThanOrEqual(4);
  await about.getByRole("tab", { name: "Rule of credit" }).click();
  await expect(about.getByRole("tabpanel")).toBeInViewport();
});
