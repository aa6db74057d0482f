import type { MigrationInterface, QueryRunner } from "typeorm";

/** The words of names, by which things are found from anywhere; they are written for all projects when the server starts. */
export class Names1816000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`create table if not exists find_word (
      word varchar(40) character set utf8mb4 collate utf8mb4_bin not null,
      project_id varchar(36) not null,
      kind char(1) character set utf8mb4 collate utf8mb4_bin not null,
      thing_id varchar(64) character set utf8mb4 collate utf8mb4_bin not null,
      primary key (word, project_id, kind, thing_id),
      key find_word_thing (project_id, kind, thing_id)
    )`);
    await runner.query("update project set kept_revision = 0");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("drop table find_word");
  }
}
