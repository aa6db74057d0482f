import type { Me, OtherProject, SharedRows, SharedUse } from "@chronometra/contract";
import type { Calendar, Category, Change, Person, Plan, Team } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { storeChanges } from "../plan/changeService.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { effectOn } from "../plan/prepare.ts";
import { writeProjects } from "../plan/writeProjects.ts";
import { findSeen, mayEdit, maySee } from "../project/reach.ts";
import { ProjectEntity } from "../project/projectEntity.ts";

type Shared = "calendars" | "people";
type Row = Calendar | Person | Team | Category;

/** The change that makes a row of a plan say what it is to say; nothing where it does. */
export function rowChange(plan: Plan, table: Shared | "teams" | "categories", row: Row, key = row.id): Change[] {
  const was = plan[table].get(key) as Record<string, unknown> | undefined;
  if (was === undefined) return [{ type: "addRow", table, key, row } as Change];
  const will = row as unknown as Record<string, unknown>;
  const fields = [...new Set([...Object.keys(was), ...Object.keys(will)])].filter(
    (field) => JSON.stringify(was[field]) !== JSON.stringify(will[field]),
  );
  if (fields.length === 0) return [];
  return [
    {
      type: "editRow",
      table,
      key,
      set: Object.fromEntries(fields.map((field) => [field, will[field] ?? null])),
    } as Change,
  ];
}

const changesFor = (plan: Plan, rows: SharedRows["rows"]): Change[] =>
  rows.flatMap(({ table, row, ifMissing }) =>
    ifMissing === true && plan[table].has(row.id) ? [] : rowChange(plan, table, row),
  );

/**
 * Where else that someone sees the calendars and people of a project are used: rows of one id are taken to be the same
 * thing.
 */
export async function sharedUse(database: DataSource, me: Me, project: ProjectEntity): Promise<SharedUse> {
  const plan = await loadPlan(database.manager, project);
  const rows = (await database.query(
    "select project_id, table_name, row_key, doc from plan_row where table_name in ('calendars', 'people') and project_id <> ? and project_id not in (select project_id from project_closing)",
    [project.id],
  )) as { project_id: string; table_name: Shared; row_key: string; doc: string }[];
  const projects = new Map(
    (
      await database
        .getRepository(ProjectEntity)
        .find({ select: { id: true, managerId: true, programmeId: true, code: true, head: true } })
    )
      .filter((other) => maySee(me, other))
      .map((other) => [other.id, other]),
  );
  const use: { calendars: Record<string, OtherProject[]>; people: Record<string, OtherProject[]> } = {
    calendars: {},
    people: {},
  };
  for (const { project_id, table_name, row_key, doc } of rows) {
    const own = plan[table_name].get(row_key);
    const other = projects.get(project_id);
    if (own === undefined || other === undefined) continue;
    (use[table_name][row_key] ??= []).push({
      id: other.id,
      code: other.code,
      name: other.head.name,
      same: JSON.stringify(own) === doc,
      mayEdit: mayEdit(me, other),
    });
  }
  for (const list of [...Object.values(use.calendars), ...Object.values(use.people)])
    list.sort((a, b) => a.code.localeCompare(b.code));
  return use;
}

/** What writing rows would move, project by project; stores nothing. */
export async function sharedEffect(database: DataSource, me: Me, { projects, rows }: SharedRows) {
  const effects = [];
  for (const id of [...new Set(projects)]) {
    const project = await findSeen(database, me, id);
    const plan = await loadPlan(database.manager, project);
    const effect = await effectOn({ id, plan }, changesFor(plan, rows));
    effects.push({ project: id, code: project.code, name: project.head.name, effect });
  }
  return effects;
}

function labelOf(rows: SharedRows["rows"]): string {
  const meant = rows.filter(({ ifMissing }) => ifMissing !== true);
  return meant
    .map(({ table, row }) => `${table === "calendars" ? "Calendar" : "Person"} ${row.name}`)
    .join(", ")
    .slice(0, 200);
}

/** Writes rows in several projects, all or nothing; gives the revisions, for undoing. */
export async function storeShared(
  database: DataSource,
  me: Me,
  { projects, rows }: SharedRows,
): Promise<{ project: string; revision: number }[]> {
  const label = labelOf(rows);
  return writeProjects(
    database,
    me,
    projects,
    async (writing) => {
      const stored: { project: string; revision: number }[] = [];
      for (const id of new Set(projects)) {
        const project = await writing.editable(id);
        const changes = changesFor(await writing.plan(project), rows);
        if (changes.length === 0) continue;
        const { result } = await storeChanges(writing, project, { changes, label });
        stored.push({ project: id, revision: result.revision });
      }
      return stored;
    },
    (plan) => changesFor(plan, rows),
  );
}
