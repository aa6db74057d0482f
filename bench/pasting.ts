import type { Page } from "@playwright/test";
import { fromBundle } from "@chronometra/core";
import { limitLine, type Line } from "./measure.ts";
import { longest, openPlanPage } from "./page.ts";
import { largePlan } from "./plans.ts";

const ROWS = 2000;
const LINK_EVERY = 10;
const SHOWN_MILLISECONDS = 1000;
const STORED_MILLISECONDS = 3000;

/** Columns of the pasted block in their order; those that are computed are passed over. */
const LAYOUT = JSON.stringify({
  order: ["name", "length", "after", "done", "left", "finishes", "drift", "deadline"],
  hidden: [],
  widths: {},
});

const cell = (head: string, i: number): string =>
  head === "Activity"
    ? `Pile ${i}`
    : head === "Duration"
      ? `${1 + (i % 5)}d`
      : head === "Predecessors" && i % LINK_EVERY !== 0
        ? `Pile ${i - 1}`
        : "";

/** Two thousand rows of eight columns with 1 800 links among them, pasted from a spreadsheet into a plan. */
export async function pastingLines(url: string): Promise<Line[]> {
  const { page, close } = await openPlanPage(
    url,
    "bench_pasting",
    fromBundle(largePlan({ activities: 1, linksEach: 0, calendars: 1, progress: 0 })),
    { "plan.columns": LAYOUT },
  );
  try {
    let lines: Line[] = [];
    const task = await longest(
      page,
      `Pasting ${ROWS} rows x 8 columns with ${ROWS - ROWS / LINK_EVERY} links`,
      async () => {
        lines = await paste(page);
      },
    );
    return [...lines, task];
  } finally {
    await close();
  }
}

async function paste(page: Page): Promise<Line[]> {
  const heads = (await page.getByRole("columnheader").allTextContents()).slice(0, 8);
  const text = Array.from({ length: ROWS }, (_, i) => heads.map((head) => cell(head, i)).join("\t")).join("\n");
  await page.evaluate((each) => navigator.clipboard.writeText(each), text);
  await page.getByRole("rowheader").first().click();
  const from = Date.now();
  await page.keyboard.press("Control+v");
  // Looked for as lightly as can be: reading all of the page's text again and again would be most of what is measured.
  await page.waitForFunction(
    (rows) => document.querySelector("[role=treegrid]")?.getAttribute("aria-rowcount") === rows,
    String(ROWS + 1),
    { timeout: 120_000 },
  );
  const shown = Date.now() - from;
  await page.waitForFunction(
    () => [...document.querySelectorAll("span[role=status]")].some(({ textContent }) => textContent === "All is saved"),
    undefined,
    { timeout: 120_000 },
  );
  return [
    limitLine(`${ROWS} rows pasted: shown`, shown, SHOWN_MILLISECONDS),
    limitLine(`${ROWS} rows pasted: stored`, Date.now() - from, STORED_MILLISECONDS),
  ];
}
