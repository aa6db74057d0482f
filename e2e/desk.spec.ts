import { expect, test, type Locator, type Page } from "@playwright/test";
import { beside, bringPlan, signIn } from "./helpers.ts";

const DAY: [string, string][] = [
  ["08:00", "12:00"],
  ["13:00", "17:00"],
];
const plan = (code: string, name: string) => ({
  format: "chronometra-plan",
  version: 1,
  project: { code, name, currency: "EUR", start: "2026-11-09", dataDate: "2026-11-06", calendar: "std" },
  calendars: [{ id: "std", name: "Standard", week: { mon: DAY, tue: DAY, wed: DAY, thu: DAY, fri: DAY } }],
  people: [{ id: "hana-pettersen", name: "Hana Pettersen", rates: [{ from: "2026-01-01", perHourMinor: 6000 }] }],
  activities: [
    { id: "a", name: "Sound the basin", durationMinutes: 4800 },
    { id: "b", name: "Chart the basin", durationMinutes: 2400 },
  ],
  links: [{ from: "a", to: "b" }],
  assignments: [
    { activity: "a", person: "hana-pettersen", plannedMinutes: 4800 },
    { activity: "b", person: "hana-pettersen", plannedMinutes: 2400 },
  ],
});

/** Counts what a person does: each touch, each text typed, each key pressed. */
class Hand {
  actions = 0;
  async touch(what: Locator): Promise<void> {
    this.actions++;
    await what.click();
  }
  async type(page: Page, text: string): Promise<void> {
    this.actions++;
    await page.keyboard.type(text);
  }
  async press(page: Page, key: string): Promise<void> {
    this.actions++;
    await page.keyboard.press(key);
  }
}

const cardOf = (page: Page, name: string) =>
  page.getByRole("listitem").filter({ has: page.getByRole("heading", { name, exact: true }) });

test("a report takes three actions for time and one for percent; the clock outlives the browser, and what is blocked says so", async ({
  page,
  browser,
}) => {
  await signIn(page, "tomas");
  await bringPlan(page, "Basin survey", plan("DK-01", "Basin survey"));
  await signIn(page, "hana");
  const card = cardOf(page, "Sound the basin");

  await test.step("time: at most three actions", async () => {
    const hand = new Hand();
    await hand.touch(card.getByPlaceholder("1.5h, a note"));
    await hand.type(page, "1.5h lead lines");
    await hand.press(page, "Enter");
    await expect(card.getByText("1.5 h waiting to be accepted")).toBeVisible();
    expect(hand.actions).toBeLessThanOrEqual(3);
  });

  await test.step("percent: at most two", async () => {
    const hand = new Hand();
    await hand.touch(card.getByRole("button", { name: "30% done" }));
    await expect(page.getByText("Percent sent: Sound the basin")).toBeVisible();
    await expect(card.getByRole("button", { name: "30% done" })).toHaveAttribute("aria-pressed", "true");
    expect(hand.actions).toBeLessThanOrEqual(2);
  });

  await test.step("a clock runs on while the browser is closed, in another one too, and is stopped there", async () => {
    await card.getByRole("button", { name: "Start the clock on Sound the basin" }).click();
    await expect(page.getByRole("timer")).toContainText("Sound the basin");
    const elsewhere = await browser.newContext({ viewport: { width: 390, height: 844 } });
    const phone = await elsewhere.newPage();
    await signIn(phone, "hana");
    await expect(phone.getByRole("timer")).toContainText("Sound the basin");
    await phone.getByLabel("What the clock should have measured").fill("0.5h");
    await phone.getByLabel("What the clock should have measured").press("Enter");
    await phone.getByRole("button", { name: "Stop and book" }).click();
    await expect(phone.getByRole("timer")).toBeHidden();
    expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await elsewhere.close();
    await page.reload();
    await expect(page.getByRole("timer")).toBeHidden();
    await expect(card.getByText("2 h waiting to be accepted")).toBeVisible();
  });

  await test.step("blocked by something, seen by the manager, and taken back", async () => {
    await card.getByRole("button", { name: "More on Sound the basin" }).click();
    await card.getByLabel("What blocks Sound the basin", { exact: true }).fill("fog, the launch stays in");
    await card.getByLabel("What blocks Sound the basin", { exact: true }).press("Enter");
    await expect(card.getByText("blocked by fog, the launch stays in")).toBeVisible();
    const tomas = await beside(page, "tomas");
    const { blocks } = await tomas.get<{ blocks: { by: string; downstream: { name: string; movesDays: number }[] }[] }>(
      "/api/blocked/3",
    );
    expect(blocks.find(({ by }) => by.startsWith("fog"))?.downstream).toEqual([
      expect.objectContaining({ name: "Chart the basin", movesDays: 3 }),
    ]);
    await card.getByRole("button", { name: "No longer blocked: Sound the basin" }).click();
    await expect(card.getByText(/blocked by fog/)).toBeHidden();
  });

  await test.step("what waits for others is hidden if one likes, and stays so", async () => {
    await expect(cardOf(page, "Chart the basin")).toBeVisible();
    await page.getByLabel(/waiting for others/).uncheck();
    await expect(cardOf(page, "Chart the basin")).toBeHidden();
    await page.getByRole("button", { name: "Show as cards" }).click();
    await page.waitForTimeout(700);
    await page.reload();
    await expect(cardOf(page, "Sound the basin")).toBeVisible();
    await expect(cardOf(page, "Chart the basin")).toBeHidden();
    await page.getByLabel(/waiting for others/).check();
    await page.getByRole("button", { name: "Show as a list" }).click();
  });
});

test("a browser that dies while booking books once or not at all, never half", async ({ page, browser }) => {
  await signIn(page, "tomas");
  await bringPlan(page, "Basin again", plan("DK-02", "Basin again"));
  const hana = await beside(page, "hana");
  for (let round = 0; round < 4; round++) {
    const before = (await hana.get<{ reports: { note: string }[] }>("/api/desk")).reports.filter(
      ({ note }) => note === `round ${round}`,
    ).length;
    const context = await browser.newContext();
    const doomed = await context.newPage();
    await signIn(doomed, "hana");
    const field = doomed
      .getByRole("listitem")
      .filter({ hasText: "Basin again" })
      .filter({ has: doomed.getByRole("heading", { name: "Sound the basin" }) })
      .getByPlaceholder("1.5h, a note");
    await field.fill(`0.25h round ${round}`);
    void field.press("Enter").catch(() => undefined);
    await new Promise((resolve) => setTimeout(resolve, round * 12));
    await context.close();
    const { reports } = await hana.get<{
      reports: { note: string; minutes: number; activityName: string; state: string }[];
    }>("/api/desk");
    const sent = reports.filter(({ note }) => note === `round ${round}`);
    expect(before).toBe(0);
    expect(sent.length).toBeLessThanOrEqual(1);
    for (const report of sent)
      expect(report).toMatchObject({ minutes: 15, activityName: "Sound the basin", state: "submitted" });
  }
});
