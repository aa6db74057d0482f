import type { MigrationInterface, QueryRunner } from "typeorm";

/** Plans on trial and the change requests of them; reserves and the draws on them. */
export class WhatIfs1800000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `create table if not exists what_if (
        id varchar(36) not null, project_id varchar(36) not null, name varchar(200) not null, base_revision int not null, version int not null,
        made_by varchar(36) not null, made_at datetime(3) not null, state varchar(12) not null, request int null, reason text null, draw text null,
        asked_by varchar(36) null, asked_at datetime(3) null, decided_by varchar(36) null, decided_at datetime(3) null, word text null, baseline int null,
        primary key (id), key what_if_project (project_id, state),
        constraint what_if_of_project foreign key (project_id) references project (id)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists what_if_list (
        what_if_id varchar(36) not null, version int not null, at datetime(3) not null, account_id varchar(36) not null, label varchar(200) not null,
        changes longtext not null, inverse longtext null, undoes int null,
        primary key (what_if_id, version), constraint what_if_list_of foreign key (what_if_id) references what_if (id)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists reserve_entry (
        id varchar(36) not null, project_id varchar(36) not null, kind varchar(12) not null, amount_minor bigint not null, reason varchar(1000) not null,
        made_by varchar(36) not null, made_at datetime(3) not null, request int null,
        primary key (id), key reserve_of_project (project_id, made_at), constraint reserve_project foreign key (project_id) references project (id)) engine=InnoDB`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ["reserve_entry", "what_if_list", "what_if"])
      await runner.query(`drop table if exists ${table}`);
  }
}
