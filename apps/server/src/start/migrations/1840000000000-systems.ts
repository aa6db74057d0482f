import type { MigrationInterface, QueryRunner } from "typeorm";

/** Tokens say what they are for, for which group and until when; those there were go on sending. */
export class Systems1840000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`alter table api_token
      add column if not exists purposes varchar(120) not null default 'sendTime,sendCosts' after hash,
      add column if not exists group_id varchar(36) null after purposes,
      add column if not exists last_day char(10) null after group_id`);
    await runner.query("alter table api_token alter column purposes drop default");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table api_token drop column purposes, drop column group_id, drop column last_day");
  }
}
