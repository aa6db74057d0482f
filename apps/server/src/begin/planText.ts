import { PLAN_TABLES, type Plan } from "@chronometra/core";

/** A plan as text, all its tables included. */
export const planText = (plan: Plan): string =>
  JSON.stringify({
    project: plan.project,
    ...Object.fromEntries(PLAN_TABLES.map((table) => [table, [...plan[table]]])),
  });

/** The plan of a text; a table that it does not know yet is empty. */
export function planOfText(text: string): Plan {
  const { project, ...tables } = JSON.parse(text) as { project: unknown } & Record<string, [string, unknown][]>;
  return {
    project,
    ...Object.fromEntries(PLAN_TABLES.map((table) => [table, new Map(tables[table] ?? [])])),
  } as unknown as Plan;
}
