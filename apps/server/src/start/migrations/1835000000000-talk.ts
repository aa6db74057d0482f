import type { MigrationInterface, QueryRunner } from "typeorm";

/** What is said about projects and what is in them, who takes part, and mail that can be answered. */
export class Talk1835000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`create table if not exists talk_message (
      id varchar(36) not null primary key,
      about varchar(12) not null,
      project_id varchar(36) not null,
      about_id varchar(120) not null,
      account_id varchar(36) not null,
      at datetime(3) not null,
      text mediumtext not null,
      named text not null,
      by_mail tinyint not null,
      mail_id varchar(255),
      was mediumtext not null,
      removed_by varchar(36),
      key talk_project (project_id),
      key talk_place (about, project_id, about_id, at),
      key talk_account (account_id),
      unique key talk_mail (mail_id)
    )`);
    await runner.query(`create table if not exists following (
      account_id varchar(36) not null,
      about varchar(12) not null,
      project_id varchar(36) not null,
      about_id varchar(120) not null,
      follows tinyint not null,
      ended tinyint not null,
      pinned tinyint not null,
      primary key (account_id, about, project_id, about_id),
      key following_place (about, project_id, about_id)
    )`);
    await runner.query(`create table if not exists announcement (
      id varchar(36) not null primary key,
      project_id varchar(36),
      group_id varchar(36),
      account_id varchar(36) not null,
      at datetime(3) not null,
      until char(10) not null,
      text text not null,
      ended_by varchar(36),
      key announcement_until (until)
    )`);
    await runner.query("alter table notice modify column about varchar(200) null");
    if (!(await runner.hasColumn("mail", "thread")))
      await runner.query("alter table mail add column thread varchar(200) null");
    if (!(await runner.hasColumn("mail", "answer_key")))
      await runner.query(
        "alter table mail add column answer_key char(32) null, add unique key mail_answer (answer_key)",
      );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table mail drop column thread, drop column answer_key");
    await runner.query("alter table notice modify column about varchar(120) null");
    for (const table of ["announcement", "following", "talk_message"]) await runner.query(`drop table ${table}`);
  }
}
