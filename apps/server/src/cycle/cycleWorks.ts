import type { Closing } from "@chronometra/contract";
import { formatDate } from "@chronometra/core";
import type { HeldPlan } from "../plan/held/heldPlan.ts";

/** What is not finished in a plan, and whether it may be parked. */
function leftIn({ plan, whole: { bundle, computed } }: HeldPlan): Closing["activities"] {
  const { rows } = computed.schedule;
  const posted = new Map<string, number>();
  for (const { activity, minutes, state } of plan.timeEntries.values())
    if (state === "posted") posted.set(activity, (posted.get(activity) ?? 0) + minutes);
  const spent = new Set([...plan.actualCosts.values()].map(({ activity }) => activity));
  return bundle.activities.flatMap(({ id, name, kind, percent, actualStart }, i) => {
    const row = rows[i];
    if (row == null || kind === "summary" || kind === "levelOfEffort" || row.state === "complete") return [];
    return [
      {
        id,
        name,
        state: row.state,
        percent: percent ?? null,
        finish: formatDate(row.finishDay),
        postedMinutes: posted.get(id) ?? 0,
        mayPark: actualStart === undefined && (percent ?? 0) === 0 && !posted.has(id) && !spent.has(id),
      },
    ];
  });
}

/** What is worked out over a plan when its project is closed. */
export const CYCLE_WORKS = { leftIn };
