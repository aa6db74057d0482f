import { currencyDigits } from "../budget/currencyDigits.ts";
import type { PlanBundle, ProjectHead } from "../plan/schema.ts";

const DAY: [string, string][] = [
  ["08:00", "12:00"],
  ["13:00", "17:00"],
];
const USUAL_DIGITS = 2;

/** A plan with nothing in it but a week of five days. */
export function emptyPlan(head: Pick<ProjectHead, "code" | "name" | "start" | "currency">): PlanBundle {
  const digits = currencyDigits(head.currency) ?? USUAL_DIGITS;
  return {
    format: "chronometra-plan",
    version: 1,
    project: { ...head, ...(digits === USUAL_DIGITS ? {} : { minorDigits: digits }), calendar: "standard" },
    calendars: [{ id: "standard", name: "Standard week", week: { mon: DAY, tue: DAY, wed: DAY, thu: DAY, fri: DAY } }],
    activities: [],
  };
}
