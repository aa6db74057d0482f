import type { MigrationInterface, QueryRunner } from "typeorm";

const BINARY = "character set utf8mb4 collate utf8mb4_bin";

/** What people are told: their inboxes, how they want mail, and as what activities were told last. */
export class Notices1833000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `create table if not exists notice (
        id varchar(36) not null, account_id varchar(36) not null, kind varchar(12) not null, subject varchar(300) not null, body mediumtext not null,
        link varchar(500) null, act varchar(40) not null, project_id varchar(36) null, about varchar(120) null, moved mediumtext null,
        from_id varchar(36) null, at datetime(3) not null, seen_at datetime(3) null, settled_at datetime(3) null,
        mail_at datetime(3) null, mail_id varchar(36) null,
        primary key (id), key notice_account (account_id, at), key notice_mail (mail_at), key notice_about (about)) engine=InnoDB`,
    );
    await runner.query(
      "create table if not exists telling (account_id varchar(36) not null, content text not null, primary key (account_id)) engine=InnoDB",
    );
    await runner.query(
      "create table if not exists told_project (project_id varchar(36) not null, revision int not null, primary key (project_id)) engine=InnoDB",
    );
    await runner.query(
      `create table if not exists told_activity (
        project_id varchar(36) not null, activity_id varchar(64) ${BINARY} not null, start varchar(10) null, finish varchar(10) null,
        deadline varchar(12) null, blocked varchar(200) null, primary key (project_id, activity_id)) engine=InnoDB`,
    );
    // A message tells many things at once, and whoever was sent mail last is looked up whenever something is told.
    await runner.query("alter table mail modify body mediumtext not null");
    await runner.query("alter table mail add index if not exists mail_account (account_id, sent_at)");
    // Reminders are looked for among notices from now on.
    await runner.query(
      `insert ignore into notice (id, account_id, kind, subject, body, link, act, at, seen_at, mail_id)
         select id, account_id, 'asked', subject, body, link, 'Open', sent_at, sent_at, id from mail
           where account_id is not null and subject like 'Your time of %'`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ["told_activity", "told_project", "telling", "notice"])
      await runner.query(`drop table if exists ${table}`);
    await runner.query("alter table mail drop index if exists mail_account");
  }
}
