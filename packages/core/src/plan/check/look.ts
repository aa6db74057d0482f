import { succession } from "../derived/succession.ts";
import { handOnTree } from "../planTree.ts";
import type { Activity, PlanBundle } from "../schema.ts";
import type { BundleTable } from "../tables.ts";

type Row<T extends BundleTable> = NonNullable<PlanBundle[T]>[number];

/** What of a plan is looked at when it is checked: all of it, or what may have come to be wrong. */
export interface Look {
  readonly plan: PlanBundle;
  /** Rows of a table that are not known to refer to what is there. */
  rows<T extends BundleTable>(table: T): readonly Row<T>[];
  /** Rows of a table that are not known to speak of something else than a summary. */
  carried<T extends BundleTable>(table: T): readonly Row<T>[];
  /** Activities whose own fields are not known to fit each other and the data date. */
  readonly dates: readonly Activity[];
  /** Whether any activity lies, or may lie, below another than it did. */
  readonly isTreeOther: boolean;
}

/** Tables whose rows are named by others. */
const NAMED = ["calendars", "people", "activities"] as const;

/**
 * What is looked at of a plan.
 * @param before a plan that it came of and that holds; all is looked at where there is none, or where what others name
 * is gone
 */
export function lookAt(plan: PlanBundle, before: PlanBundle | undefined): Look {
  const whole = <T extends BundleTable>(table: T): readonly Row<T>[] => plan[table] ?? [];
  const isGone = (table: BundleTable): boolean => succession(before![table] ?? [], plan[table] ?? []).gone.length > 0;
  if (before === undefined || NAMED.some((table) => before[table] !== plan[table] && isGone(table)))
    return { plan, rows: whole, carried: whole, dates: plan.activities, isTreeOther: true };
  handOnTree(before.activities, plan.activities);
  const fresh = <T extends BundleTable>(table: T): readonly Row<T>[] => {
    const [was, now] = [before[table] ?? [], plan[table] ?? []];
    return was === now ? [] : succession(was, now).changed.map((at) => now[at] as Row<T>);
  };
  const { from, changed } = succession(before.activities, plan.activities);
  const former = (at: number): Activity | undefined => before.activities[from[at]!];
  const isKindOther = changed.some((at) => former(at)?.kind !== plan.activities[at]!.kind);
  return {
    plan,
    rows: fresh,
    carried: isKindOther ? whole : fresh,
    dates: plan.project.dataDate === before.project.dataDate ? fresh("activities") : plan.activities,
    isTreeOther: isKindOther || changed.some((at) => isElsewhere(former(at), plan.activities[at]!)),
  };
}

const isElsewhere = (was: Activity | undefined, now: Activity): boolean => was?.parent !== now.parent;
