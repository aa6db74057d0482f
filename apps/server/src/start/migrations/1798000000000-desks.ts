import type { MigrationInterface, QueryRunner } from "typeorm";

const BINARY = "character set utf8mb4 collate utf8mb4_bin";

/** What a desk keeps: the running clock, and what its owner had seen; and the simulated mailbox. */
export class Desks1798000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `create table if not exists clock (
        person_id varchar(64) ${BINARY} not null, project_id varchar(36) not null, activity_id varchar(64) ${BINARY} not null, started_at datetime(3) not null,
        primary key (person_id), constraint clock_project foreign key (project_id) references project (id)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists desk_look (person_id varchar(64) ${BINARY} not null, at datetime(3) not null, seen mediumtext not null, primary key (person_id)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists mail (
        id varchar(36) not null, account_id varchar(36) null, address varchar(320) not null, subject varchar(300) not null, body text not null, sent_at datetime(3) not null,
        primary key (id), key mail_of_account (account_id, sent_at), key mail_sent (sent_at)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists week_sheet (
        person_id varchar(64) ${BINARY} not null, monday char(10) not null, state varchar(12) not null, sent_at datetime(3) not null,
        decided_by varchar(36) null, decided_at datetime(3) null, word varchar(1000) null,
        primary key (person_id, monday), key week_sheet_state (state)) engine=InnoDB`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ["clock", "desk_look", "mail", "week_sheet"])
      await runner.query(`drop table if exists ${table}`);
  }
}
