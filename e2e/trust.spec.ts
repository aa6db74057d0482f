import { expect, test } from "@playwright/test";
import { bringPlan, broughtPlan, planCell, projectId, signIn } from "./helpers.ts";

test("a plan that cannot be trusted says why and where, is mended many at once with the effect in view, and undone", async ({
  page,
}) => {
  await signIn(page, "ines");
  const plan = broughtPlan("TR-1", "Quay steps") as { activities: object[]; links: object[] };
  const id = await bringPlan(page, "Quay steps", {
    ...plan,
    activities: [
      ...plan.activities,
      {
        id: "X",
        name: "Order rails",
        parent: "S",
        durationMinutes: 960,
        wish: { type: "startOn", date: "2026-11-16" },
      },
      { id: "Y", name: "Fit rails", parent: "S", durationMinutes: 960 },
    ],
    links: [...plan.links, { from: "A", to: "M" }, { from: "X", to: "Y" }],
  });
  await page.getByRole("link", { name: "Look", exact: true }).click();
  await page.getByRole("link", { name: "Trust" }).click();
  await expect(page.getByText("Not fit.", { exact: true })).toBeVisible();
  await expect(page.getByText("What would help most:").locator("..")).toContainText("Missing logic: link");

  // A check opens those it names, each with the way to where it is mended.
  await page.getByRole("button", { name: "Missing logic" }).click();
  const panel = page.getByRole("complementary", { name: "Missing logic" });
  await expect(panel.getByRole("list", { name: "Named by Missing logic" }).getByRole("listitem")).toHaveText([
    /Order rails.*nothing before it/,
    /Fit rails.*nothing after it/,
  ]);
  await panel.getByRole("link", { name: "Fit rails" }).click();
  await expect(page).toHaveURL(/plan\?at=Y&cell=after&about=why/);
  await expect(await planCell(page, "Fit rails", "Predecessors")).toBeFocused();
  await page.goBack();

  // Many at once, with what it moves; then taken back.
  await expect(panel.getByText("Project finish")).toBeVisible();
  await panel.getByRole("checkbox", { name: "Mend Order rails" }).uncheck();
  await panel.getByRole("button", { name: "Link them to both ends: 1 change" }).click();
  await expect(panel.getByRole("list", { name: "Named by Missing logic" }).getByRole("listitem")).toHaveText([
    /Order rails/,
  ]);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("It is as it was before.")).toBeVisible();
  await expect(panel.getByRole("list", { name: "Named by Missing logic" }).getByRole("listitem")).toHaveCount(2);

  await page.getByRole("button", { name: "Redundant links" }).click();
  const links = page.getByRole("complementary", { name: "Redundant links" });
  await expect(links.getByRole("listitem").filter({ hasText: "Jetty open" })).toContainText(
    "starts after Drive piles finishes",
  );
  await expect(links.getByText("stays", { exact: true }).first()).toBeVisible();
  await links.getByRole("button", { name: /^Remove them: 1 change/ }).click();
  await expect(links.getByText("Nothing: it holds for all.")).toBeVisible();

  // The same is said where the plan is put forward.
  await page.goto(`/projects/${id}/approvals`);
  await expect(page.getByRole("region", { name: "The plan as it stands" })).toContainText(
    /Not fit: Missing logic: 2 of/,
  );
});

test("the rotten project is found out, its path test is seen in the time chart, and a portfolio sets its own limits", async ({
  page,
}) => {
  await signIn(page, "ines");
  const id = await projectId(page, "FS-01");
  await page.goto(`/projects/${id}/trust?at=12`);
  await expect(page.getByText("Not fit.", { exact: true })).toBeVisible();
  await page.getByRole("link", { name: "See it in the time chart" }).click();
  await expect(
    page
      .getByRole("status")
      .filter({ hasText: /^Critical path test: with .* 600 d longer, the finish lies \d+(\.\d)? d later/ }),
  ).toBeVisible();

  await page.goto("/");
  const trust = page.getByRole("region", { name: "The log" }).getByText(/plans? (is|are) to be taken with care/);
  await expect(trust).toBeVisible();
  await page.goto("/set-up/groups");
  const dialog = page.getByRole("region", { name: "When a plan can be trusted" });
  const limit = dialog.getByLabel("Limit of Lags");
  await limit.fill("ten");
  await limit.press("Enter");
  await expect(dialog.getByText("Write a number, as 5 or 0.95.")).toBeVisible();
  await limit.fill("50");
  await limit.press("Enter");
  await expect(limit).toHaveValue("50");
  await page.goto(`/projects/${id}/trust?at=3`);
  await expect(page.getByRole("complementary", { name: "Lags" })).toContainText("at most 50% (published: at most 5%)");
  await page.evaluate(async () => {
    const { token } = (await (await fetch("/api/session")).json()) as { token: string };
    await fetch("/api/portfolio/quality-limits", {
      method: "PUT",
      headers: { "content-type": "application/json", "x-chronometra-token": token },
      body: "{}",
    });
  });
});
