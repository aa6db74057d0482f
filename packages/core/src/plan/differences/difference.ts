import { activitiesInBoxes } from "../boxed.ts";
import type { Plan } from "../plan.ts";
import type { PlanTables } from "../rowSchemas.ts";
import { differing, sameFields, type Loose } from "./fields.ts";
import { matchOf, mergedWith, rowsByMatch, type FileTable } from "./merge.ts";
import { linkLabel, pairLabel } from "../problem.ts";
import type { PlanBundle } from "../schema.ts";
import { type RowDifference, activityDifferences, tableDifferences, projectDifference } from "./tableDifferences.ts";

/** The row of a plan that a difference speaks of, or would add. */
function rowOf(plan: Plan, { table, changes }: RowDifference): Loose | undefined {
  const last = changes.at(-1);
  if (table === "project") return plan.project as Loose;
  if (last?.type === "addRow") return last.row as Loose;
  const key =
    last !== undefined && "key" in last ? last.key : last !== undefined && "activity" in last ? last.activity : "";
  return plan[table].get(key) as Loose | undefined;
}

/** What the next row of a name would be known by. */
function firstFree(match: string, taken: ReadonlySet<string>): string {
  let n = 0;
  while (taken.has(`${match}#${n}`)) n++;
  return `${match}#${n}`;
}

/** Differences with what the plan changed since a file was made from it. */
function marked(plan: Plan, rows: readonly RowDifference[], base: PlanBundle): RowDifference[] {
  const known = new Map<FileTable, { was: Map<string, Loose>; is: Map<Loose, string>; taken: Set<string> }>();
  const baseRow = (table: FileTable, row: Loose): Loose | undefined => {
    if (!known.has(table)) {
      const is = [...rowsByMatch(table, plan[table].values())].map(([match, each]) => [each, match] as const);
      known.set(table, {
        was: rowsByMatch(table, base[table] ?? []),
        is: new Map(is),
        taken: new Set(is.map(([, match]) => match)),
      });
    }
    const { was, is, taken } = known.get(table)!;
    return was.get(is.get(row) ?? firstFree(matchOf(table, row), taken));
  };
  return rows.map((difference) => {
    const { table, what, fields } = difference;
    const row = rowOf(plan, difference);
    if (row === undefined) return difference;
    const was = table === "project" ? (base.project as Loose) : baseRow(table, row);
    if (what === "added") return { ...difference, both: was !== undefined };
    if (what === "removed") return { ...difference, both: was === undefined || !sameFields(was, row) };
    const since = new Set(differing(was ?? {}, row));
    const told = fields.map((each) => (since.has(each.field) ? { ...each, then: was?.[each.field] ?? null } : each));
    return { ...difference, fields: told, both: fields.some(({ field }) => since.has(field)) };
  });
}

/** A plan as a file made from it has it: what timeboxes decide stands on the activities themselves. */
const asFiled = (plan: Plan): Plan =>
  plan.boxed.size === 0
    ? plan
    : { ...plan, activities: new Map(activitiesInBoxes(plan).map((activity) => [activity.id, activity])) };

/**
 * What a file changed of the plan it was made from, row by row, in an order in which the rows can be taken over. What
 * only the plan changed since is no difference; what both changed is marked, and says what it was. Time, actual costs
 * and baselines are left alone: they come by reports and approvals only.
 * @param newKey keys for rows that bring none of their own
 * @param base the plan from which the file was made; `null` where nobody knows: then the file is compared with the plan
 *   as it is
 */
export function differencesTo(
  plan: Plan,
  bundle: PlanBundle,
  newKey: () => string,
  base: PlanBundle | null = null,
): RowDifference[] {
  const filed = asFiled(plan);
  if (base === null) return differencesFrom(filed, bundle, newKey);
  return marked(filed, differencesFrom(filed, mergedWith(filed, bundle, base), newKey), base);
}

function differencesFrom(plan: Plan, bundle: PlanBundle, newKey: () => string): RowDifference[] {
  const nameOf = (id: string): string =>
    plan.activities.get(id)?.name ?? bundle.activities.find((row) => row.id === id)?.name ?? id;
  const people = new Map([...(bundle.people ?? []), ...plan.people.values()].map(({ id, name }) => [id, name]));
  const activities = activityDifferences(plan, bundle.activities);
  const ofId = (
    table: "calendars" | "people",
    wanted: readonly PlanTables["calendars" | "people"][],
  ): RowDifference[] => tableDifferences(plan, table, wanted as never, ({ name }) => name, newKey);
  const calendars = ofId("calendars", bundle.calendars);
  const staff = ofId("people", bundle.people ?? []);
  const hanging = [
    ...tableDifferences(
      plan,
      "links",
      bundle.links ?? [],
      ({ from, to }) => linkLabel({ from: nameOf(from), to: nameOf(to) }),
      newKey,
    ),
    ...tableDifferences(
      plan,
      "assignments",
      bundle.assignments ?? [],
      ({ activity, person }) => pairLabel(nameOf(activity), people.get(person) ?? person),
      newKey,
    ),
    ...tableDifferences(
      plan,
      "costs",
      bundle.costs ?? [],
      ({ activity, category }) => pairLabel(nameOf(activity), category),
      newKey,
    ),
  ];
  const not = (rows: readonly RowDifference[], what: RowDifference["what"]): RowDifference[] =>
    rows.filter((row) => row.what !== what);
  const only = (rows: readonly RowDifference[], what: RowDifference["what"]): RowDifference[] =>
    rows.filter((row) => row.what === what);
  return [
    ...not(calendars, "removed"),
    ...not(staff, "removed"),
    ...projectDifference(plan, bundle.project),
    ...only(hanging, "removed"),
    ...activities.written,
    ...not(hanging, "removed"),
    ...activities.removed,
    ...only(staff, "removed"),
    ...only(calendars, "removed"),
  ];
}
