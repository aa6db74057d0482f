import type { WeekView } from "@chronometra/contract";
import type { HeldPlan } from "../../plan/held/heldPlan.ts";
import { broughtTime } from "./broughtTime.ts";
import type { ReportEntity } from "../kept/reportEntity.ts";

type Row = WeekView["rows"][number];

interface Asked {
  readonly project: string;
  readonly person: string;
  readonly dates: readonly string[];
  /** The person's reports of these days in this project. */
  readonly reports: readonly ReportEntity[];
}

/** What is booked in a week of one plan, and what can be. */
export function weekRows(
  { plan, whole: { bundle, computed } }: HeldPlan,
  { project, person, dates, reports }: Asked,
): Row[] {
  const { schedule } = computed;
  const own = new Set([...plan.assignments.values()].flatMap((row) => (row.person === person ? [row.activity] : [])));
  const brought = broughtTime(plan, person).filter(({ date }) => dates.includes(date));
  return bundle.activities.flatMap(({ id, name }, i): Row[] => {
    const said = reports.filter((report) => report.activityId === id && report.minutes !== null);
    const entries = brought.filter(({ activity }) => activity === id);
    const dated = schedule.rows[i] ?? null;
    const open = own.has(id) && dated !== null && dated.state !== "complete";
    if (!open && said.length === 0 && entries.length === 0) return [];
    const cells = dates.map((date) => {
      const of = said.filter((report) => report.date === date);
      const sum = (state: ReportEntity["state"]): number =>
        of.filter((report) => report.state === state).reduce((total, { minutes }) => total + minutes!, 0);
      const came = entries.filter((entry) => entry.date === date);
      return {
        posted: sum("posted") + came.reduce((total, { minutes }) => total + minutes, 0),
        waiting: sum("submitted"),
        returned: sum("returned"),
        notes: [...of.map(({ note }) => note), ...came.map(({ note }) => note ?? "")].filter((note) => note !== ""),
      };
    });
    return [{ project, projectName: plan.project.name, activity: id, name, open, cells }];
  });
}
