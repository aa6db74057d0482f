import type { MigrationInterface, QueryRunner } from "typeorm";

/** Leave among the reports, and the locks of periods that late time must land behind. */
export class Collecting1797000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table report add column if not exists leave_until char(10) null after date");
    await runner.query(
      `create table if not exists period_lock (
        id varchar(36) not null, project_id varchar(36) not null, number int not null, data_date char(10) not null,
        locked_by varchar(36) not null, locked_at datetime(3) not null, reopened_by varchar(36) null, reopened_at datetime(3) null, reason varchar(1000) null,
        primary key (id), key period_lock_project (project_id, number),
        constraint period_lock_of_project foreign key (project_id) references project (id)) engine=InnoDB`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table if exists period_lock");
    await runner.query("alter table report drop column if exists leave_until");
  }
}
