import { plannedByMonth, plannedRows, type PlannedMonth } from "@chronometra/core";
import type { Writer } from "../plan/held/writer.ts";
import type { HeldPlan } from "../plan/held/heldPlan.ts";

const NONE: readonly PlannedMonth[] = [];

/** What a project that is measured plans to earn month by month. */
function monthsOf({ whole: { bundle, computed } }: HeldPlan): readonly PlannedMonth[] {
  const { baseline, performance, schedule } = computed;
  if (baseline == null || performance === null) return NONE;
  return plannedByMonth(plannedRows(bundle, baseline.content, schedule.tree.parked));
}

const same = (was: readonly PlannedMonth[], now: readonly PlannedMonth[]): boolean =>
  was === now ||
  (was.length === now.length && was.every(({ from, minor }, i) => from === now[i]!.from && minor === now[i]!.minor));

/** Planned value by calendar month: the increments, which add up over projects. */
export const keptPlanned: Writer = {
  tables: ["planned_month"],
  rows: ({ before, after }) => {
    const [was, now] = [before === null ? NONE : monthsOf(before), monthsOf(after)];
    const { currency, minorDigits = 2 } = after.plan.project;
    if (same(was, now) && before?.plan.project.currency === currency) return [];
    return [
      {
        table: "planned_month",
        key: ["begins"],
        columns: ["amount", "currency", "digits"],
        gone: { by: [], keys: was.length > 0 ? [[]] : [] },
        rows: now.map(({ from, minor }) => [from, minor, currency, minorDigits]),
      },
    ];
  },
};
