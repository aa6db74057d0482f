import type { MigrationInterface, QueryRunner } from "typeorm";

/** The first plan of a project that runs already may have been approved before it came here. */
export class Agreed1830000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table approval add column if not exists agreed_on varchar(10)");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table approval drop column agreed_on");
  }
}
