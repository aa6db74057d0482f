import type { MigrationInterface, QueryRunner } from "typeorm";

/** The estimate at completion of issued periods, which the database takes out of their summaries itself. */
export class LockedEstimates1809000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      "alter table issued_period add column if not exists estimate double generated always as (json_value(summary, '$.figures.eacBottomUp')) stored",
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table issued_period drop column if exists estimate");
  }
}
