import type { MigrationInterface, QueryRunner } from "typeorm";

/** Through what lists of changes came, told from their labels so far, and how fields were before where nothing leads back. */
export class History1834000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    if (!(await runner.hasColumn("change_list", "were")))
      await runner.query("alter table change_list add column were longtext null");
    if (await runner.hasColumn("change_list", "through")) return;
    await runner.query("alter table change_list add column through varchar(10) null");
    await runner.query(
      `update change_list set through = case
          when undoes is not null then 'undo'
          when label like 'Accepted %report%' then 'reports'
          when label like 'Baseline % frozen' or label like 'Change request %' or label like 'Re-baselined with %' or label like 'Kept: %'
            then 'request'
          when label like 'Taken over from %' then 'file'
          when label like 'Posted %cost% of %' or label like 'Corrected costs of %' or label like 'Cost of %' then 'system'
          when label like 'From the register%' or label like '%, as the register has it' then 'register'
          else 'hand' end`,
    );
    await runner.query("alter table change_list modify column through varchar(10) not null default 'hand'");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table change_list drop column through, drop column were");
  }
}
