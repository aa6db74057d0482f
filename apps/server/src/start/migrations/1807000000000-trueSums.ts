import type { MigrationInterface, QueryRunner } from "typeorm";

/** Under which branch a row lies, so that sums count nothing twice; rows of plans stored before are written at the next start. */
export class TrueSums1807000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      "alter table activity_row add column if not exists parent_id varchar(64) character set utf8mb4 collate utf8mb4_bin null",
    );
    await runner.query("update project set kept_revision = 0");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table activity_row drop column if exists parent_id");
  }
}
