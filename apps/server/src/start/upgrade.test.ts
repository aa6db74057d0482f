import { readFileSync } from "node:fs";
import { join } from "node:path";
import { gunzipSync } from "node:zlib";
import { createConnection } from "mysql2/promise";
import type { DataSource } from "typeorm";
import { freshDatabase } from "../testing/testWorld.ts";
import { fillRows } from "../plan/fillRows.ts";

/** Four projects of the demo world as an earlier version kept them: in another currency, closed, rotten, and not approved yet. */
const EARLIER = gunzipSync(readFileSync(join(__dirname, "fixtures/demo-1815.sql.gz"))).toString();

const KEPT = [
  ["figures", "project_id, revision", "project_id, revision, summary, line, people"],
  ["activity_row", "project_id, activity_id", "*"],
  ["activity_person", "project_id, activity_id, person_id", "*"],
  ["spent_row", "project_id, kind, entry", "*"],
  ["load_week", "project_id, person_id, monday", "*"],
  ["risk_row", "project_id, entry", "*"],
  ["issued_period", "project_id, number, edition", "*"],
  ["baseline", "project_id, number", "*"],
  ["plan_row", "project_id, table_name, row_key", "project_id, table_name, row_key, doc"],
] as const;

/** Rows without the marks by which an earlier version compared them. */
const rowsOf = async (ask: (sql: string) => Promise<unknown>): Promise<Record<string, unknown>> =>
  Object.fromEntries(
    await Promise.all(
      KEPT.map(async ([table, order, columns]) => [
        table,
        ((await ask(`select ${columns} from ${table} order by ${order}`)) as Record<string, unknown>[]).map(
          ({ mark: _mark, side_mark: _side, ...row }) => row,
        ),
      ]),
    ),
  );

let url: string;
let database: DataSource;
let drop: () => Promise<void>;
let before: Record<string, unknown>;

beforeAll(async () => {
  // What it says is read by the bare driver before anything of ours has touched it.
  const server = process.env["CHRONOMETRA_TEST_DATABASE"]!;
  const name = `t_earlier_${process.pid}`;
  const bare = await createConnection({ uri: `${server}/mysql`, multipleStatements: true });
  await bare.query(`create database ${name}; use ${name}; ${EARLIER}`);
  before = await rowsOf(async (sql) => JSON.parse(JSON.stringify((await bare.query(sql))[0])));
  await bare.query(`drop database ${name}`);
  await bare.end();
  ({ url, database, drop } = await freshDatabase(EARLIER));
});
afterAll(() => drop());

/** A summary without what is told since: when a project begins. */
function withoutNew(summary: string): string {
  const { start: _start, baselineStart: _approved, ...rest } = JSON.parse(summary) as Record<string, unknown>;
  return JSON.stringify(rest);
}

describe("a database of an earlier version", () => {
  it("says the same of every project once it is brought up to date and all that is kept is made anew", async () => {
    expect((before["figures"] as unknown[]).length).toBeGreaterThan(4);
    expect(await fillRows(database)).toBe(4);
    const bare = await createConnection({ uri: url });
    const after = await rowsOf(async (sql) => JSON.parse(JSON.stringify((await bare.query(sql))[0])));
    await bare.end();
    const newest = (after["figures"] as { summary: string }[]).filter(({ summary }) => summary.includes('"start":"'));
    expect(newest).toHaveLength(4);
    for (const row of after["figures"] as { summary: string }[]) row.summary = withoutNew(row.summary);
    for (const [table] of KEPT) expect([table, after[table]]).toEqual([table, before[table]]);
  });

  it("has a register of what its projects had, and finds things by their names", async () => {
    const [counts] = (await database.query(
      `select (select count(*) from register_row where table_name = 'people') as people,
        (select count(distinct row_key) from plan_row where table_name = 'people'
          and project_id not in (select project_id from project_closing)
          and (project_id, row_key) not in (
            select project_id, json_value(doc, '$.person') from plan_row where table_name = 'placeholders'
          )) as ofProjects,
        (select count(distinct thing_id, project_id) from find_word where kind = 'a') as named,
        (select count(*) from activity_row) as activities`,
    )) as { people: string; ofProjects: string; named: string; activities: string }[];
    expect(counts!.people).toBe(counts!.ofProjects);
    expect(counts!.named).toBe(counts!.activities);
  });
});
