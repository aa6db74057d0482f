import type { MigrationInterface, QueryRunner } from "typeorm";

/** A group says which parts its own report has; all in their order where it did not say. */
export class GroupParts1826000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      "alter table report_layout add column if not exists group_sections varchar(200) not null default ''",
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table report_layout drop column group_sections");
  }
}
