import { expect, test, type Page } from "@playwright/test";
import { beside, bringPlan, broughtPlan, projectId, signIn } from "./helpers.ts";

const amount = (text: string | null): number => Number((text ?? "").replace(/[^\d.-]/g, ""));

/** The sum at the foot of the list that a figure opens, in the last column that is a number. */
async function sumOpened(page: Page): Promise<number> {
  await expect(page.locator("tfoot")).toContainText(/entr|cost/);
  const cells = await page.locator("tfoot tr").last().getByRole("cell").allTextContents();
  return amount(cells.findLast((text) => /\d/.test(text)) ?? null);
}

test("actual cost split by person, role and category opens rows that add up to it", async ({ page }) => {
  test.setTimeout(120_000);
  await signIn(page, "ines");
  const id = await projectId(page, "LG-02");
  for (const by of ["person", "role", "category"]) {
    await page.goto(`/projects/${id}/performance?by=${by}`);
    const table = page.getByRole("table", { name: /^Figures by/ });
    await expect(table).toBeVisible();
    const row = table
      .locator("tbody")
      .getByRole("row")
      .filter({ has: page.getByRole("link") })
      .first();
    const heads = await table.getByRole("columnheader").allTextContents();
    const cell = row.getByRole("cell").nth(heads.indexOf("AC"));
    const said = amount(await cell.textContent());
    expect(said, by).toBeGreaterThan(0);
    await cell.getByRole("link").click();
    expect(await sumOpened(page), by).toBe(said);
  }
});

test("a locked period keeps its figures, and what has changed since stands beside them and on the portfolio; an approver sees what freezing would make of them", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await signIn(page, "tomas");
  const base = broughtPlan("LF-01", "Quay wall") as { project: object };
  const project = await bringPlan(page, "Quay wall", { ...base, project: { ...base.project, dataDate: "2026-11-27" } });
  const [tomas, margit, ines] = [await beside(page, "tomas"), await beside(page, "margit"), await beside(page, "ines")];
  const { id } = await tomas.send<{ id: string }>("post", `/api/projects/${project}/approvals`, { word: "" });
  await signIn(page, "margit");
  await page.goto("/approvals");
  const asked = page.getByRole("listitem").filter({ hasText: "Quay wall" }).first();
  // Work that was to end before the data date has not begun: approved, that counts at once.
  await expect(asked).toContainText(
    /Approved, it is at once measured so, as of 27 Nov 2026: [\d\s]+ behind, SPI 0\.00/,
  );
  await expect(asked).toContainText(/approved finish in the past: .*Drive piles, 20 Nov 2026/);
  await margit.send("post", `/api/approvals/${id}/decision`, { decision: "approve", reason: "agreed" });
  await ines.send("post", `/api/projects/${project}/lock`, { word: "known" });

  await signIn(page, "ines");
  await page.goto(`/projects/${project}`);
  await expect(
    page.getByText("Period 10, to 27 Nov 2026, is locked. Its figures are as they were locked."),
  ).toBeVisible();
  const { revision } = await tomas.get<{ revision: number }>(`/api/projects/${project}/plan`);
  await tomas.send("post", `/api/projects/${project}/changes`, {
    revision,
    changes: [
      { type: "setDuration", activity: "B", minutes: 4800 },
      { type: "editRow", table: "assignments", key: await keyOf(page, project), set: { plannedMinutes: 5400 } },
    ],
  });
  await page.reload();
  await expect(
    page.getByText(/is locked\. Changed since: finish 5 d later · [\d\s]+ EUR more at completion/),
  ).toBeVisible();
  await page.getByRole("link", { name: "What changed" }).click();
  await expect(page.getByRole("region", { name: "Why it moved" })).toContainText("5 d later");
  await page.goto("/");
  const line = page.getByRole("table", { name: "Projects" }).getByRole("row").filter({ hasText: "Quay wall" });
  await expect(line.getByRole("link", { name: "2 changed" })).toHaveAttribute("title", /finish 5 d later/);
});

/** How the plan calls its one assignment. */
const keyOf = (page: Page, project: string): Promise<string> =>
  page.evaluate(
    async (id) =>
      ((await (await fetch(`/api/projects/${id}/plan`)).json()) as { tables: { assignments: [string, unknown][] } })
        .tables.assignments[0]![0],
    project,
  );
