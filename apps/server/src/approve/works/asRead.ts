import type { OwnPlanActivity } from "@chronometra/contract";
import type { HeldPlan } from "../../plan/held/heldPlan.ts";
import { COLUMNS, reader, rowOf } from "../../writers/activities/activityRow.ts";

/** A plan to be read, activity by activity: who does what when. */
export function asRead({ plan, whole }: HeldPlan): OwnPlanActivity[] {
  const read = reader(whole, plan);
  return whole.bundle.activities.map((activity, i) => {
    const { id, cells, people } = rowOf(read, activity, i);
    const cell = <T>(name: (typeof COLUMNS)[number]): T => cells[COLUMNS.indexOf(name)] as T;
    return {
      ...{ id, parent: activity.parent ?? null, name: activity.name, own: false },
      ...{ kind: cell<OwnPlanActivity["kind"]>("kind"), state: cell<OwnPlanActivity["state"]>("state") },
      ...{ start: cell<string | null>("start"), finish: cell<string | null>("finish") },
      ...{ baselineStart: cell<string | null>("baseline_start") },
      ...{ baselineFinish: cell<string | null>("baseline_finish"), drift: cell<number | null>("drift") },
      ...{ percent: cell<number | null>("percent"), deadline: cell<string | null>("deadline") },
      ...{ deadlineState: cell<string | null>("deadline_state"), margin: cell<number | null>("margin") },
      ...{ blockedBy: cell<string | null>("blocked_by"), people: people.map(([, name]) => name) },
    };
  });
}
