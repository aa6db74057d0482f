import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { expect, type Page } from "@playwright/test";

const PASSWORD = "saltmarrow";

/** Signs someone of the demo world in, out of whatever session there is. */
export async function signIn(page: Page, login: string): Promise<void> {
  await page.goto("/");
  const out = page.getByRole("button", { name: "Sign out" });
  const name = page.getByLabel("Name", { exact: true });
  await expect(out.or(name)).toBeVisible();
  if (await out.isVisible()) await out.click();
  await name.fill(login);
  await page.getByLabel("Password").fill(PASSWORD);
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(out).toBeVisible();
}

/** The id of a demo project by its code. */
export const projectId = (page: Page, code: string): Promise<string> =>
  page.evaluate(async (wanted) => ((await (await fetch("/api/portfolio")).json()) as { projects: { id: string; code: string }[] }).projects.find(({ code: each }) => each === wanted)!.id, code);

const axe = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

interface Finding {
  readonly id: string;
  readonly impact: string;
  readonly nodes: string[];
}

/** What axe finds serious or worse on the page as it is. */
export async function seriousFindings(page: Page): Promise<Finding[]> {
  // The content security policy rightly stops script tags; the source is evaluated instead.
  await page.evaluate(axe);
  return page.evaluate(async () => {
    const { violations } = await (window as unknown as { axe: { run: (options: object) => Promise<{ violations: { id: string; impact: string; nodes: { html: string; failureSummary: string }[] }[] }> } }).axe.run({ runOnly: ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"] });
    return violations.filter(({ impact }) => impact === "serious" || impact === "critical").map(({ id, impact, nodes }) => ({ id, impact, nodes: nodes.slice(0, 4).map(({ html, failureSummary }) => `${html.slice(0, 160)} ${failureSummary.slice(0, 200)}`) }));
  });
}

const DAY: [string, string][] = [["08:00", "12:00"], ["13:00", "17:00"]];

/** A plan that someone brings: two people of the demo world, three activities and a milestone. */
export const broughtPlan = (code: string, name: string): object => ({
  format: "chronometra-plan",
  version: 1,
  project: { code, name, currency: "EUR", start: "2026-11-09", calendar: "std" },
  calendars: [{ id: "std", name: "Standard", week: { mon: DAY, tue: DAY, wed: DAY, thu: DAY, fri: DAY } }],
  people: [{ id: "amadou-keller", name: "Amadou Keller", rates: [{ from: "2026-01-01", perHourMinor: 6000 }] }],
  activities: [
    { id: "S", name: "Jetty", kind: "summary" },
    { id: "A", name: "Drive piles", parent: "S", durationMinutes: 4800 },
    { id: "B", name: "Lay deck", parent: "S", durationMinutes: 2400 },
    { id: "M", name: "Jetty open", kind: "milestone", deadline: "2026-12-04" },
  ],
  links: [{ from: "A", to: "B" }, { from: "B", to: "M" }],
  assignments: [{ activity: "A", person: "amadou-keller", plannedMinutes: 4800 }],
  costs: [{ id: "c", activity: "B", category: "timber", plannedMinor: 250000, timing: "start" }],
});

/** Chooses a file made up here. */
export const fileOf = (name: string, content: string | Buffer) => ({ name, mimeType: "application/octet-stream", buffer: Buffer.from(content as string) });

/** The cell of a row of the plan, by the column's heading. */
export async function planCell(page: Page, activity: string, column: string) {
  await expect(page.getByRole("treegrid", { name: "Plan" })).toBeVisible();
  const heads = await page.getByRole("columnheader").allTextContents();
  return page.getByRole("row").filter({ has: page.getByRole("rowheader", { name: activity, exact: true }) }).locator(`[aria-colindex="${heads.indexOf(column) + 1}"]`);
}
