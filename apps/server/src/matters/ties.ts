import { TIE_PLACES, type Tie, type TiePlace } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";

/** What of one project there is to be tied to, by kind: `id` and `name`. Each is given the project's id. */
const PLACES: Readonly<Record<Exclude<TiePlace, "deliverable">, string>> = {
  activity:
    "select row_key as id, json_value(doc, '$.name') as name from plan_row where project_id = ? and table_name = 'activities'",
  gate: `select s.id, s.name from project_life l join life_cycle c on c.id = l.life_cycle_id,
      json_table(c.content, '$.stages[*]' columns (id varchar(80) path '$.id', name varchar(200) path '$.gate')) s where l.project_id = ?`,
  change: "select id, name from what_if where project_id = ? and request is not null",
  report: "select number as id, concat('Report of period ', number) as name from issued_report where subject_id = ?",
};

interface Row {
  readonly id: string | number;
  readonly name: string;
}

/** Deliverables lie by their ids in what is said of a project. */
async function deliverablesOf(manager: DataSource | EntityManager, projectId: string): Promise<Row[]> {
  const [row] = (await manager.query("select content from project_charter where project_id = ?", [projectId])) as {
    content: string;
  }[];
  const all = row === undefined ? {} : (JSON.parse(row.content) as { deliverables?: Record<string, { name: string }> });
  return Object.entries(all.deliverables ?? {}).map(([id, { name }]) => ({ id, name }));
}

/** All that a matter of a project can be tied to, activities first. */
export async function tiePlaces(
  manager: DataSource | EntityManager,
  projectId: string,
  places: readonly TiePlace[] = TIE_PLACES,
): Promise<(Tie & { name: string })[]> {
  const found: (Tie & { name: string })[] = [];
  for (const about of places) {
    const rows =
      about === "deliverable"
        ? await deliverablesOf(manager, projectId)
        : ((await manager.query(PLACES[about], [projectId])) as Row[]);
    const seen = new Set<string>();
    for (const { id, name } of rows) {
      if (seen.has(String(id))) continue;
      seen.add(String(id));
      found.push({ about, id: String(id), name });
    }
  }
  return found;
}

/** A tie as one text, within a project. */
export const tieKey = ({ about, id }: Tie): string => `${about} ${id}`;

/** What ties of some projects are called, by project and tie; what is not there any more has no name. */
export async function tieNames(
  manager: DataSource | EntityManager,
  ties: readonly (Tie & { readonly project: string })[],
): Promise<ReadonlyMap<string, string>> {
  const names = new Map<string, string>();
  const activities = ties.filter(({ about }) => about === "activity");
  if (activities.length > 0) {
    const rows = (await manager.query(
      "select project_id as project, row_key as id, json_value(doc, '$.name') as name from plan_row where table_name = 'activities' and project_id in (?) and row_key in (?)",
      [[...new Set(activities.map(({ project }) => project))], [...new Set(activities.map(({ id }) => id))]],
    )) as { project: string; id: string; name: string }[];
    for (const { project, id, name } of rows) names.set(`${project} activity ${id}`, name);
  }
  const others = new Map<string, Set<TiePlace>>();
  for (const { project, about } of ties)
    if (about !== "activity") others.set(project, (others.get(project) ?? new Set()).add(about));
  for (const [project, abouts] of others)
    for (const each of await tiePlaces(manager, project, [...abouts]))
      names.set(`${project} ${tieKey(each)}`, each.name);
  return names;
}
