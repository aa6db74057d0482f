import type { MigrationInterface, QueryRunner } from "typeorm";

const BINARY = "character set utf8mb4 collate utf8mb4_bin";

/** Risks as rows over all projects; those of plans stored before are written at the next start. */
export class Risks1804000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `create table if not exists risk_row (
        project_id varchar(36) not null, entry varchar(80) ${BINARY} not null, activity_id varchar(64) ${BINARY} not null, risk varchar(500) not null, chance double not null,
        least double null, likely double null, most double null, expected double null, cost_likely bigint not null, cost_expected bigint not null, currency char(3) not null, scale int not null,
        primary key (project_id, entry), key risk_row_chance (chance)) engine=InnoDB`,
    );
    await runner.query("update project set kept_revision = 0");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table if exists risk_row");
  }
}
