import type { MigrationInterface, QueryRunner } from "typeorm";

/** Plans that others begin with. */
export class Templates1823000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `create table if not exists template (
        id varchar(36) not null, name varchar(200) not null, description text not null, made_by varchar(36) not null,
        made_at datetime(3) not null, plan longtext not null, charter mediumtext, life_cycle_id varchar(36),
        repeats mediumtext not null,
        primary key (id), unique index template_name (name)
      ) engine=InnoDB default character set utf8mb4 collate utf8mb4_bin`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table template");
  }
}
