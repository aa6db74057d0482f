import type { MigrationInterface, QueryRunner } from "typeorm";

/** Files, in parts, and links of projects and what is in them. */
export class Documents1827000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`create table if not exists document (
      id varchar(36) not null primary key,
      project_id varchar(36) not null,
      about varchar(12) not null,
      about_id varchar(80) not null,
      name varchar(200) not null,
      link varchar(2000),
      account_id varchar(36) not null,
      at datetime(3) not null,
      removed_by varchar(36),
      removed_at datetime(3),
      key document_project (project_id)
    )`);
    await runner.query(`create table if not exists document_version (
      document_id varchar(36) not null,
      number int not null,
      file varchar(255) not null,
      type varchar(100) not null,
      size int not null,
      digest char(64) not null,
      content_id varchar(36) not null,
      account_id varchar(36) not null,
      at datetime(3) not null,
      primary key (document_id, number),
      key document_version_content (content_id)
    )`);
    await runner.query(`create table if not exists document_part (
      content_id varchar(36) not null,
      part int not null,
      at datetime(3) not null,
      bytes mediumblob not null,
      primary key (content_id, part)
    )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ["document_part", "document_version", "document"]) await runner.query(`drop table ${table}`);
  }
}
