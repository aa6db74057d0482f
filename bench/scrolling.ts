import { execFileSync } from "node:child_process";
import { fileURLToPath } from "node:url";
import { chromium, type Page } from "@playwright/test";
import { freezePlan } from "@chronometra/core";
import { createProject } from "../apps/server/src/portfolio/createProject.ts";
import { inTransaction } from "../apps/server/src/shared/database.ts";
import type { Line } from "./measure.ts";
import { largePlan } from "./plans.ts";
import { openBenchServer } from "./server.ts";

const ROWS = 10_000;
const LIMIT_MILLISECONDS = 50;
const FRAME = 32;

/** Notes tasks that hold up the page; the browser tells those of 50 ms and more. */
const WATCH = `window.long = []; new PerformanceObserver((list) => { for (const entry of list.getEntries()) window.long.push(Math.round(entry.duration)); }).observe({ type: "longtask" });`;

async function longest(page: Page, what: string, act: () => Promise<void>): Promise<Line> {
  await page.waitForTimeout(1000);
  await page.evaluate("window.long.length = 0");
  await act();
  await page.waitForTimeout(500);
  const tasks = (await page.evaluate("window.long")) as number[];
  const most = Math.max(0, ...tasks);
  return { what, measured: tasks.length === 0 ? "none" : `${tasks.length}, the longest ${most} ms`, yardstick: `no task over ${LIMIT_MILLISECONDS} ms`, value: most, limit: LIMIT_MILLISECONDS };
}

/** Scrolling, zooming and walking through a plan of ten thousand rows, table and chart together, in Debian's Chromium. */
export async function scrollingLines(url: string): Promise<Line[]> {
  const root = fileURLToPath(new URL("..", import.meta.url));
  execFileSync("npm", ["run", "--silent", "build", "--workspace", "@chronometra/web"], { cwd: root, stdio: "ignore" });
  const { database, me, address, login, password, close } = await openBenchServer(url, "bench_scrolling", `${root}apps/web/dist`);
  const bare = largePlan({ activities: ROWS, linksEach: 2, calendars: 5, progress: 0.3 });
  const bundle = { ...bare, baselines: [{ number: 1, approvedOn: "2026-01-15", approvedBy: "x", reason: "y", ...freezePlan(bare) }] };
  const project = await inTransaction(database, (tx) => createProject(tx, me, { bundle, programmeId: null, managerId: me.id, label: "bench" }));
  const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync"] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript(WATCH);
    await page.goto(address);
    await page.getByLabel("Name").fill(login);
    await page.getByLabel("Password").fill(password);
    await page.getByRole("button", { name: "Sign in" }).click();
    await page.getByRole("button", { name: "Sign out" }).waitFor();
    await page.goto(`${address}/projects/${project.id}/plan`);
    await page.getByRole("rowheader").first().waitFor({ timeout: 60_000 });
    await page.mouse.move(900, 500);
    const wheel = async (steps: number, x: number, y: number): Promise<void> => {
      for (let i = 0; i < steps; i++) {
        await page.mouse.wheel(x, y);
        await page.waitForTimeout(FRAME);
      }
    };
    const lines = [
      await longest(page, `Scrolling grid and chart, ${ROWS} rows: down and up by the wheel`, async () => {
        await wheel(60, 0, 300);
        await wheel(60, 0, -300);
      }),
      await longest(page, `Scrolling grid and chart, ${ROWS} rows: zooming by the wheel, then along the time`, async () => {
        await page.keyboard.down("Control");
        await wheel(20, 0, -120);
        await page.keyboard.up("Control");
        await wheel(30, 200, 0);
      }),
      await longest(page, `Scrolling grid and chart, ${ROWS} rows: by keyboard, page by page`, async () => {
        await page.getByRole("rowheader").first().click();
        for (let i = 0; i < 40; i++) {
          await page.keyboard.press("PageDown");
          await page.waitForTimeout(FRAME);
        }
      }),
      await longest(page, `Typing into a plan of ${ROWS} rows: a length, shown and saved`, async () => {
        await page.keyboard.press("Control+Home");
        await page.keyboard.press("ArrowDown");
        await page.keyboard.press("ArrowRight");
        await page.keyboard.type("9d");
        await page.keyboard.press("Enter");
        await page.getByText("Saving …").waitFor();
        await page.getByText("All is saved").waitFor();
      }),
    ];
    return lines;
  } finally {
    await browser.close();
    await close();
  }
}
