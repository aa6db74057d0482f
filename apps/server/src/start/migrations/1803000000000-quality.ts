import type { MigrationInterface, QueryRunner } from "typeorm";

/** Figures keep what the checks of a plan came to; those kept before are written anew at the next start. */
export class Quality1803000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("update project set kept_revision = 0");
  }

  async down(): Promise<void> {
    // Figures that say more than is asked of them do no harm.
  }
}
