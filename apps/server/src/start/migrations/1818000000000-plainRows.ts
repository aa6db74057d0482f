import type { MigrationInterface, QueryRunner } from "typeorm";

/** Rows of activities are compared where plans are worked out, not by marks of what was written. */
export class PlainRows1818000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table activity_row drop column if exists mark, drop column if exists side_mark");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      "alter table activity_row add column mark char(22) not null default '', add column side_mark char(22) not null default ''",
    );
    await runner.query("update project set kept_revision = 0");
  }
}
