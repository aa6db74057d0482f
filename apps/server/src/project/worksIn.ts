import type { Me } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";

type Reader = DataSource | EntityManager;

const ASSIGNED = "from plan_row where table_name = 'assignments' and project_id";

/** The people who have work in a project. */
export async function workersOf(manager: Reader, projectId: string): Promise<ReadonlySet<string>> {
  const rows = (await manager.query(`select distinct person_id as person ${ASSIGNED} = ?`, [projectId])) as {
    person: string;
  }[];
  return new Set(rows.map(({ person }) => person));
}

/** The activities that someone works on in a project. */
export async function ownActivities(manager: Reader, projectId: string, me: Me): Promise<ReadonlySet<string>> {
  if (me.person === null) return new Set();
  const rows = (await manager.query(
    `select distinct json_value(doc, '$.activity') as activity ${ASSIGNED} = ? and person_id = ?`,
    [projectId, me.person],
  )) as { activity: string }[];
  return new Set(rows.map(({ activity }) => activity));
}

/** What holds of a column that names a project, where a person, whose id comes as a value, has work in it. */
export const worksInSql = (column: string): string =>
  `exists (select 1 from plan_row w where w.project_id = ${column} and w.table_name = 'assignments' and w.person_id = ?)`;

/** Of some projects those in which a person has work. */
export async function projectsWorkedIn(
  manager: Reader,
  person: string | null,
  projects: readonly string[],
): Promise<ReadonlySet<string>> {
  if (person === null || projects.length === 0) return new Set();
  const rows = (await manager.query(`select distinct project_id as project ${ASSIGNED} in (?) and person_id = ?`, [
    projects,
    person,
  ])) as { project: string }[];
  return new Set(rows.map(({ project }) => project));
}
