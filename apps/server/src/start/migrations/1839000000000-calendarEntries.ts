import type { MigrationInterface, QueryRunner } from "typeorm";

/** What calendar programs were sent last. */
export class CalendarEntries1839000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`create table if not exists calendar_entry (
      feed_hash char(64) not null,
      entry_id varchar(180) character set utf8mb4 collate utf8mb4_bin not null,
      dates char(21) not null,
      digest char(64) not null,
      sequence int not null,
      changed_at datetime(3) not null,
      primary key (feed_hash, entry_id)
    )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table calendar_entry");
  }
}
