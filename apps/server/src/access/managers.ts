import type { DataSource, EntityManager } from "typeorm";

/** Whoever may manage a project, by name. */
export const managersOf = (database: DataSource | EntityManager): Promise<{ id: string; name: string }[]> =>
  database.query(
    `select id, name from account
      where json_contains(roles, '"projectManager"') or json_contains(roles, '"controller"') order by name`,
  );
