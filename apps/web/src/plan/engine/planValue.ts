import type { PlanView } from "@chronometra/contract";
import { PLAN_TABLES, type Plan } from "@chronometra/core";

/** A plan as the server gives it, as a value; time and costs that happened stay on the server. */
export function planValue(view: PlanView): Plan {
  const tables = view.tables as Partial<Record<string, [string, unknown][]>>;
  return {
    project: view.project,
    ...Object.fromEntries(PLAN_TABLES.map((table) => [table, new Map(tables[table] ?? [])])),
  } as unknown as Plan;
}
