import { freshDatabase } from "../testing/testWorld.ts";
import { rightsBeyond } from "./database.ts";
import { openDatabase } from "../start/openDatabase.ts";

describe("the schema", () => {
  it("can be brought up to date again at any time, also by two servers starting at once, and changes nothing then", async () => {
    const { url, database, drop } = await freshDatabase();
    const tables = async (): Promise<unknown> =>
      database.query(
        "select table_name, table_rows from information_schema.tables where table_schema = database() order by 1",
      );
    const before = await tables();
    const again = await Promise.all([openDatabase(url), openDatabase(url)]);
    expect(await tables()).toEqual(before);
    await Promise.all(again.map((source) => source.destroy()));
    await drop();
  });

  it("is completed where a start was killed while it made it", async () => {
    const { url, database, drop } = await freshDatabase();
    await database.query("delete from migrations");
    await database.query("drop table import_draft");
    await database.query("drop trigger baseline_no_delete");
    const again = await openDatabase(url);
    expect(await again.query("select count(*) as n from import_draft")).toHaveLength(1);
    expect(
      await again.query("select trigger_name from information_schema.triggers where trigger_schema = database()"),
    ).toHaveLength(10);
    await again.destroy();
    await drop();
  });

  it("lets the application's own user write rows, and neither empty, alter nor drop what was frozen, nor what guards it", async () => {
    const { url, database, drop } = await freshDatabase();
    const [{ name }] = (await database.query("select database() as name")) as [{ name: string }];
    await database.query("create or replace user 'frozen_test'@'%' identified by 'pass'");
    await database.query(`grant select, insert, update, delete on ${name}.* to 'frozen_test'@'%'`);
    const at = new URL(url);
    Object.assign(at, { username: "frozen_test", password: "pass" });
    const app = await openDatabase(at.href, url);
    expect(await rightsBeyond(app)).toEqual([]);
    expect(await rightsBeyond(database)).toContain("DROP");
    for (const table of ["baseline", "baseline_plan", "issued_period", "issued_plan", "issued_report"]) {
      for (const act of [
        `truncate table ${table}`,
        `drop table ${table}`,
        `alter table ${table} add spoilt int`,
        `drop trigger ${table}_no_delete`,
      ])
        await expect(app.query(act)).rejects.toThrow(/denied/);
    }
    await app.query("insert into setting (name, value) values ('kept', '1')");
    await app.query("delete from setting where name = 'kept'");
    await app.query("insert into baseline_plan (project_id, number, content) values ('p', 1, '{}')");
    for (const act of ["update baseline_plan set content = '[]'", "delete from baseline_plan"])
      await expect(app.query(act)).rejects.toThrow(/written once and stays/);
    await app.destroy();
    await database.query("drop user 'frozen_test'@'%'");
    await drop();
  });

  it("has a primary key and InnoDB everywhere, as a cluster needs", async () => {
    const { database, drop } = await freshDatabase();
    const bare = await database.query(
      `select t.table_name from information_schema.tables t
       left join information_schema.table_constraints c on c.table_schema = t.table_schema and c.table_name = t.table_name and c.constraint_type = 'PRIMARY KEY'
       where t.table_schema = database() and (c.constraint_name is null or t.engine <> 'InnoDB')`,
    );
    expect(bare).toEqual([]);
    await drop();
  });

  it("holds for every entity a column of the same name and a type that fits", async () => {
    const { database, drop } = await freshDatabase();
    for (const entity of database.entityMetadatas) {
      const rows = (await database.query(
        "select column_name as name, data_type as type, is_nullable as nullable from information_schema.columns where table_schema = database() and table_name = ?",
        [entity.tableName],
      )) as { name: string; type: string; nullable: string }[];
      const known = new Map(rows.map((row) => [row.name, row]));
      expect([entity.tableName, [...known.keys()].sort()]).toEqual([
        entity.tableName,
        entity.columns.map(({ databaseName }) => databaseName).sort(),
      ]);
      for (const column of entity.columns) {
        const type = { "simple-json": "text", boolean: "tinyint" }[String(column.type)] ?? String(column.type);
        expect([
          entity.tableName,
          column.databaseName,
          known.get(column.databaseName)!.type,
          known.get(column.databaseName)!.nullable,
        ]).toEqual([entity.tableName, column.databaseName, type, column.isNullable ? "YES" : "NO"]);
      }
    }
    await drop();
  });
});
