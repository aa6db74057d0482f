import type { MigrationInterface, QueryRunner } from "typeorm";

const TEXTS = "engine=InnoDB default character set utf8mb4 collate utf8mb4_bin";

/** How files were understood, kept under names. */
export class Understandings1820000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `create table if not exists understanding (
        id varchar(36) not null, name varchar(120) not null, answers mediumtext not null,
        kept_by varchar(36) not null, kept_at datetime(3) not null,
        primary key (id), unique index understanding_name (name)) ${TEXTS}`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table understanding");
  }
}
