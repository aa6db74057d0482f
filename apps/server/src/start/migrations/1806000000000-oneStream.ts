import type { MigrationInterface, QueryRunner } from "typeorm";

/** By which stream a page listens, since one serves all pages of a browser. */
export class OneStream1806000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table presence add column if not exists stream varchar(36) null");
    await runner.query("alter table presence add key if not exists presence_stream (stream)");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("alter table presence drop column if exists stream");
  }
}
