import { execFileSync } from "node:child_process";
import { fileURLToPath } from "node:url";
import { chromium, type Page } from "@playwright/test";
import type { Plan } from "@chronometra/core";
import { createProject } from "../apps/server/dist/begin/createProject.js";
import { inTransaction } from "../apps/server/dist/shared/database.js";
import type { Line } from "./measure.ts";
import { openBenchServer } from "./server.ts";

const LONG_TASK_MILLISECONDS = 50;

/** Notes tasks that hold up the page; the browser tells those of 50 ms and more. */
const WATCH = `window.long = []; new PerformanceObserver((list) => { for (const entry of list.getEntries()) window.long.push(Math.round(entry.duration)); }).observe({ type: "longtask" });`;

export async function longest(page: Page, what: string, act: () => Promise<void>): Promise<Line> {
  await page.waitForTimeout(1000);
  await page.evaluate("window.long.length = 0");
  await act();
  await page.waitForTimeout(500);
  const tasks = (await page.evaluate("window.long")) as number[];
  const most = Math.max(0, ...tasks);
  return {
    what,
    measured: tasks.length === 0 ? "none" : `${tasks.length}, the longest ${most} ms`,
    yardstick: `no task over ${LONG_TASK_MILLISECONDS} ms`,
    value: most,
    limit: LONG_TASK_MILLISECONDS,
  };
}

/** The plan page of a plan, in Debian's Chromium, with someone signed in; and what closes all of it. */
export async function openPlanPage(
  url: string,
  name: string,
  plan: Plan,
  preferences: Readonly<Record<string, string>> = {},
): Promise<{ page: Page; close: () => Promise<void> }> {
  const root = fileURLToPath(new URL("..", import.meta.url));
  execFileSync("npm", ["run", "--silent", "build", "--workspace", "@chronometra/web"], { cwd: root, stdio: "ignore" });
  const { database, me, address, headers, login, password, close } = await openBenchServer(
    url,
    name,
    `${root}apps/web/dist`,
  );
  const project = await inTransaction(database, (tx) =>
    createProject(tx, me, { plan, programmeId: null, managerId: me.id, label: "bench" }),
  );
  for (const [key, value] of Object.entries(preferences))
    await fetch(`${address}/api/preferences/${key}`, { method: "PUT", headers, body: JSON.stringify({ value }) });
  const browser = await chromium.launch({
    executablePath: "/usr/bin/chromium-headless-shell",
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
    ],
  });
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    permissions: ["clipboard-read", "clipboard-write"],
  });
  const page = await context.newPage();
  await page.addInitScript(WATCH);
  await page.goto(address);
  await page.getByLabel("Name").fill(login);
  await page.getByLabel("Password").fill(password);
  await page.getByRole("button", { name: "Sign in" }).click();
  await page.getByRole("button", { name: "Sign out" }).waitFor();
  await page.goto(`${address}/projects/${project.id}/plan`);
  await page.getByRole("rowheader").first().waitFor({ timeout: 60_000 });
  return { page, close: async () => (await browser.close(), close()) };
}
