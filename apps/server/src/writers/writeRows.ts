import type { EntityManager } from "typeorm";

export type Cell = string | number | null;

const AT_ONCE = 500;

/** At most so many of a text's signs as its column holds. */
export const cut = (text: string, length: number): string => (text.length > length ? text.slice(0, length) : text);

/** A list in pieces that one statement can hold. */
export function* parts<T>(list: readonly T[]): Generator<readonly T[]> {
  for (let i = 0; i < list.length; i += AT_ONCE) yield list.slice(i, i + AT_ONCE);
}

/** Writes rows, in as few statements as will hold them; of those that are there already, the columns of `onDuplicate` are overwritten. */
export async function insertRows(
  manager: EntityManager,
  table: string,
  columns: readonly string[],
  rows: readonly (readonly Cell[])[],
  onDuplicate: readonly string[] = [],
): Promise<void> {
  const places = `(${columns.map(() => "?").join(", ")})`;
  const update =
    onDuplicate.length === 0
      ? ""
      : ` on duplicate key update ${onDuplicate.map((column) => `${column} = values(${column})`).join(", ")}`;
  for (const part of parts(rows))
    await manager.query(
      `insert into ${table} (${columns.join(", ")}) values ${part.map(() => places).join(", ")}${update}`,
      part.flat(),
    );
}

/** Takes rows of a project out by the value of a column. */
export async function deleteRows(
  manager: EntityManager,
  table: string,
  projectId: string,
  column: string,
  ids: readonly string[],
): Promise<void> {
  for (const part of parts(ids))
    await manager.query(`delete from ${table} where project_id = ? and ${column} in (?)`, [projectId, part]);
}
