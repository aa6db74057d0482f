import type { Me, WatchChoices } from "@chronometra/contract";
import { CallNames, type OwnField } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { seenSql } from "../project/reach.ts";

/** Someone of any plan: by role and project where others bear the same name. */
interface Someone {
  readonly id: string;
  readonly name: string;
  readonly role: string | null;
  readonly code: string;
}

/** Own fields by name: those of one name in several projects are taken to be one; where their types differ, a text. */
function byName(fields: readonly OwnField[]): WatchChoices["ownFields"] {
  const own = new Map<string, WatchChoices["ownFields"][number]>();
  for (const { name, type, choices = [] } of fields) {
    const known = own.get(name);
    own.set(
      name,
      known === undefined
        ? { name, type, choices }
        : { name, type: known.type === type ? type : "text", choices: [...new Set([...known.choices, ...choices])] },
    );
  }
  return [...own.values()].sort((a, b) => a.name.localeCompare(b.name));
}

/**
 * What may be chosen in a question of the projects that someone sees: who works there, roles, projects, and their own
 * fields by name.
 */
export async function watchChoices(database: DataSource, me: Me): Promise<WatchChoices> {
  const { sql, values } = seenSql(me, "p");
  const asked = (text: string) => database.query(text.replaceAll("$seen", sql), [...values]);
  const within = "project_id in (select p.id from project p where $seen)";
  const [people, roles, projects, programmes, managers, categories, fields] = (await Promise.all([
    asked(
      "select row_key as id, min(json_value(doc, '$.name')) as name, min(json_value(doc, '$.role')) as role, min(p.code) as code from plan_row r join project p on p.id = r.project_id where table_name = 'people' and $seen group by row_key order by name",
    ),
    asked(
      `select distinct json_value(doc, '$.role') as name from plan_row where table_name = 'people' and ${within} having name is not null order by name`,
    ),
    asked(
      "select p.id, concat(p.code, ' ', json_value(p.head, '$.name')) as name from project p where $seen order by p.code",
    ),
    asked(
      "select distinct g.id, g.name, g.position from programme g left join project p on p.programme_id = g.id where $seen order by g.position",
    ),
    asked(
      "select distinct a.id, a.name from account a join project p on p.manager_id = a.id where $seen order by a.name",
    ),
    asked(`select distinct category as name from spent_row where category is not null and ${within} order by category`),
    asked(`select doc from plan_row where table_name = 'fields' and ${within} order by project_id, position`),
  ])) as [
    Someone[],
    { name: string }[],
    WatchChoices["projects"],
    WatchChoices["programmes"],
    WatchChoices["managers"],
    { name: string }[],
    { doc: string }[],
  ];
  const names = new CallNames(
    people.map(({ id, name, role, code }) => ({ id, name, apart: () => (role === null ? [code] : [role, code]) })),
  );
  return {
    people: people.map(({ id }) => ({ id, name: names.of(id) })),
    roles: roles.map(({ name }) => name),
    projects,
    programmes: programmes.map(({ id, name }) => ({ id, name })),
    managers,
    categories: categories.map(({ name }) => name),
    ownFields: byName(fields.map(({ doc }) => JSON.parse(doc) as OwnField)),
  };
}
