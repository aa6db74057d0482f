import type { EntityManager } from "typeorm";
import type { Cell, Edit, TableRows } from "../held/writer.ts";

const AT_ONCE = 500;

/** A list in pieces that one statement can hold. */
function* parts<T>(list: readonly T[]): Generator<readonly T[]> {
  for (let i = 0; i < list.length; i += AT_ONCE) yield list.slice(i, i + AT_ONCE);
}

async function insertRows(
  manager: EntityManager,
  projectId: string,
  { table, key, columns, rows }: TableRows,
): Promise<void> {
  const all = ["project_id", ...key, ...columns];
  const places = `(${all.map(() => "?").join(", ")})`;
  const update =
    columns.length === 0
      ? ""
      : ` on duplicate key update ${columns.map((column) => `${column} = values(${column})`).join(", ")}`;
  for (const part of parts(rows))
    await manager.query(
      `insert into ${table} (${all.join(", ")}) values ${part.map(() => places).join(", ")}${update}`,
      part.flatMap((row) => [projectId, ...row]),
    );
}

/**
 * Rows are named by the last column of those by which they go, together with all that are alike in the others: only so
 * is an index used.
 */
async function deleteRows(manager: EntityManager, projectId: string, { table, gone }: TableRows): Promise<void> {
  const { by, keys } = gone;
  if (keys.length === 0) return;
  if (by.length === 0) return void (await manager.query(`delete from ${table} where project_id = ?`, [projectId]));
  const alike = new Map<string, Cell[]>();
  for (const key of keys) {
    const first = JSON.stringify(key.slice(0, -1));
    const last = alike.get(first) ?? [];
    last.push(key.at(-1)!);
    alike.set(first, last);
  }
  const where = ["project_id = ?", ...by.slice(0, -1).map((column) => `${column} = ?`), `${by.at(-1)!} in (?)`];
  for (const [first, last] of alike)
    for (const part of parts(last))
      await manager.query(`delete from ${table} where ${where.join(" and ")}`, [
        projectId,
        ...(JSON.parse(first) as Cell[]),
        part,
      ]);
}

/** How a column of cells is read from JSON: as text where any of them is text. */
const typeIn = (rows: Edit["rows"], place: number): string =>
  rows.some((row) => typeof row[place] === "string") ? "varchar(1000) character set utf8mb4" : "double";

/** Rows of which only some columns change are four times as quick to write as whole ones, of which all are compared. */
async function editRows(
  manager: EntityManager,
  projectId: string,
  { table, key, edits = [] }: TableRows,
): Promise<void> {
  for (const { columns, rows } of edits) {
    const all = [...key, ...columns];
    const cells = all.map((_, i) => `c${i} ${typeIn(rows, i)} path '$[${i}]'`).join(", ");
    const same = key.map((column, i) => `r.${column} = d.c${i}`).join(" and ");
    const set = columns.map((column, i) => `r.${column} = d.c${key.length + i}`).join(", ");
    await manager.query(
      `update ${table} r join json_table(?, '$[*]' columns (${cells})) d on ${same} set ${set} where r.project_id = ?`,
      [JSON.stringify(rows), projectId],
    );
  }
}

/** Writes what changes in what is kept of a project; in the caller's transaction. */
export async function keepRows(
  manager: EntityManager,
  projectId: string,
  changes: readonly TableRows[],
): Promise<void> {
  for (const change of changes) {
    await deleteRows(manager, projectId, change);
    await insertRows(manager, projectId, change);
    await editRows(manager, projectId, change);
  }
}
