import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { expect, request, type Page } from "@playwright/test";

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
  page.evaluate(
    async (wanted) =>
      ((await (await fetch("/api/portfolio")).json()) as { projects: { id: string; code: string }[] }).projects.find(
        ({ code: each }) => each === wanted,
      )!.id,
    code,
  );

const axe = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

interface Finding {
  readonly id: string;
  readonly impact: string;
  readonly nodes: string[];
}

/** What axe finds serious or worse on the page as it is: of all its rules, or of those that a theme bears on. */
export async function seriousFindings(page: Page, of: "all" | "contrast" = "all"): Promise<Finding[]> {
  // The content security policy rightly stops script tags; the source is evaluated instead.
  await page.evaluate(axe);
  return page.evaluate(async (which) => {
    // Heads and sums that keep in sight lie over rows that a scroll shows; axe takes such rows for too small.
    const unrolled = new CSSStyleSheet();
    // Rows of a table are alike: its first stand for all, since every target is measured against every other.
    unrolled.replaceSync(
      ".ledger thead th, .ledger tr.total td { position: static !important } tbody > tr:nth-child(n + 60) { display: none }",
    );
    document.adoptedStyleSheets = [unrolled];
    const { violations } = await (
      window as unknown as {
        axe: {
          run: (options: object) => Promise<{
            violations: { id: string; impact: string; nodes: { html: string; failureSummary: string }[] }[];
          }>;
        };
      }
    ).axe.run({
      // What passes is not told: naming each element of it would take longer than looking at it.
      resultTypes: ["violations"],
      selectors: false,
      runOnly:
        which === "contrast"
          ? { type: "rule", values: ["color-contrast"] }
          : ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"],
    });
    document.adoptedStyleSheets = [];
    return violations
      .filter(({ impact }) => impact === "serious" || impact === "critical")
      .map(({ id, impact, nodes }) => ({
        id,
        impact,
        nodes: nodes
          .slice(0, 4)
          .map(({ html, failureSummary }) => `${html.slice(0, 160)} ${failureSummary.slice(0, 200)}`),
      }));
  }, of);
}

const DAY: [string, string][] = [
  ["08:00", "12:00"],
  ["13:00", "17:00"],
];

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
  links: [
    { from: "A", to: "B" },
    { from: "B", to: "M" },
  ],
  assignments: [{ activity: "A", person: "amadou-keller", plannedMinutes: 4800 }],
  costs: [{ id: "c", activity: "B", category: "timber", plannedMinor: 250000, timing: "start" }],
});

/** Chooses a file made up here. */
export const fileOf = (name: string, content: string | Buffer) => ({
  name,
  mimeType: "application/octet-stream",
  buffer: Buffer.from(content as string),
});

/** The cell of a row of the plan, by the column's heading. */
export async function planCell(page: Page, activity: string, column: string) {
  await expect(page.getByRole("treegrid", { name: "Plan" })).toBeVisible();
  const heads = await page.getByRole("columnheader").allTextContents();
  const at = heads.indexOf(column);
  await bringIntoSight(page, at);
  return page
    .getByRole("row")
    .filter({ has: page.getByRole("rowheader", { name: activity, exact: true }) })
    .locator(`[aria-colindex="${at + 1}"]`);
}

/** Scrolls the table's own side so that a column is in sight, as one does who looks for it. */
const bringIntoSight = (page: Page, at: number): Promise<void> =>
  page.evaluate((index) => {
    const strip = document.querySelector("[data-strip]")!;
    const heads = [...document.querySelectorAll<HTMLElement>("[role=columnheader]")];
    const before = heads.slice(1, index).reduce((sum, head) => sum + head.offsetWidth, 0);
    const room = strip.clientWidth - heads[0]!.offsetWidth;
    if (index > 0 && (before < strip.scrollLeft || before + heads[index]!.offsetWidth > strip.scrollLeft + room))
      strip.scrollLeft = before;
  }, at);

/** Says that the page has what it shows; pages that listen for news are never quiet on the network. */
export async function shown(page: Page): Promise<void> {
  await page.waitForLoadState("load");
  await expect(page.getByRole("status").filter({ hasText: /^(Loading|Calculating|Counting|Playing)/ })).toHaveCount(0);
  await expect(page.locator("#content :is(h1, h2, table, [role=treegrid], p)").first()).toBeVisible();
}

/** Chooses which columns the plan shows. */
export async function showColumns(page: Page, ...columns: string[]): Promise<void> {
  await page.getByText("Columns", { exact: true }).click();
  for (const column of columns) await page.getByLabel(column, { exact: true }).check();
  await page.getByText("Columns", { exact: true }).click();
}

/** Says that nothing is on its way to the server. */
export const saved = (page: Page) => expect(page.getByRole("status").filter({ hasText: "All is saved" })).toBeVisible();

/** Types into a cell of the plan over what is there, and waits until it is saved. */
export async function typeInto(page: Page, activity: string, column: string, text: string): Promise<void> {
  const cell = await planCell(page, activity, column);
  await cell.dblclick();
  await page.keyboard.press("Control+A");
  await page.keyboard.type(text);
  await page.keyboard.press("Enter");
  await saved(page);
}

/** The plan's rows as the server has them, to the letter; values of own fields have no order among activities. */
export const planText = (page: Page, project: string): Promise<string> =>
  page.evaluate(async (id) => {
    const { tables } = (await (await fetch(`/api/projects/${id}/plan`)).json()) as {
      tables: Record<string, [string, unknown][]>;
    };
    return JSON.stringify({ ...tables, ownValues: [...tables["ownValues"]!].sort(([a], [b]) => (a < b ? -1 : 1)) });
  }, project);

/** Drags from a place within one thing to a place, slowly enough for what is drawn meanwhile; gives what lets go. */
export async function drag(
  page: Page,
  from: { x: number; y: number },
  to: { x: number; y: number },
): Promise<() => Promise<void>> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 4 });
  return () => page.mouse.up();
}

/** Someone signed in over HTTP beside the browser, for what a test needs done by others. */
export interface Beside {
  readonly get: <T>(path: string) => Promise<T>;
  readonly send: <T>(method: "post" | "put" | "delete", path: string, data?: object) => Promise<T>;
}

export async function beside(page: Page, login: string): Promise<Beside> {
  const origin = new URL(page.url() === "about:blank" ? (await page.goto("/"), page.url()) : page.url()).origin;
  const context = await request.newContext({ baseURL: origin });
  let token = ((await (await context.get("/api/session")).json()) as { token: string }).token;
  const call = async <T>(method: "get" | "post" | "put" | "delete", path: string, data?: object): Promise<T> => {
    const response = await context[method](path, {
      headers: { "x-chronometra-token": token },
      ...(data === undefined ? {} : { data }),
      maxRetries: method === "get" ? 2 : 0,
    });
    if (!response.ok()) throw new Error(`${method} ${path}: ${response.status()} ${await response.text()}`);
    return (await response.json()) as T;
  };
  token = (await call<{ token: string }>("post", "/api/session", { login, password: PASSWORD })).token;
  return { get: (path) => call("get", path), send: (method, path, data) => call(method, path, data) };
}

/** Brings a plan as a project of its own, over the page as a user does it; gives its id. */
export async function bringPlan(page: Page, name: string, plan: object): Promise<string> {
  await page.goto("/import");
  await page.getByLabel("Files to bring").setInputFiles(fileOf(`${name}.json`, JSON.stringify(plan)));
  await page.getByRole("button", { name: "Store as a new project" }).click();
  await expect(page.getByRole("heading", { name, exact: true })).toBeVisible();
  return /projects\/([^/?]+)/.exec(page.url())![1]!;
}
