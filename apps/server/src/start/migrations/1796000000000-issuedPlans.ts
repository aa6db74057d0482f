import type { MigrationInterface, QueryRunner } from "typeorm";

/** The plan of every issued period, for comparing; the database refuses to alter one. */
export class IssuedPlans1796000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `create table if not exists issued_plan (
        project_id varchar(36) not null, number int not null, content longtext not null, primary key (project_id, number),
        constraint issued_plan_project foreign key (project_id) references project (id)) engine=InnoDB`,
    );
    for (const verb of ["update", "delete"]) {
      await runner.query(
        `create trigger if not exists issued_plan_no_${verb} before ${verb} on issued_plan for each row signal sqlstate '45000' set message_text = 'an issued plan is written once and stays'`,
      );
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table issued_plan");
  }
}
