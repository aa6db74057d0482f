import type { MigrationInterface, QueryRunner } from "typeorm";

/** Other systems that are called, and the calls to them. */
export class Hooks1841000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`create table if not exists webhook (
      id varchar(36) not null,
      name varchar(120) not null,
      url varchar(1000) not null,
      secret varchar(80) not null,
      events varchar(200) not null,
      group_id varchar(36) null,
      made_by varchar(36) not null,
      made_at datetime(3) not null,
      primary key (id)
    ) engine=InnoDB`);
    await runner.query(`create table if not exists webhook_call (
      id varchar(36) not null,
      webhook_id varchar(36) not null,
      event varchar(20) not null,
      project_id varchar(36) null,
      body text not null,
      made_at datetime(3) not null,
      state varchar(8) not null,
      tries int not null default 0,
      next_at bigint not null,
      taken_at datetime(3) null,
      why varchar(500) null,
      primary key (id),
      key webhook_call_due (state, next_at),
      key webhook_call_of (webhook_id, made_at),
      key webhook_call_gathered (webhook_id, project_id, state)
    ) engine=InnoDB`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table webhook_call");
    await runner.query("drop table webhook");
  }
}
