import type { MigrationInterface, QueryRunner } from "typeorm";

/** Change requests that are approved alone; those of before froze the whole plan as it stood. */
export class RequestsAlone1811000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table what_if add column if not exists whole tinyint not null default 0");
    await runner.query("update what_if set whole = 1 where baseline is not null");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table what_if drop column whole");
  }
}
