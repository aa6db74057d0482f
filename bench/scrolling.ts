import { freezePlan, fromBundle } from "@chronometra/core";
import { limitLine, type Line } from "./measure.ts";
import { longest, openPlanPage } from "./page.ts";
import { largePlan } from "./plans.ts";

const ROWS = 10_000;
const FRAME = 32;
const OPENED_MILLISECONDS = 1_500;

/**
 * Scrolling, zooming and walking through a plan of ten thousand rows, table and chart together, in Debian's Chromium.
 */
export async function scrollingLines(url: string): Promise<Line[]> {
  const bare = largePlan({ activities: ROWS, linksEach: 2, calendars: 5, progress: 0.3 });
  const bundle = {
    ...bare,
    baselines: [{ number: 1, approvedOn: "2026-01-15", approvedBy: "x", reason: "y", ...freezePlan(bare) }],
  };
  const { page, close } = await openPlanPage(url, "bench_scrolling", fromBundle(bundle));
  try {
    const from = performance.now();
    await page.reload();
    await page.getByRole("gridcell").first().waitFor();
    await page.getByText("All is saved").waitFor();
    const opened = performance.now() - from;
    await page.mouse.move(900, 500);
    const wheel = async (steps: number, x: number, y: number): Promise<void> => {
      for (let i = 0; i < steps; i++) {
        await page.mouse.wheel(x, y);
        await page.waitForTimeout(FRAME);
      }
    };
    const lines = [
      limitLine(`Plan page of ${ROWS} rows opened again, ready to type`, opened, OPENED_MILLISECONDS),
      await longest(page, `Scrolling grid and chart, ${ROWS} rows: down and up by the wheel`, async () => {
        await wheel(60, 0, 300);
        await wheel(60, 0, -300);
      }),
      await longest(
        page,
        `Scrolling grid and chart, ${ROWS} rows: zooming by the wheel, then along the time`,
        async () => {
          await page.keyboard.down("Control");
          await wheel(20, 0, -120);
          await page.keyboard.up("Control");
          await wheel(30, 200, 0);
        },
      ),
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
    await close();
  }
}
