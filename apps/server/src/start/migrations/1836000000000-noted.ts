import type { MigrationInterface, QueryRunner } from "typeorm";

/** What was changed of the house: accounts, settings, limits, rates, the register. */
export class Noted1836000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`create table if not exists house_change (
      id int not null auto_increment primary key,
      at datetime(3) not null,
      account_id varchar(36) not null,
      about varchar(12) not null,
      subject varchar(300) not null,
      \`lines\` mediumtext not null,
      key house_change_about (about, id)
    )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table house_change");
  }
}
