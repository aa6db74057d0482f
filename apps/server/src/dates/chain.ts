import type { Chain } from "@chronometra/contract";
import { decidingChain, formatDate } from "@chronometra/core";
import type { ComputedPlan } from "../plan/held/computedPlan.ts";

/** What decides where an activity lies, back to what nothing decides, with drift and people. */
export function chainTo({ bundle, computed: { schedule }, slips }: ComputedPlan, id: string): Chain {
  const people = new Map((bundle.people ?? []).map((person) => [person.id, person.name]));
  const workers = new Map<string, string[]>();
  for (const { activity, person } of bundle.assignments ?? [])
    workers.set(activity, [...(workers.get(activity) ?? []), people.get(person) ?? person]);
  return decidingChain(bundle, id).flatMap((each): Chain => {
    const i = schedule.tree.indexOf.get(each)!;
    const row = schedule.rows[i];
    if (row == null) return [];
    return [
      {
        id: each,
        name: bundle.activities[i]!.name,
        start: formatDate(row.startDay),
        finish: formatDate(row.finishDay),
        state: row.state,
        drift: slips[i]?.workingDays ?? null,
        people: [...new Set(workers.get(each))],
      },
    ];
  });
}
