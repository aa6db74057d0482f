import { In, type DataSource, type EntityManager } from "typeorm";
import { ProjectEntity } from "../../project/projectEntity.ts";

/** Projects in which a person has work. */
export async function projectsOf(database: DataSource | EntityManager, person: string): Promise<ProjectEntity[]> {
  const rows = (await database.query(
    "select distinct project_id as id from plan_row where person_id = ? and table_name = 'assignments'",
    [person],
  )) as { id: string }[];
  return rows.length === 0
    ? []
    : database
        .getRepository(ProjectEntity)
        .find({ where: { id: In(rows.map(({ id }) => id)) }, order: { code: "ASC" } });
}
