import { fromBundle, type PlanBundle } from "@chronometra/core";
import { limitLine, type Line } from "./measure.ts";
import { longest, openPlanPage } from "./page.ts";
import { largePlan } from "./plans.ts";

const ENTRIES = 2_000;
const DAYS = 28;
const FRAME = 32;
const OPENED_MILLISECONDS = 1_500;

/** Milestones and deadlines, as many on each day of February 2027. */
function datedPlan(): PlanBundle {
  const plan = largePlan({ activities: 200, linksEach: 2, calendars: 3 });
  const dated = Array.from({ length: ENTRIES / 2 }, (_, i) => {
    const date = `2027-02-${String((i % DAYS) + 1).padStart(2, "0")}`;
    return {
      ...{ id: `m${i}`, name: `Section ${i} handed over to the harbour office`, kind: "milestone" as const },
      ...{ deadline: date, wish: { type: "startOn" as const, date, reason: "agreed" } },
    };
  });
  return { ...plan, activities: [...plan.activities, ...dated] };
}

/** The calendar page with two thousand things in one month: opened, scrolled, and a milestone carried by keys. */
export async function calendarLines(url: string): Promise<Line[]> {
  const { page, close } = await openPlanPage(url, "bench_calendar", fromBundle(datedPlan()));
  try {
    const at = (view: string): string => new URL(`/calendar?date=2027-02-10&view=${view}`, page.url()).href;
    const opened = async (view: string): Promise<number> => {
      await page.goto(at(view));
      await page.getByRole("group", { name: "10 Feb 2027" }).waitFor();
      const from = performance.now();
      await page.reload();
      await page
        .getByRole("link", { name: /^Milestone .*10 Feb 2027/ })
        .first()
        .waitFor();
      return performance.now() - from;
    };
    const wheel = async (steps: number, by: number): Promise<void> => {
      for (let i = 0; i < steps; i++) {
        await page.mouse.wheel(0, by);
        await page.waitForTimeout(FRAME);
      }
    };
    const lines: Line[] = [];
    for (const view of ["month", "week"]) {
      lines.push(
        limitLine(`Calendar of ${ENTRIES} entries, a ${view}, opened again`, await opened(view), OPENED_MILLISECONDS),
      );
      await page.mouse.move(700, 500);
      lines.push(
        await longest(page, `Calendar of ${ENTRIES} entries, a ${view}: down and up by the wheel`, async () => {
          await wheel(40, 300);
          await wheel(40, -300);
        }),
        await longest(
          page,
          `Calendar of ${ENTRIES} entries, a ${view}: a milestone carried by keys, and left`,
          async () => {
            await page
              .getByRole("link", { name: /^Milestone .*10 Feb 2027/ })
              .first()
              .focus();
            await page.keyboard.press("Space");
            for (let i = 0; i < 8; i++) {
              await page.keyboard.press(i < 4 ? "ArrowRight" : "ArrowLeft");
              await page.waitForTimeout(100);
            }
            await page.keyboard.press("Escape");
          },
        ),
      );
    }
    return lines;
  } finally {
    await close();
  }
}
