import type { MigrationInterface, QueryRunner } from "typeorm";

/** Plans as they were exported, so that a file that comes back is compared with what it was made from. */
export class ExportedPlans1814000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`create table if not exists exported_plan (
      project_id varchar(36) not null,
      revision int not null,
      exported_at datetime(3) not null,
      content longblob not null,
      primary key (project_id, revision),
      foreign key (project_id) references project (id) on delete cascade
    ) engine=InnoDB`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table exported_plan");
  }
}
