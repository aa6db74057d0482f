import type { MigrationInterface, QueryRunner } from "typeorm";

/** Why a period was locked though something of it fell short. */
export class LockWords1808000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table period_lock add column if not exists word varchar(1000) null");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table period_lock drop column if exists word");
  }
}
