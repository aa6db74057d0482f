import type { WatchChoices } from "@chronometra/contract";
import { CallNames, type OwnField } from "@chronometra/core";
import type { DataSource } from "typeorm";

/** Someone of any plan: by role and project where others bear the same name. */
interface Someone {
  readonly id: string;
  readonly name: string;
  readonly role: string | null;
  readonly code: string;
}

/** What may be chosen in a question: everyone who works anywhere, roles, projects, and the own fields of all projects by name. */
export async function watchChoices(database: DataSource): Promise<WatchChoices> {
  const [people, roles, projects, programmes, managers, categories, fields] = (await Promise.all([
    database.query(
      "select row_key as id, min(json_value(doc, '$.name')) as name, min(json_value(doc, '$.role')) as role, min(p.code) as code from plan_row r join project p on p.id = r.project_id where table_name = 'people' group by row_key order by name",
    ),
    database.query(
      "select distinct json_value(doc, '$.role') as name from plan_row where table_name = 'people' having name is not null order by name",
    ),
    database.query("select id, concat(code, ' ', json_value(head, '$.name')) as name from project order by code"),
    database.query("select id, name from programme order by position"),
    database.query("select distinct a.id, a.name from account a join project p on p.manager_id = a.id order by a.name"),
    database.query("select distinct category as name from spent_row where category is not null order by category"),
    database.query("select doc from plan_row where table_name = 'fields' order by project_id, position"),
  ])) as [
    Someone[],
    { name: string }[],
    WatchChoices["projects"],
    WatchChoices["programmes"],
    WatchChoices["managers"],
    { name: string }[],
    { doc: string }[],
  ];
  const own = new Map<string, WatchChoices["ownFields"][number]>();
  for (const { doc } of fields) {
    const { name, type, choices = [] } = JSON.parse(doc) as OwnField;
    const known = own.get(name);
    // Fields of one name in several projects are taken to be one; where their types differ, a text.
    own.set(
      name,
      known === undefined
        ? { name, type, choices }
        : { name, type: known.type === type ? type : "text", choices: [...new Set([...known.choices, ...choices])] },
    );
  }
  const names = new CallNames(
    people.map(({ id, name, role, code }) => ({ id, name, apart: () => (role === null ? [code] : [role, code]) })),
  );
  return {
    people: people.map(({ id }) => ({ id, name: names.of(id) })),
    roles: roles.map(({ name }) => name),
    projects,
    programmes,
    managers,
    categories: categories.map(({ name }) => name),
    ownFields: [...own.values()].sort((a, b) => a.name.localeCompare(b.name)),
  };
}
