import type { DataSource, EntityManager } from "typeorm";

/** The last day of the newest period that is locked for a project; `null` where none is. */
export async function lockedTo(database: DataSource | EntityManager, projectId: string): Promise<string | null> {
  const [row] = (await database.query(
    "select max(data_date) as dataDate from period_lock where project_id = ? and reopened_at is null",
    [projectId],
  )) as { dataDate: string | null }[];
  return row?.dataDate ?? null;
}
