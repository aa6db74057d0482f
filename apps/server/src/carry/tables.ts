import type { Connection, RowDataPacket } from "mysql2/promise";

/** What an installation file calls itself. */
export const FORMAT = "chronometra-installation";
export const FORMAT_VERSION = 1;

/** The first line of a file: by which schema its rows are. */
export interface Head {
  readonly format: typeof FORMAT;
  readonly version: number;
  /** The name of the newest change of the schema. */
  readonly schema: string;
  readonly madeAt: string;
}

/** What stays behind: it belongs to the servers that run, or to what somebody has not stored yet. */
export const STAYS: ReadonlySet<string> = new Set([
  "migrations",
  "session",
  "presence",
  "sign_in_miss",
  "import_draft",
]);

export interface Table {
  readonly name: string;
  /** Those that are written; what the database works out itself is not. */
  readonly columns: readonly string[];
}

/** The tables of a database that leave and arrive, by name. */
export async function tablesOf(connection: Connection): Promise<Table[]> {
  const [rows] = await connection.query<RowDataPacket[]>(
    `select c.table_name as name, c.column_name as col
       from information_schema.columns c join information_schema.tables t using (table_schema, table_name)
      where c.table_schema = database() and t.table_type = 'BASE TABLE' and c.extra not like '%GENERATED%'
      order by c.table_name, c.ordinal_position`,
  );
  const tables = new Map<string, string[]>();
  for (const { name, col } of rows as unknown as { name: string; col: string }[])
    if (!STAYS.has(name)) tables.set(name, [...(tables.get(name) ?? []), col]);
  return [...tables].map(([name, columns]) => ({ name, columns }));
}

export const named = (name: string): string => `\`${name.replaceAll("`", "``")}\``;

/** The newest change of the schema that a database has had; `null` of one that has none. */
export async function schemaOf(connection: Connection): Promise<string | null> {
  const [tables] = await connection.query<RowDataPacket[]>(
    "select 1 from information_schema.tables where table_schema = database() and table_name = 'migrations'",
  );
  if (tables.length === 0) return null;
  const [rows] = await connection.query<RowDataPacket[]>("select name from migrations order by timestamp desc limit 1");
  return (rows[0]?.["name"] as string | undefined) ?? null;
}

/** A value as it stands in a line: bytes in base 64, moments as ISO 8601 in UTC. */
export type Told = string | number | null | { readonly base64: string };

const MOMENT = /^(\d{4}-\d{2}-\d{2}) (\d{2}:\d{2}:\d{2}(?:\.\d+)?)$/;
const MOMENT_TOLD = /^(\d{4}-\d{2}-\d{2})T(\d{2}:\d{2}:\d{2}(?:\.\d+)?)Z$/;

/** A moment of the database as it is told, and the way back. */
export const momentTold = (text: string): string => text.replace(MOMENT, "$1T$2Z");
export const momentStored = (text: string): string => text.replace(MOMENT_TOLD, "$1 $2");
