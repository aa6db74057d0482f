import type { MigrationInterface, QueryRunner } from "typeorm";

/**
 * The register of calendars, people, teams and categories. It begins with what projects have: of rows of one id (of teams and
 * categories, of one name) the one that most say alike, those of the commonest currency first. No plan is touched.
 */
export class Register1817000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`create table if not exists register_row (
      table_name varchar(20) character set utf8mb4 collate utf8mb4_bin not null,
      row_key varchar(80) character set utf8mb4 collate utf8mb4_bin not null,
      doc mediumtext not null,
      changed_by varchar(36) null,
      changed_at datetime(3) null,
      primary key (table_name, row_key)
    )`);
    const [house] = (await runner.query(
      `select json_value(head, '$.currency') as currency, coalesce(json_value(head, '$.minorDigits'), 2) as digits
        from project group by 1, 2 order by count(*) desc, 1 limit 1`,
    )) as { currency: string; digits: number }[];
    if (house === undefined) return;
    await runner.query("insert ignore into setting (name, value) values ('register', ?)", [
      JSON.stringify({ currency: house.currency, minorDigits: Number(house.digits) }),
    ]);
    await runner.query(
      `insert ignore into register_row (table_name, row_key, doc)
        select table_name, row_key, if(table_name = 'people' and foreign_money, json_remove(doc, '$.rates'), doc) from (
          select r.table_name, r.row_key, r.doc, max(json_value(p.head, '$.currency') <> ?) as foreign_money,
            row_number() over (
              partition by r.table_name,
                if(r.table_name in ('teams', 'categories'), lower(json_value(r.doc, '$.name')), r.row_key)
              order by max(json_value(p.head, '$.currency') <> ?), count(*) desc, r.row_key, r.doc
            ) as place
          from plan_row r join project p on p.id = r.project_id
          where r.table_name in ('calendars', 'people', 'teams', 'categories')
          group by r.table_name, r.row_key, r.doc
        ) ranked where place = 1`,
      [house.currency, house.currency],
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table register_row");
    await runner.query("delete from setting where name = 'register'");
  }
}
