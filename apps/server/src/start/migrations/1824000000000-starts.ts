import type { MigrationInterface, QueryRunner } from "typeorm";

/** The first day of each project, and the first that was approved, are kept with its figures. */
export class Starts1824000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("update project set kept_revision = 0");
  }

  async down(): Promise<void> {
    // What was kept is read without it too.
  }
}
