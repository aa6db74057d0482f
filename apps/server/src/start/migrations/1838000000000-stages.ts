import type { MigrationInterface, QueryRunner } from "typeorm";

/** Stages that reports say work has come to. */
export class Stages1838000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table report add column if not exists stage varchar(4000) null after remaining_minutes");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table report drop column if exists stage");
  }
}
