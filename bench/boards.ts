import { fromBundle, type Credit, type Plan } from "@chronometra/core";
import { longest, openPlanPage } from "./page.ts";
import { limitLine, type Line } from "./measure.ts";
import { largePlan } from "./plans.ts";

const FRAME = 32;
const OPENED_MILLISECONDS = 1_500;
const BOXES = 20;

const STAGED: Credit = {
  rule: "stages",
  stages: ["Drawn", "Cut", "Joined", "Painted", "Handed over"].map((name, i) => ({ name, credit: i * 25 })),
  stage: "Cut",
};

/** A plan of short work: a quarter earns by stages, and all of it stands in timeboxes or waits for one. */
export function shortWork(activities: number): Plan {
  const bundle = largePlan({ activities, linksEach: 0, calendars: 1 });
  let staged = 0;
  const plan = fromBundle({
    ...bundle,
    activities: bundle.activities.map((each) =>
      (each.kind ?? "work") === "work" && staged++ < activities / 4 ? { ...each, credit: STAGED } : each,
    ),
  });
  const timeboxes = Array.from({ length: BOXES }, (_, i) => {
    const day = (n: number): string => new Date(Date.UTC(2027, 0, 4 + 14 * i + n)).toISOString().slice(0, 10);
    return { id: `b${i}`, name: `Fortnight ${i + 1}`, first: day(0), last: day(11) };
  });
  const works = [...plan.activities.values()].filter(({ kind = "work" }) => kind === "work");
  return {
    ...plan,
    timeboxes: new Map(timeboxes.map((box) => [box.id, box])),
    boxed: new Map(works.slice(works.length / 4).map(({ id }, i) => [id, { box: `b${i % BOXES}`, rank: i }])),
  };
}

/** The board and the page of timeboxes with much on them: opened, scrolled, and moved on by keys. */
async function linesOf(url: string, activities: number): Promise<Line[]> {
  const { page, close } = await openPlanPage(url, `bench_boards_${activities}`, shortWork(activities));
  const project = new URL(page.url()).pathname.replace(/\/plan$/, "");
  const lines: Line[] = [];
  const measure = async (what: string, place: string, first: string, keys: readonly string[]): Promise<void> => {
    await page.goto(new URL(`${project}/${place}`, page.url()).href);
    await page.locator(first).first().waitFor();
    const from = performance.now();
    await page.reload();
    await page.locator(first).first().waitFor();
    lines.push(limitLine(`${what} of ${activities}, opened again`, performance.now() - from, OPENED_MILLISECONDS));
    await page.mouse.move(600, 500);
    const wheel = async (): Promise<void> => {
      for (let i = 0; i < 80; i++) {
        await page.mouse.wheel(0, i < 40 ? 300 : -300);
        await page.waitForTimeout(FRAME);
      }
    };
    lines.push(await longest(page, `${what} of ${activities}: down and up by the wheel`, wheel));
    const press = async (): Promise<void> => {
      await page.locator(first).first().focus();
      for (const key of keys) {
        await page.keyboard.press(key);
        await page.waitForTimeout(700);
      }
    };
    lines.push(await longest(page, `${what} of ${activities}: along by keys`, press));
  };
  try {
    await measure("A board", "board", '[role="radio"]:not([tabindex="-1"])', [
      "ArrowRight",
      "Tab",
      "ArrowRight",
      "Tab",
    ]);
    await measure("Timeboxes", "timeboxes", "input[data-line]", [
      "ArrowDown",
      "ArrowDown",
      "Alt+ArrowDown",
      "Alt+ArrowUp",
    ]);
    return lines;
  } finally {
    await close();
  }
}

/** Boards of 500 and of 2 000 activities. */
export const boardsLines = async (url: string): Promise<Line[]> => [
  ...(await linesOf(url, 500)),
  ...(await linesOf(url, 2_000)),
];
