import type { MigrationInterface, QueryRunner } from "typeorm";

/** Planned value by calendar month; of plans stored before it is written at the next start. */
export class Planned1831000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `create table if not exists planned_month (
        project_id varchar(36) not null, begins char(10) not null, amount bigint not null, currency char(3) not null, digits int not null,
        primary key (project_id, begins)) engine=InnoDB`,
    );
    await runner.query("update project set kept_revision = 0");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table if exists planned_month");
  }
}
