import type { MigrationInterface, QueryRunner } from "typeorm";

const TEXTS = "engine=InnoDB default character set utf8mb4 collate utf8mb4_bin";

/** Charters of projects, and what was written into them. */
export class Charters1821000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `create table if not exists project_charter (
        project_id varchar(36) not null, state varchar(10) not null, content mediumtext not null,
        primary key (project_id)) ${TEXTS}`,
    );
    await runner.query(
      `create table if not exists charter_log (
        id int not null auto_increment, project_id varchar(36) not null, at datetime(3) not null,
        account_id varchar(36) not null, what varchar(1000) not null,
        primary key (id), index charter_log_project (project_id, id)) ${TEXTS}`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ["charter_log", "project_charter"]) await runner.query(`drop table ${table}`);
  }
}
