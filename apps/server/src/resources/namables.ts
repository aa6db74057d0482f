import { In, type DataSource, type EntityManager } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";

/** Who can be named, by name: whoever can sign in, and people of the register besides. */
export async function namables(manager: DataSource | EntityManager): Promise<{ id: string; name: string }[]> {
  const [accounts, people] = await Promise.all([
    manager.getRepository(AccountEntity).find({ select: { id: true, name: true, personId: true } }),
    manager.query(
      "select row_key as id, json_value(doc, '$.name') as name from register_row where table_name = 'people'",
    ) as Promise<{ id: string; name: string }[]>,
  ]);
  const signIn = new Set(accounts.map(({ personId }) => personId));
  return [...accounts.map(({ id, name }) => ({ id, name })), ...people.filter(({ id }) => !signIn.has(id))].sort(
    (a, b) => a.name.localeCompare(b.name) || (a.id < b.id ? -1 : 1),
  );
}

/** What some of those that can be named are called, by id; who is not known any more is left out. */
export async function namesOf(
  manager: DataSource | EntityManager,
  ids: Iterable<string>,
): Promise<ReadonlyMap<string, string>> {
  const wanted = [...new Set(ids)];
  if (wanted.length === 0) return new Map();
  const [accounts, people] = await Promise.all([
    manager.getRepository(AccountEntity).find({ select: { id: true, name: true }, where: { id: In(wanted) } }),
    manager.query(
      "select row_key as id, json_value(doc, '$.name') as name from register_row where table_name = 'people' and row_key in (?)",
      [wanted],
    ) as Promise<{ id: string; name: string }[]>,
  ]);
  return new Map([...people, ...accounts].map(({ id, name }) => [id, name]));
}
