import { freshDatabase } from "../testing/testWorld.ts";
import { openDatabase } from "./database.ts";

describe("the schema", () => {
  it("can be brought up to date again at any time, also by two servers starting at once, and changes nothing then", async () => {
    const { url, database, drop } = await freshDatabase();
    const tables = async (): Promise<unknown> => database.query("select table_name, table_rows from information_schema.tables where table_schema = database() order by 1");
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
    expect(await again.query("select trigger_name from information_schema.triggers where trigger_schema = database()")).toHaveLength(6);
    await again.destroy();
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
      const rows = (await database.query("select column_name as name, data_type as type, is_nullable as nullable from information_schema.columns where table_schema = database() and table_name = ?", [entity.tableName])) as { name: string; type: string; nullable: string }[];
      const known = new Map(rows.map((row) => [row.name, row]));
      expect([entity.tableName, [...known.keys()].sort()]).toEqual([entity.tableName, entity.columns.map(({ databaseName }) => databaseName).sort()]);
      for (const column of entity.columns) {
        const type = column.type === "simple-json" ? "text" : String(column.type);
        expect([entity.tableName, column.databaseName, known.get(column.databaseName)!.type, known.get(column.databaseName)!.nullable]).toEqual([entity.tableName, column.databaseName, type, column.isNullable ? "YES" : "NO"]);
      }
    }
    await drop();
  });
});
