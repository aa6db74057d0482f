import type { Activity, Baseline, PlanBundle } from "../plan/schema.ts";
import { planOf } from "./plans.ts";

const DAY = 480;
/** A row of a baseline of a day of work, worth what its parts are. */
export const row = (
  id: string,
  start: string,
  finish: string,
  parts: { even?: number; start?: number; finish?: number },
): Baseline["activities"][number] => ({
  id,
  start: `${start}T08:00`,
  finish: `${finish}T17:00`,
  durationMinutes: DAY,
  evenMinor: parts.even ?? 0,
  startMinor: parts.start ?? 0,
  finishMinor: parts.finish ?? 0,
  minutes: 0,
});
/** A plan approved once, up to a data date. */
export const baselined = (
  activities: Activity[],
  rows: Baseline["activities"],
  dataDate: string,
  rest: Partial<PlanBundle> = {},
): PlanBundle =>
  planOf(activities, [], {
    baselines: [{ number: 1, approvedOn: "2026-01-01", approvedBy: "x", reason: "y", activities: rows }],
    ...rest,
    project: { code: "P", name: "P", currency: "USD", start: "2026-01-05", calendar: "std", dataDate },
  });

// W. Lipke, "Schedule is Different", The Measurable News, 2003: the late-finish project; data from memory.
export const PLANNED = [105, 200, 515, 845, 1175, 1475, 1805, 2135, 2435, 2665, 2760, 2823];
export const EARNED = [95, 180, 470, 770, 1065, 1315, 1610, 1900, 2150, 2275, 2425, 2555, 2695, 2770, 2823];
export const MONTH_ENDS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31, 31, 28, 31].map(
  (days, i) => `${i < 12 ? 2026 : 2027}-${String((i % 12) + 1).padStart(2, "0")}-${days}`,
);

/** Twelve parts, each worth a month's planned value at that month's end; what is earned fills them in order. */
export function late(month: number): PlanBundle {
  const earned = EARNED[month - 1]!;
  const before = (k: number): number => (k === 0 ? 0 : PLANNED[k - 1]!);
  const activities = PLANNED.map((_value, k): Activity => {
    const worth = PLANNED[k]! - before(k);
    return {
      id: `m${k + 1}`,
      name: "",
      durationMinutes: DAY,
      credit: { rule: "units", unitsTotal: worth, unitsDone: Math.max(0, Math.min(worth, earned - before(k))) },
    };
  });
  const rows = PLANNED.map((value, k) => ({
    ...row(`m${k + 1}`, "2026-01-01", MONTH_ENDS[k]!, { finish: value - before(k) }),
    start: "2026-01-01T08:00",
  }));
  return baselined(activities, rows, MONTH_ENDS[month - 1]!);
}
