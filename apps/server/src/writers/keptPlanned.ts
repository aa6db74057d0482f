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

const sameIds = (a: ReadonlySet<string>, b: ReadonlySet<string>): boolean =>
  a === b || (a.size === b.size && [...a].every((id) => b.has(id)));

/** Whether what is planned cannot have changed: the same baseline, parked work and calendars, measured as before. */
function restsOnSame({ plan: was, whole: { computed: before } }: HeldPlan, { plan, whole: { computed } }: HeldPlan) {
  return (
    before.baseline?.content.activities === computed.baseline?.content.activities &&
    (before.performance === null) === (computed.performance === null) &&
    was.calendars === plan.calendars &&
    was.project.calendar === plan.project.calendar &&
    sameIds(before.schedule.tree.parked, computed.schedule.tree.parked)
  );
}

const same = (was: readonly PlannedMonth[], now: readonly PlannedMonth[]): boolean =>
  was === now ||
  (was.length === now.length && was.every(({ from, minor }, i) => from === now[i]!.from && minor === now[i]!.minor));

/** Planned value by calendar month: the increments, which add up over projects. */
export const keptPlanned: Writer = {
  tables: ["planned_month"],
  rows: ({ before, after }) => {
    if (before !== null && restsOnSame(before, after)) return [];
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
