import type { MigrationInterface, QueryRunner } from "typeorm";

/** Groups may have limits of their own. */
export class GroupLimits1828000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table programme add column if not exists thresholds varchar(1000)");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table programme drop column thresholds");
  }
}
