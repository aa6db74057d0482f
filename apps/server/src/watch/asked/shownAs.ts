import { OWN_PREFIX, type WatchAbout } from "@chronometra/contract";
import { fieldOf, SOURCES, type Sql } from "./fieldSql.ts";
import { isPlace } from "./places.ts";

export const NOTHING: Sql = { sql: "", values: [] };

/**
 * A field to show, sort or group by, with the table it has to be joined from. A place is the project's id here, and
 * named later.
 */
export function shownAs(about: WatchAbout, name: string, alias: string): { sql: string; join: Sql } {
  if (name.startsWith(OWN_PREFIX))
    return {
      sql: `coalesce(${alias}.text, ${alias}.number)`,
      join: {
        sql: ` left join activity_value ${alias} on ${alias}.project_id = r.project_id and ${alias}.activity_id = r.activity_id and ${alias}.field = ?`,
        values: [fieldOf(about, name).head],
      },
    };
  if (isPlace(name)) return { sql: "r.project_id", join: NOTHING };
  if (name === "owner") return { sql: "r.owner", join: NOTHING };
  if (name === "person") return { sql: "s.person", join: NOTHING };
  if (about === "activities" && name === "people")
    return {
      sql: `${alias}.name`,
      join: {
        sql: ` left join activity_person ${alias} on ${alias}.project_id = r.project_id and ${alias}.activity_id = r.activity_id`,
        values: [],
      },
    };
  if (about === "activities" && name === "role")
    return {
      sql: `${alias}.role`,
      join: {
        sql: ` left join (select distinct project_id, activity_id, role from activity_person) ${alias} on ${alias}.project_id = r.project_id and ${alias}.activity_id = r.activity_id`,
        values: [],
      },
    };
  return { sql: SOURCES[about].expressions[name]!, join: NOTHING };
}

/** What rows are sorted by: a place by its name. */
export function sortedBy(about: WatchAbout, name: string, alias: string): { sql: string; join: Sql } {
  if (!isPlace(name)) return shownAs(about, name, alias);
  const project = ` join project ${alias}p on ${alias}p.id = r.project_id`;
  if (name === "project") return { sql: `${alias}p.code`, join: { sql: project, values: [] } };
  const [table, key] = name === "programme" ? ["programme", "programme_id"] : ["account", "manager_id"];
  return {
    sql: `${alias}.name`,
    join: { sql: `${project} left join ${table} ${alias} on ${alias}.id = ${alias}p.${key}`, values: [] },
  };
}
