import type { MigrationInterface, QueryRunner } from "typeorm";

/** Editions of issued periods, the reporting calendar, marks on steps of the cycle, and closed projects. */
export class Cycle1799000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const table of ["issued_period", "issued_plan"]) {
      await runner.query(`alter table ${table} add column if not exists edition int not null default 1 after number`);
      await runner.query(`alter table ${table} drop primary key, add primary key (project_id, number, edition)`);
    }
    await runner.query(
      "create table if not exists planned_period (data_date char(10) not null, issue_by char(16) not null, primary key (data_date)) engine=InnoDB",
    );
    await runner.query(
      `create table if not exists cycle_mark (
        project_id varchar(36) not null, number int not null, step varchar(12) not null, words text not null, marked_by varchar(36) not null, marked_at datetime(3) not null,
        primary key (project_id, number, step), constraint cycle_mark_project foreign key (project_id) references project (id)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists project_closing (
        project_id varchar(36) not null, closed_by varchar(36) not null, closed_at datetime(3) not null, word varchar(1000) not null,
        primary key (project_id), constraint project_closing_of foreign key (project_id) references project (id)) engine=InnoDB`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ["planned_period", "cycle_mark", "project_closing"])
      await runner.query(`drop table if exists ${table}`);
  }
}
