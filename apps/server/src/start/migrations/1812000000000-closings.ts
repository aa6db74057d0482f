import type { MigrationInterface, QueryRunner } from "typeorm";

/** The revision that closing a project made, which opening it again takes back; and plans behind baselines stay as baselines do. */
export class Closings1812000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table project_closing add column if not exists revision int null");
    for (const verb of ["update", "delete"])
      await runner.query(
        `create trigger if not exists baseline_plan_no_${verb} before ${verb} on baseline_plan for each row signal sqlstate '45000' set message_text = 'a baseline is written once and stays'`,
      );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const verb of ["update", "delete"]) await runner.query(`drop trigger if exists baseline_plan_no_${verb}`);
    await runner.query("alter table project_closing drop column revision");
  }
}
