import type { PlanView } from "@chronometra/contract";
import { freezePlan, fromBundle, PLAN_TABLES, type Activity, type PlanBundle } from "@chronometra/core";

const DAY: [string, string][] = [
  ["08:00", "12:00"],
  ["13:00", "17:00"],
];

/** Dig and pour below works, a milestone after them; approved as first planned, Monday 2 March 2026. */
export function slipway(
  change: (activities: Activity[]) => Activity[] = (same) => same,
  dataDate?: string,
): PlanBundle {
  const bare: PlanBundle = {
    format: "chronometra-plan",
    version: 1,
    project: { code: "S", name: "Slipway", currency: "EUR", start: "2026-03-02", calendar: "std" },
    calendars: [{ id: "std", name: "Standard", week: { mon: DAY, tue: DAY, wed: DAY, thu: DAY, fri: DAY } }],
    activities: [
      { id: "open", name: "Open", kind: "milestone", deadline: "2026-03-13" },
      { id: "works", name: "Works", kind: "summary" },
      { id: "pour", name: "Pour", parent: "works", durationMinutes: 1440 },
      { id: "dig", name: "Dig", parent: "works", durationMinutes: 2400 },
      { id: "paint", name: "Paint", parent: "works", durationMinutes: 480 },
      { id: "later", name: "Later", parent: "works", durationMinutes: 480, parked: true },
    ],
    links: [
      { from: "dig", to: "pour" },
      { from: "pour", to: "open" },
    ],
  };
  const baselines = [{ number: 1, approvedOn: "2026-03-01", approvedBy: "M", reason: "go", ...freezePlan(bare) }];
  return {
    ...bare,
    project: { ...bare.project, ...(dataDate === undefined ? {} : { dataDate }) },
    baselines,
    activities: change(bare.activities),
  };
}

/** A bundle as the server gives it to the plan page. */
export function viewOf(bundle: PlanBundle, revision = 1): PlanView {
  const plan = fromBundle(bundle);
  const tables = Object.fromEntries(
    PLAN_TABLES.map((table) => [table, [...plan[table]]]),
  ) as unknown as PlanView["tables"];
  return {
    id: "p",
    revision,
    manager: { id: "m", name: "M" },
    programme: null,
    mayEdit: true,
    project: plan.project,
    tables,
  };
}
