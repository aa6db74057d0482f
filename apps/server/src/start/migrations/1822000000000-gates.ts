import type { MigrationInterface, QueryRunner } from "typeorm";

const TEXTS = "engine=InnoDB default character set utf8mb4 collate utf8mb4_bin";

/** Life cycles, the stages of projects, and what happened at their gates. */
export class Gates1822000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `create table if not exists life_cycle (
        id varchar(36) not null, kind varchar(100) not null, content mediumtext not null,
        primary key (id), unique index life_cycle_kind (kind)) ${TEXTS}`,
    );
    await runner.query(
      `create table if not exists project_life (
        project_id varchar(36) not null, life_cycle_id varchar(36) not null, passed mediumtext not null,
        said mediumtext not null,
        primary key (project_id), index project_life_cycle (life_cycle_id)) ${TEXTS}`,
    );
    await runner.query(
      `create table if not exists gate_event (
        id int not null auto_increment, project_id varchar(36) not null, stage_id varchar(36) not null,
        stage_name varchar(100) not null, gate_name varchar(100) not null, act varchar(12) not null,
        account_id varchar(36) not null, at datetime(3) not null, word text not null, conditions mediumtext not null,
        primary key (id), index gate_event_project (project_id, id)) ${TEXTS}`,
    );
    await runner.query(
      `create table if not exists gate_action (
        id varchar(36) not null, project_id varchar(36) not null, event_id int not null, position int not null,
        what varchar(300) not null, owner varchar(200) not null, due char(10), done_by varchar(36), done_at datetime(3),
        primary key (id), index gate_action_project (project_id)) ${TEXTS}`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ["gate_action", "gate_event", "project_life", "life_cycle"])
      await runner.query(`drop table ${table}`);
  }
}
