import type { MigrationInterface, QueryRunner } from "typeorm";

const BINARY = "character set utf8mb4 collate utf8mb4_bin";

/**
 * What a request for approval asked for; lists of changes that are sent twice and stored once; mail on its way; people's time
 * zones; misses at signing in by account and address; files whose reading was cut off.
 */
export class NothingLost1805000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table approval add column if not exists revision int null");
    await runner.query(
      "create table if not exists approval_plan (approval_id varchar(36) not null, content longtext not null, primary key (approval_id)) engine=InnoDB",
    );
    for (const [table, of] of [
      ["change_list", "project_id"],
      ["what_if_list", "what_if_id"],
    ]) {
      await runner.query(`alter table ${table} add column if not exists list_id varchar(36) ${BINARY} null`);
      await runner.query(`alter table ${table} add unique key if not exists ${table}_once (${of}, list_id)`);
    }
    await runner.query(
      "alter table mail add column if not exists state varchar(10) not null default 'kept', add column if not exists tries int not null default 0, add column if not exists next_at bigint not null default 0, add column if not exists why varchar(500) null, add column if not exists reply_to varchar(320) null, add column if not exists link varchar(500) null",
    );
    await runner.query("alter table mail add key if not exists mail_state (state, next_at)");
    await runner.query("alter table account add column if not exists time_zone varchar(64) null");
    await runner.query(
      "create table if not exists sign_in_miss (who varchar(200) not null, misses int not null, last_at bigint not null, primary key (who)) engine=InnoDB",
    );
    await runner.query("drop table if exists sign_in_attempt");
    await runner.query("alter table import_draft add column if not exists alive_at bigint not null default 0");
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ["approval_plan", "sign_in_miss"]) await runner.query(`drop table if exists ${table}`);
  }
}
