import { expect, test, type Page } from "@playwright/test";
import { beside, bringPlan, broughtPlan, signIn } from "./helpers.ts";

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
  const told = page.getByRole("listitem").filter({ hasText: "2 activities earn by the changed stages." });
  await told.getByRole("button", { name: "Undo" }).click();
  await expect(staged.getByRole("radio", { name: "Done, earns 60%" }).first()).toBeChecked();

  await page.getByLabel("Together by").selectOption("state");
  await expect(page).toHaveURL(/by=state/);
  await expect(page.getByRole("heading", { name: "not started" }).first()).toBeVisible();
});

const STAGES = ["Drawn", "Cut", "Joined", "Painted"].map((name, i) => ({ name, credit: i * 25 }));

/** A plan of many cards that earn by the same stages; the first is Amadou Keller's. */
const manyCards = (): object => ({
  ...broughtPlan("BRD-2", "Jetty cards"),
  project: {
    ...{ code: "BRD-2", name: "Jetty cards", currency: "EUR" },
    ...{ start: "2026-11-09", calendar: "std", dataDate: "2026-11-13" },
  },
  activities: Array.from({ length: 300 }, (_, i) => ({
    ...{ id: `c${i}`, name: `Card ${i}`, durationMinutes: 960 },
    credit: { rule: "stages", stages: STAGES, stage: "Drawn" },
  })),
  links: [],
  assignments: [{ activity: "c0", person: "amadou-keller", plannedMinutes: 960 }],
  costs: [],
});

test("two move cards of a long board at once; offline it says so; someone’s own stage waits to be accepted", async ({
  page,
  browser,
}) => {
  await signIn(page, "ines");
  const id = await bringPlan(page, "Jetty cards", manyCards());
  const other = await browser.newPage();
  await signIn(other, "ines");
  for (const each of [page, other]) await each.goto(`/projects/${id}/board`);
  const stage = (of: Page, card: string, name: string) =>
    of.getByRole("radiogroup", { name: `Stage of ${card}`, exact: true }).getByRole("radio", { name });

  // Each sees what the other moved; nothing is lost.
  await Promise.all([stage(page, "Card 1", "Cut").click(), stage(other, "Card 2", "Joined").click()]);
  for (const each of [page, other]) {
    await expect(stage(each, "Card 1", "Cut")).toBeChecked();
    await expect(stage(each, "Card 2", "Joined")).toBeChecked();
  }
  await other.close();

  // Far down, by keys, which stay where they are while the page scrolls.
  const last = page.getByRole("radiogroup", { name: "Stage of Card 299", exact: true });
  await expect(last).toHaveCount(0);
  await page.getByRole("button", { name: "Change stages" }).hover();
  await expect(async () => {
    await page.mouse.wheel(0, 20_000);
    await expect(last).toBeVisible({ timeout: 1000 });
  }).toPass();
  await stage(page, "Card 299", "Drawn").focus();
  await page.keyboard.press("ArrowRight");
  await expect(stage(page, "Card 299", "Cut")).toBeChecked();
  await expect(stage(page, "Card 299", "Cut")).toBeFocused();

  await page.context().setOffline(true);
  await stage(page, "Card 299", "Joined").click();
  await expect(
    page
      .getByRole("alert")
      .or(page.getByRole("listitem"))
      .filter({ hasText: /server/ })
      .first(),
  ).toBeVisible();
  await page.context().setOffline(false);
  await expect(stage(page, "Card 299", "Cut")).toBeChecked();
  await stage(page, "Card 299", "Joined").click();
  await expect(stage(page, "Card 299", "Joined")).toBeChecked();

  const desk = await browser.newPage();
  await signIn(desk, "amadou");
  const own = desk.getByRole("group", { name: "Stage of Card 0" });
  await own.getByRole("button", { name: "Joined" }).click();
  await expect(own.getByRole("button", { name: "Joined", pressed: true })).toBeVisible();
  await expect(desk.getByText("at “Joined” on Card 0")).toBeVisible();
  await desk.close();
  const ines = await beside(page, "ines");
  const [report] = (await ines.get<{ id: string; stage: string | null }[]>("/api/reports")).filter(
    (each) => each.stage !== null,
  );
  await ines.send("post", "/api/reports/decision", { ids: [report!.id], decision: "accept" });
  await page.goto(`/projects/${id}/board`);
  await expect(stage(page, "Card 0", "Joined")).toBeChecked();
});
