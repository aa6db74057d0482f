import type { ImportView } from "@chronometra/contract";
import type { Calendar, Person } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { managersOf } from "../access/accounts.ts";
import { houseMoney, registerRows } from "../resources/registerRows.ts";
import type { KnownRows } from "./ordinary/sense.ts";

/** More people than this are not looked through for a name. */
const MOST_PEOPLE = 20_000;

/** People who are in some plan; who stands for a role is nobody. */
async function planPeople(database: DataSource): Promise<Person[]> {
  const rows = (await database.query(
    `select p.row_key as id, min(json_value(p.doc, '$.name')) as name, min(json_value(p.doc, '$.role')) as role
      from plan_row p
      left join plan_row h on h.project_id = p.project_id and h.table_name = 'placeholders' and h.row_key = p.row_key
      where p.table_name = 'people' and h.row_key is null group by p.row_key limit ?`,
    [MOST_PEOPLE],
  )) as { id: string; name: string; role: string | null }[];
  return rows.map(({ role, ...person }) => ({ ...person, ...(role === null ? {} : { role }) }));
}

/** What the installation knows and a file may speak of: people and calendars of the register, and people of plans. */
export async function knownRows(database: DataSource, today: string): Promise<KnownRows> {
  const rows = await registerRows(database);
  const people = rows.flatMap(({ table, row }) => (table === "people" ? [row as Person] : []));
  const registered = new Set(people.map(({ id }) => id));
  return {
    people: [...people, ...(await planPeople(database)).filter(({ id }) => !registered.has(id))],
    calendars: rows.flatMap(({ table, row }) => (table === "calendars" ? [row as Calendar] : [])),
    house: await houseMoney(database),
    today,
  };
}

/** What the page offers to choose from. */
export async function knownInWords(database: DataSource): Promise<ImportView["known"]> {
  const { people, calendars } = await knownRows(database, "");
  const named = (rows: readonly { readonly id: string; readonly name: string }[]) =>
    rows.map(({ id, name }) => ({ id, name })).sort((a, b) => a.name.localeCompare(b.name, "en"));
  return { people: named(people), calendars: named(calendars), managers: await managersOf(database) };
}
