import type { MigrationInterface, QueryRunner } from "typeorm";

/** Groups have a manager. */
export class Groups1825000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table programme add column if not exists manager_id varchar(36)");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table programme drop column manager_id");
  }
}
