import type { MigrationInterface, QueryRunner } from "typeorm";

/** Weeks that were sent say that they were changed since. */
export class WeekChanges1815000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table week_sheet add column if not exists changed_at datetime(3) null");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table week_sheet drop column changed_at");
  }
}
