import { expect, test } from "@playwright/test";
import { bringPlan, broughtPlan, signIn } from "./helpers.ts";

test("a milestone is carried to a later day by pointer or by keys; what goes along is asked before anything moves", async ({
  page,
}) => {
  await signIn(page, "ines");
  const id = await bringPlan(page, "Jetty dated", broughtPlan("CAL-1", "Jetty dated"));
  const plan = await page.evaluate(async (project) => (await fetch(`/api/projects/${project}/milestones`)).json(), id);
  const { name, now } = (plan as { milestones: { name: string; now: string }[] }).milestones[0]!;
  const at = `/calendar?date=${now}&project=${id}`;
  await page.goto(at);
  const pennant = page.getByRole("link", { name: new RegExp(`^Milestone CAL-1 ${name}`) });
  await expect(pennant).toBeVisible();
  const next = (days: number): string => new Date(Date.parse(now) + days * 86_400_000).toISOString().slice(0, 10);

  // By keys: down is a week later.
  const day = (days: number) => page.locator(`[data-day="${next(days)}"]`);
  const takeUp = async (): Promise<void> => {
    await pennant.focus();
    await page.keyboard.press("Space");
    await expect(day(0)).toHaveClass(/outline-accent/);
  };
  await takeUp();
  await page.keyboard.press("ArrowDown");
  await expect(day(7)).toHaveClass(/outline-accent/);
  await page.keyboard.press("Space");
  await expect(page).toHaveURL(new RegExp(`/slip/.*to=${next(7)}`));
  await expect(page.getByLabel("Working days")).toHaveValue("5");
  await expect(page.getByRole("complementary", { name: "Effect preview" })).toContainText(name);

  // By keys, and given up.
  await page.goto(at);
  await takeUp();
  await page.keyboard.press("ArrowRight");
  await expect(day(1)).toHaveClass(/outline-accent/);
  await page.keyboard.press("Escape");
  await expect(page).toHaveURL(/\/calendar/);

  // By pointer, to an earlier day, which no slip reaches.
  const carry = async (to: ReturnType<typeof day>): Promise<void> => {
    const [from, onto] = [(await pennant.boundingBox())!, (await to.boundingBox())!];
    await page.mouse.move(from.x + 20, from.y + 10);
    await page.mouse.down();
    await page.mouse.move(from.x + 40, from.y + 14, { steps: 4 });
    await expect(day(0)).toHaveClass(/outline-accent/);
    await page.mouse.move(onto.x + onto.width / 2, onto.y + onto.height - 8, { steps: 8 });
    await expect(to).toHaveClass(/outline-accent/);
    await page.mouse.up();
  };
  await carry(day(-1));
  await expect(page.getByText("slips later only")).toBeVisible();
  await carry(day(7));
  await expect(page).toHaveURL(new RegExp(`/slip/.*to=${next(7)}`));
  await page.getByLabel("Why it slips").fill("The crane is late");
  await page.getByRole("button", { name: "Slip it and tell them" }).click();
  await page.goto(at);
  await expect(day(7)).toContainText(name);

  // Pressed, it opens where it stands.
  await pennant.click();
  await expect(page).toHaveURL(/\/plan\?at=/);
  await expect(page.getByRole("rowheader", { name, exact: true })).toBeVisible();
});

test.describe("with fingers", () => {
  test.use({ hasTouch: true });

  test("a milestone is carried once it is held; a quick touch opens it", async ({ page }) => {
    await signIn(page, "ines");
    const id = await bringPlan(page, "Jetty held", broughtPlan("CAL-2", "Jetty held"));
    await page.goto(`/calendar?date=2026-11-20&project=${id}`);
    const pennant = page.getByRole("link", { name: /^Milestone CAL-2 Jetty open/ });
    const [from, onto] = [
      (await pennant.boundingBox())!,
      (await page.locator('[data-day="2026-12-03"]').boundingBox())!,
    ];
    const touch = await page.context().newCDPSession(page);
    const finger = (type: "touchStart" | "touchMove" | "touchEnd", x = 0, y = 0) =>
      touch.send("Input.dispatchTouchEvent", { type, touchPoints: type === "touchEnd" ? [] : [{ x, y }] });
    await finger("touchStart", from.x + 30, from.y + 10);
    await page.waitForTimeout(400);
    for (let step = 1; step <= 8; step++)
      await finger(
        "touchMove",
        from.x + 30 + ((onto.x + 60 - from.x - 30) * step) / 8,
        from.y + 10 + ((onto.y + 50 - from.y - 10) * step) / 8,
      );
    await expect(page.locator('[data-day="2026-12-03"]')).toHaveClass(/outline-accent/);
    await finger("touchEnd");
    await expect(page).toHaveURL(/\/slip\/.*to=2026-12-03/);
    await page.goBack();
    await pennant.tap();
    await expect(page).toHaveURL(/\/plan\?at=/);
  });
});
