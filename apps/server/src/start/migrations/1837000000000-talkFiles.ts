import type { MigrationInterface, QueryRunner } from "typeorm";

/** Files that go with what is said. */
export class TalkFiles1837000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`create table if not exists talk_file (
      id varchar(36) not null primary key,
      message_id varchar(36) null,
      about varchar(12) not null,
      project_id varchar(36) not null,
      about_id varchar(120) not null,
      account_id varchar(36) not null,
      at datetime(3) not null,
      key talk_file_message (message_id)
    )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table talk_file");
  }
}
