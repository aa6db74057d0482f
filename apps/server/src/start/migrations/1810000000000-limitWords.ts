import type { MigrationInterface, QueryRunner } from "typeorm";

/** An explanation for each limit that is broken: its name stands with the step. */
export class LimitWords1810000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table cycle_mark modify step varchar(40) not null");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("delete from cycle_mark where char_length(step) > 12");
    await runner.query("alter table cycle_mark modify step varchar(12) not null");
  }
}
