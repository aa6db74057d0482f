import type { MigrationInterface, QueryRunner } from "typeorm";

const BINARY = "character set utf8mb4 collate utf8mb4_bin";

/** Costs and time from other systems: files, lines, how lines were matched before, and tokens. */
export class Outside1801000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `create table if not exists api_token (
        id varchar(36) not null, name varchar(120) not null, hash char(64) not null, made_by varchar(36) not null, made_at datetime(3) not null, used_at datetime(3) null,
        primary key (id), unique key api_token_hash (hash)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists outside_file (
        id varchar(36) not null, digest char(64) not null, kind varchar(8) not null, name varchar(300) not null, brought_by varchar(36) not null, brought_at datetime(3) not null, taken_at datetime(3) null, source longtext null,
        primary key (id), key outside_file_digest (digest)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists outside_line (
        id varchar(36) not null, kind varchar(8) not null, source varchar(300) not null, fingerprint char(64) not null, state varchar(12) not null,
        said_project varchar(400) not null, said_activity varchar(400) not null, said_person varchar(400) not null,
        project_id varchar(36) null, activity_id varchar(64) ${BINARY} null, person_id varchar(64) ${BINARY} null,
        date char(10) not null, amount double null, minutes int null, category varchar(200) not null, reference varchar(200) not null, note varchar(1000) not null,
        why varchar(500) null, came_at datetime(3) not null, decided_by varchar(36) null,
        primary key (id), unique key outside_line_once (fingerprint), key outside_line_state (state, project_id)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists outside_match (
        kind varchar(8) not null, said char(64) not null, project_id varchar(36) not null, activity_id varchar(64) ${BINARY} not null, person_id varchar(64) ${BINARY} null,
        primary key (kind, said)) engine=InnoDB`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ["outside_match", "outside_line", "outside_file", "api_token"])
      await runner.query(`drop table if exists ${table}`);
  }
}
