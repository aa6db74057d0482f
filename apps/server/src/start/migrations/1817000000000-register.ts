import type { MigrationInterface, QueryRunner } from "typeorm";

/**
 * Rows of open projects: leave is a project's own, so that people stand there by the calendar that they work by, leave apart; whoever
 * stands for a role is nobody yet.
 */
const OF_OPEN_PROJECTS = `select o.table_name, o.row_key,
    if(o.table_name = 'people' and json_value(o.doc, '$.calendar') = concat('leave-', o.row_key),
      json_set(o.doc, '$.calendar', json_value(l.doc, '$.base')), o.doc) as doc,
    json_value(p.head, '$.currency') <> ? or coalesce(json_value(p.head, '$.minorDigits'), 2) <> ? as other_money
  from plan_row o join project p on p.id = o.project_id
  left join plan_row l on l.project_id = o.project_id and l.table_name = 'calendars'
    and l.row_key = concat('leave-', o.row_key)
  where o.table_name in ('calendars', 'people', 'teams', 'categories')
    and o.project_id not in (select project_id from project_closing)
    and not (o.table_name = 'calendars' and o.row_key like 'leave-%')
    and not (o.table_name = 'people' and exists (
      select 1 from plan_row h where h.project_id = o.project_id and h.table_name = 'placeholders'
        and json_value(h.doc, '$.person') = o.row_key))`;

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
        select table_name, row_key, if(table_name = 'people' and other_money, json_remove(doc, '$.rates'), doc) from (
          select r.table_name, r.row_key, r.doc, max(r.other_money) as other_money,
            row_number() over (
              partition by r.table_name,
                if(r.table_name in ('teams', 'categories'), lower(json_value(r.doc, '$.name')), r.row_key)
              order by max(r.other_money), count(*) desc, r.row_key, r.doc
            ) as place
          from (${OF_OPEN_PROJECTS}) r
          group by r.table_name, r.row_key, r.doc
        ) ranked where place = 1`,
      [house.currency, house.digits],
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table register_row");
    await runner.query("delete from setting where name = 'register'");
  }
}
