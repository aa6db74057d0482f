import type { MigrationInterface, QueryRunner } from "typeorm";

const TEXTS = "engine=InnoDB default character set utf8mb4 collate utf8mb4_bin";

/** Reports: what is said while they are made, what was issued, and how they are laid out. */
export class Reports1819000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `create table if not exists report_said (
        subject_id varchar(36) not null, number int not null, aspect varchar(12) not null, version int not null,
        rating varchar(8) null, reason varchar(500) not null, text text null,
        said_by varchar(36) not null, said_at datetime(3) not null,
        primary key (subject_id, number, aspect)) ${TEXTS}`,
    );
    await runner.query(
      `create table if not exists issued_report (
        subject_id varchar(36) not null, number int not null, edition int not null, data_date char(10) not null,
        issued_by varchar(36) not null, issued_at datetime(3) not null,
        content longtext not null, digest char(64) not null,
        primary key (subject_id, number, edition)) ${TEXTS}`,
    );
    await runner.query(
      `create table if not exists report_layout (
        group_id varchar(36) not null, sections varchar(500) not null, primary key (group_id)) ${TEXTS}`,
    );
    await runner.query(
      `create table if not exists report_recipient (
        subject_id varchar(36) not null, recipient varchar(320) not null, kind varchar(8) not null,
        primary key (subject_id, recipient)) ${TEXTS}`,
    );
    await runner.query("alter table mail add column if not exists attachment varchar(200) null");
    for (const verb of ["update", "delete"])
      await runner.query(
        `create trigger if not exists issued_report_no_${verb} before ${verb} on issued_report for each row signal sqlstate '45000' set message_text = 'an issued report is written once and stays'`,
      );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table mail drop column if exists attachment");
    for (const table of ["report_recipient", "report_layout", "issued_report", "report_said"])
      await runner.query(`drop table ${table}`);
  }
}
