import type { ImportView, Me } from "@chronometra/contract";
import type { Calendar, Person } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { managersOf } from "../access/accounts.ts";
import { houseMoney, registerRows } from "../resources/registerRows.ts";
import type { KnownRows } from "./ordinary/sense.ts";
import { seenSql } from "../project/reach.ts";

/** More people than this are not looked through for a name. */
const MOST_PEOPLE = 20_000;

/** People who are in some plan that someone sees; who stands for a role is nobody. */
async function planPeople(database: DataSource, me: Me): Promise<Person[]> {
  const seen = seenSql(me, "o");
  const rows = (await database.query(
    `select p.row_key as id, min(json_value(p.doc, '$.name')) as name, min(json_value(p.doc, '$.role')) as role
      from plan_row p join project o on o.id = p.project_id
      left join plan_row h on h.project_id = p.project_id and h.table_name = 'placeholders' and h.row_key = p.row_key
      where p.table_name = 'people' and h.row_key is null and ${seen.sql} group by p.row_key limit ?`,
    [...seen.values, MOST_PEOPLE],
  )) as { id: string; name: string; role: string | null }[];
  return rows.map(({ role, ...person }) => ({ ...person, ...(role === null ? {} : { role }) }));
}

/** What a file of someone's may speak of: people and calendars of the register, and people of plans that they see. */
export async function knownRows(database: DataSource, me: Me, today: string): Promise<KnownRows> {
  const rows = await registerRows(database);
  const people = rows.flatMap(({ table, row }) => (table === "people" ? [row as Person] : []));
  const registered = new Set(people.map(({ id }) => id));
  return {
    people: [...people, ...(await planPeople(database, me)).filter(({ id }) => !registered.has(id))],
    calendars: rows.flatMap(({ table, row }) => (table === "calendars" ? [row as Calendar] : [])),
    house: await houseMoney(database),
    today,
  };
}

/** What the page offers someone to choose from. */
export async function knownInWords(database: DataSource, me: Me): Promise<ImportView["known"]> {
  const { people, calendars } = await knownRows(database, me, "");
  const named = (rows: readonly { readonly id: string; readonly name: string }[]) =>
    rows.map(({ id, name }) => ({ id, name })).sort((a, b) => a.name.localeCompare(b.name, "en"));
  return { people: named(people), calendars: named(calendars), managers: await managersOf(database) };
}
