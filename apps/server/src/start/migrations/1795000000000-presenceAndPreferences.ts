import type { MigrationInterface, QueryRunner } from "typeorm";

const BINARY = "character set utf8mb4 collate utf8mb4_bin";

/** Who is on which plan now, and how each person likes the pages. */
export class PresenceAndPreferences1795000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `create table if not exists presence (
        project_id varchar(36) not null, client varchar(40) ${BINARY} not null, account_id varchar(36) not null, activity_id varchar(64) ${BINARY} null, seen_at bigint not null,
        primary key (project_id, client), constraint presence_project foreign key (project_id) references project (id)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists preference (
        account_id varchar(36) not null, name varchar(60) not null, value text not null,
        primary key (account_id, name), constraint preference_account foreign key (account_id) references account (id)) engine=InnoDB`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table preference");
    await runner.query("drop table presence");
  }
}
