import { createHash } from "node:crypto";
import { createInterface, type Interface } from "node:readline";
import type { Readable } from "node:stream";
import { createConnection, type Connection, type ResultSetHeader, type RowDataPacket } from "mysql2/promise";
import { bringUpTo, MIGRATION_NAMES } from "../start/openDatabase.ts";
import type { Carried } from "./leave.ts";
import {
  FORMAT,
  FORMAT_VERSION,
  momentStored,
  named,
  schemaOf,
  tablesOf,
  type Head,
  type Table,
  type Told,
} from "./tables.ts";

/** So many rows, and so much text, go to the database at once. */
const ROWS_AT_ONCE = 500;
const TEXT_AT_ONCE = 4_000_000;

/** What is wrong with a file or the database it is to arrive in, and what to do, in words. */
export class CannotArrive extends Error {}

const NOTHING_STORED = "Nothing was stored.";
const NOT_WHOLE = `The file ends early: it was not written or copied whole. ${NOTHING_STORED}`;
const CHANGED = `The file is not as it was written: its digest is another. ${NOTHING_STORED}`;

function headOf(line: string): Head {
  const head = parsed(line) as Partial<Head> | null;
  if (head?.format !== FORMAT) throw new CannotArrive(`This is no file of an installation. ${NOTHING_STORED}`);
  if (head.version !== FORMAT_VERSION || !MIGRATION_NAMES.includes(head.schema ?? ""))
    throw new CannotArrive(
      `The file was written by a newer version; bring this one up to date first. ${NOTHING_STORED}`,
    );
  return head as Head;
}

function parsed(line: string): unknown {
  try {
    return JSON.parse(line);
  } catch {
    throw new CannotArrive(`A line of the file is no JSON: ${line.slice(0, 60)} ... ${NOTHING_STORED}`);
  }
}

function stored(value: Told, isMoment: boolean): unknown {
  if (value === null) return null;
  if (typeof value === "object") return Buffer.from(value.base64, "base64");
  // A number with a point would be read as a decimal first, and lose its last bit; text is read as what it is.
  if (typeof value === "number") return Number.isInteger(value) ? value : String(value);
  return isMoment ? momentStored(value) : value;
}

/** Rows of one table on their way in, some at once. */
class Filling {
  private rows: unknown[][] = [];
  private text = 0;
  count = 0;

  constructor(
    private readonly connection: Connection,
    readonly table: Table,
    private readonly moments: ReadonlySet<number>,
  ) {}

  async add(row: readonly Told[], length: number): Promise<void> {
    if (row.length !== this.table.columns.length)
      throw new CannotArrive(`A row of ${this.table.name} has other columns than it should. ${NOTHING_STORED}`);
    this.rows.push(row.map((value, i) => stored(value, this.moments.has(i))));
    this.text += length;
    this.count++;
    if (this.rows.length >= ROWS_AT_ONCE || this.text >= TEXT_AT_ONCE) await this.flush();
  }

  async flush(): Promise<void> {
    if (this.rows.length === 0) return;
    const columns = this.table.columns.map(named).join(", ");
    await this.connection.query<ResultSetHeader>(`insert into ${named(this.table.name)} (${columns}) values ?`, [
      this.rows,
    ]);
    this.rows = [];
    this.text = 0;
  }
}

/** Which columns of a table are moments, by their place. */
async function momentsOf(connection: Connection, { name, columns }: Table): Promise<ReadonlySet<number>> {
  const [rows] = await connection.query<RowDataPacket[]>(
    `select column_name as col from information_schema.columns
      where table_schema = database() and table_name = ? and data_type in ('datetime', 'timestamp')`,
    [name],
  );
  return new Set(rows.map(({ col }) => columns.indexOf(col as string)));
}

/** Reads lines into tables, and makes sure that they are all there and as they were written. */
class Arrival {
  private filling: Filling | null = null;
  private readonly digest = createHash("sha256");
  private readonly seen = new Set<string>();
  private rows = 0;
  private isWhole = false;

  constructor(
    private readonly connection: Connection,
    private readonly tables: ReadonlyMap<string, Table>,
    private readonly tell: (table: string, rows: number) => void,
  ) {}

  async take(line: string): Promise<void> {
    if (this.isWhole) throw new CannotArrive(CHANGED);
    const said = parsed(line) as Told[] | { table?: string; columns?: string[]; end?: string; rows?: number };
    if (Array.isArray(said)) await this.current().add(said, line.length);
    else if (said.table !== undefined) await this.begin(said.table, said.columns ?? []);
    else if (said.end !== undefined) await this.end(said.end, said.rows);
    else if ("complete" in said) return this.complete(said as { rows?: number; sha256?: string });
    this.note(line);
  }

  note(line: string): void {
    this.digest.update(`${line}\n`);
  }

  /** What arrived. Throws where the file ended before its last line. */
  whole(): Carried {
    if (!this.isWhole) throw new CannotArrive(NOT_WHOLE);
    return { tables: this.seen.size, rows: this.rows };
  }

  private current(): Filling {
    if (this.filling === null) throw new CannotArrive(CHANGED);
    return this.filling;
  }

  private async begin(name: string, columns: readonly string[]): Promise<void> {
    const table = this.tables.get(name);
    if (table === undefined || this.seen.has(name) || columns.some((each) => !table.columns.includes(each)))
      throw new CannotArrive(`The file has a table ${name} that is not one of its version. ${NOTHING_STORED}`);
    this.seen.add(name);
    const of = { name, columns };
    this.filling = new Filling(this.connection, of, await momentsOf(this.connection, of));
  }

  private async end(name: string, rows: number | undefined): Promise<void> {
    const { table, count } = this.current();
    if (table.name !== name || count !== rows) throw new CannotArrive(NOT_WHOLE);
    await this.filling!.flush();
    this.filling = null;
    this.rows += count;
    this.tell(name, count);
  }

  private complete({ rows, sha256 }: { rows?: number; sha256?: string }): void {
    if (this.filling !== null || rows !== this.rows || sha256 !== this.digest.digest("hex"))
      throw new CannotArrive(CHANGED);
    this.isWhole = true;
  }
}

/** Refuses a database in which something is already. */
async function assertEmpty(connection: Connection): Promise<void> {
  if ((await schemaOf(connection)) === null) {
    const [tables] = await connection.query<RowDataPacket[]>(
      "select 1 from information_schema.tables where table_schema = database() limit 1",
    );
    if (tables.length > 0) throw new CannotArrive("The database holds something else; give an empty one.");
    return;
  }
  const [rows] = await connection.query<RowDataPacket[]>(
    "select 1 from project union select 1 from account where exists (select 1 from account) limit 1",
  );
  if (rows.length > 0)
    throw new CannotArrive("There is an installation in this database already; give an empty database.");
}

const LEAVES_THERE = "it waited when the installation was copied; it leaves from there";

/** What waited to be sent is sent from where it was written, unless the installation has moved. */
const SET_ASIDE = [
  ...["mail", "webhook_call"].map(
    (table) => `update ${table} set state = 'failed', why = '${LEAVES_THERE}' where state in ('waiting', 'sending')`,
  ),
  "update notice set mail_at = null where mail_at is not null",
];

export interface ArriveOptions {
  /** Whether the installation has moved here, so that what waits is sent from here; a copy sends none of it. */
  readonly hasMoved?: boolean;
  readonly tell?: (table: string, rows: number) => void;
}

/**
 * Brings all that an installation holds into an empty database, all or nothing; one of an earlier version arrives as it
 * was, and is brought up to this one.
 * @param url of the database, whose user may change its schema
 * @throws {CannotArrive} where the database is not empty, and where the file is none, newer, changed or not whole
 */
export async function arrive(
  url: string,
  input: Readable,
  { hasMoved = false, tell = () => undefined }: ArriveOptions = {},
): Promise<Carried> {
  const lines = new InputLines(input);
  const connection = await createConnection({ uri: url, timezone: "Z", charset: "utf8mb4" });
  try {
    await assertEmpty(connection);
    const carried = await readAll(url, connection, lines, tell);
    if (!hasMoved) for (const sql of SET_ASIDE) await connection.query(sql).catch(ignoreMissing);
    await connection.commit();
    await bringUpTo(url);
    return carried;
  } finally {
    lines.close();
    connection.destroy();
  }
}

/** The lines of a stream; one that breaks is told as such once what came before is read. */
class InputLines implements AsyncIterable<string> {
  private broken: unknown = null;
  private lines: Interface | null = null;

  constructor(private readonly input: Readable) {
    input.on("error", this.breakOff);
  }

  private readonly breakOff = (error: unknown): void => {
    this.broken ??= error;
    this.lines?.close();
  };

  async *[Symbol.asyncIterator](): AsyncGenerator<string> {
    if (this.broken === null) {
      // Made no sooner than it is read: what comes before that would be lost.
      this.lines = createInterface({ input: this.input, crlfDelay: Infinity }).on("error", this.breakOff);
      try {
        for await (const line of this.lines) yield line;
      } catch (error) {
        this.broken ??= error;
      }
    }
    if (this.broken === null) return;
    const { code } = this.broken as { code?: string };
    if (code === "Z_BUF_ERROR") throw new CannotArrive(NOT_WHOLE);
    if (code === "Z_DATA_ERROR")
      throw new CannotArrive(`This is no file of an installation, or it was damaged. ${NOTHING_STORED}`);
    throw this.broken;
  }

  close(): void {
    this.lines?.close();
    this.input.destroy();
  }
}

/** An earlier version may not have had such a table. */
function ignoreMissing(error: unknown): void {
  if ((error as { code?: string }).code !== "ER_NO_SUCH_TABLE") throw error;
}

async function readAll(
  url: string,
  connection: Connection,
  lines: AsyncIterable<string>,
  tell: (table: string, rows: number) => void,
): Promise<Carried> {
  let arrival: Arrival | null = null;
  for await (const line of lines) {
    if (arrival !== null) {
      await arrival.take(line);
      continue;
    }
    const { schema } = headOf(line);
    await bringUpTo(url, schema);
    await connection.query("set foreign_key_checks = 0");
    await connection.beginTransaction();
    const tables = await tablesOf(connection);
    arrival = new Arrival(connection, new Map(tables.map((table) => [table.name, table])), tell);
    arrival.note(line);
  }
  if (arrival === null) throw new CannotArrive(`The file is empty. ${NOTHING_STORED}`);
  return arrival.whole();
}
