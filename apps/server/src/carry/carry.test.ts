import { randomBytes } from "node:crypto";
import { Readable, Writable } from "node:stream";
import { createGunzip, gzipSync } from "node:zlib";
import { createConnection, type Connection, type RowDataPacket } from "mysql2/promise";
import { bringUpTo, MIGRATION_NAMES } from "../start/openDatabase.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { arrive } from "./arrive.ts";
import { leave } from "./leave.ts";
import { STAYS, tablesOf } from "./tables.ts";

let world: TestWorld;
let ines: Caller;
let admin: Connection;
const made: string[] = [];

/** An empty database. */
async function emptyDatabase(): Promise<string> {
  const name = `t_${randomBytes(6).toString("hex")}`;
  await admin.query(`create database ${name}`);
  made.push(name);
  return `${process.env["CHRONOMETRA_TEST_DATABASE"]!}/${name}`;
}

/** What leaves a database, as text. */
async function left(url: string): Promise<string> {
  const parts: Buffer[] = [];
  const out = new Writable({
    highWaterMark: 1,
    // Slower than the database: what is written is waited for.
    write: (part: Buffer, _encoding, done) => (parts.push(Buffer.from(part)), setImmediate(done)),
  });
  await leave(url, out);
  return Buffer.concat(parts).toString();
}
const from = (text: string): Readable => Readable.from(text.match(/[^]{1,1000}/g) ?? []);

async function rowsIn(url: string): Promise<Record<string, unknown[]>> {
  const connection = await createConnection({ uri: url, timezone: "Z", dateStrings: true });
  const tables: Record<string, unknown[]> = {};
  for (const { name } of await tablesOf(connection))
    tables[name] = (await connection.query<RowDataPacket[]>(`select * from ${name} order by 1, 2`))[0];
  await connection.end();
  return tables;
}
const countIn = async (url: string): Promise<number> =>
  Object.values(await rowsIn(url)).reduce((sum, rows) => sum + rows.length, 0);

beforeAll(async () => {
  admin = await createConnection({ uri: `${process.env["CHRONOMETRA_TEST_DATABASE"]!}/mysql` });
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller", "administrator"]);
  const project = await world.addProject(ines.me, smallPlan());
  const file = Buffer.from([...randomBytes(3000), 0, 10, 13]);
  const files = `/api/projects/${project}/files?about=project`;
  expect((await ines.send("post", files).attach("file", file, "soundings.bin")).status).toBe(200);
  await ines.send("post", "/api/webhooks", {
    ...{ name: "Ledger", url: "https://ledger.example/", events: ["planChanged"] },
  });
  const { revision } = (await ines.get(`/api/projects/${project}/plan`)).body as { revision: number };
  const changes = [{ type: "setName", activity: "dig", name: "Ünïted\u2028 \\n 'dig' 💧" }];
  expect((await ines.send("post", `/api/projects/${project}/changes`, { revision, changes })).status).toBe(200);
  await world.database.query("update activity_row set percent = ? where activity_id = 'dig'", ["93.08756510416667"]);
});
afterAll(async () => {
  for (const name of made) await admin.query(`drop database ${name}`);
  await admin.end();
  await world.drop();
});

describe("a whole installation", () => {
  it("arrives in an empty database row by row as it left, and leaves it alike", async () => {
    const text = await left(world.url);
    const url = await emptyDatabase();
    const told: string[] = [];
    const carried = await arrive(url, from(text), { hasMoved: true, tell: (table) => told.push(table) });
    expect(carried.rows).toBe(await countIn(world.url));
    expect(told).toHaveLength(carried.tables);
    expect(await rowsIn(url)).toEqual(await rowsIn(world.url));
    const [head, ...lines] = (await left(url)).split("\n");
    expect(lines.slice(0, -2)).toEqual(text.split("\n").slice(1, -2));
    expect(JSON.parse(head!)).toMatchObject({ format: "chronometra-installation", version: 1 });
  });

  it("holds every table but those that belong to servers that run", async () => {
    const [rows] = await admin.query<RowDataPacket[]>(
      "select table_name as name from information_schema.tables where table_schema = ?",
      [new URL(world.url).pathname.slice(1)],
    );
    const tables = (await left(world.url)).split("\n").flatMap((line) => /^\{"table":"(\w+)"/.exec(line)?.[1] ?? []);
    expect(tables.sort()).toEqual(
      rows
        .map(({ name }) => name as string)
        .filter((name) => !STAYS.has(name))
        .sort(),
    );
    expect([...STAYS].every((name) => rows.some((row) => row["name"] === name))).toBe(true);
  });

  it("sends nothing from its copy of what waited", async () => {
    const url = await emptyDatabase();
    await arrive(url, from(await left(world.url)));
    const { webhook_call: calls } = await rowsIn(url);
    expect(calls).toEqual([
      expect.objectContaining({ state: "failed", why: expect.stringMatching(/it leaves from there$/) }),
    ]);
    const { webhook_call: here } = await rowsIn(world.url);
    expect(here).toEqual([expect.objectContaining({ state: "waiting" })]);
  });

  it("of an earlier version is brought up to this one", async () => {
    const earlier = await emptyDatabase();
    await bringUpTo(earlier, "CalendarEntries1839000000000");
    const connection = await createConnection({ uri: earlier });
    await connection.query(
      "insert into api_token (id, name, hash, made_by, made_at) values ('t', 'Clock', repeat('a', 64), 'x', now())",
    );
    await connection.end();
    const url = await emptyDatabase();
    await arrive(url, from(await left(earlier)));
    expect((await rowsIn(url))["api_token"]).toEqual([
      expect.objectContaining({ id: "t", purposes: "sendTime,sendCosts", group_id: null }),
    ]);
  });
});

describe("a file that cannot arrive", () => {
  const refused = async (text: string, url: string): Promise<string> =>
    arrive(url, from(text)).then(
      () => "it arrived",
      (error: Error) => error.message,
    );

  it("says what is wrong, and leaves the database empty and ready for another", async () => {
    const text = await left(world.url);
    const lines = text.split("\n");
    const newer = text.replace(MIGRATION_NAMES.at(-1)!, "Later9999000000000");
    const at = lines.findIndex((line) => line.startsWith('["') && line.includes("dig"));
    const faults: [string, RegExp][] = [
      ["", /^The file is empty\./],
      ["hello\n", /no JSON: hello/],
      ['{"format":"else"}\n', /no file of an installation/],
      [newer, /written by a newer version; bring this one up to date first/],
      [lines.slice(0, -2).join("\n"), /ends early/],
      [lines.slice(0, at).join("\n"), /ends early/],
      [lines.toSpliced(at, 1).join("\n"), /ends early/],
      [text.replace("93.08756510416667", "93.18756510416667"), /digest is another/],
      [`${text}["more"]\n`, /digest is another/],
      [
        text.replace('{"table":"account"', '{"table":"mysql.user"'),
        /a table mysql.user that is not one of its version/,
      ],
    ];
    const url = await emptyDatabase();
    for (const [fault, words] of faults) {
      expect(await refused(fault, url)).toMatch(words);
      if ((await refused(fault, url)).includes("Nothing was stored")) expect(await countIn(url)).toBe(0);
    }
    expect(await refused(text, url)).toBe("it arrived");
    expect(await refused(text, url)).toMatch(/already; give an empty database/);
    expect(await refused(text, `${process.env["CHRONOMETRA_TEST_DATABASE"]!}/mysql`)).toMatch(/holds something else/);
  });

  it("that is cut short or damaged within its compression says so", async () => {
    const zipped = gzipSync(await left(world.url));
    const url = await emptyDatabase();
    const unzipping = async (bytes: Buffer): Promise<string> =>
      arrive(url, Readable.from([bytes]).pipe(createGunzip())).then(
        () => "it arrived",
        (error: Error) => error.message,
      );
    expect(await unzipping(zipped.subarray(0, zipped.length - 200))).toMatch(/ends early/);
    expect(await unzipping(Buffer.from("no zip"))).toMatch(/no file of an installation, or it was damaged/);
    expect(await countIn(url)).toBe(0);
  });
});

it("changes of the schema stand in the order in which they are made", () => {
  const times = MIGRATION_NAMES.map((name) => Number(/\d{13}$/.exec(name)![0]));
  expect(times).toEqual([...times].sort((a, b) => a - b));
});
