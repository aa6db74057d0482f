import type { MigrationInterface, QueryRunner } from "typeorm";

/** A role may be given for groups alone. */
export class Reach1829000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table account add column if not exists only_in text");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table account drop column only_in");
  }
}
