import type { MigrationInterface, QueryRunner } from "typeorm";

const BINARY = "character set utf8mb4 collate utf8mb4_bin";

/** Rows kept of every activity, of time and costs and of people's weeks, so that questions over all projects are answered by indexes; the questions themselves; and what a portfolio knows of its projects beside their plans. */
export class Watch1802000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    // No index on what most rows share, such as their kind or that they have no owner: a look-up a row is slower than reading them all.
    await runner.query(
      `create table if not exists activity_row (
        project_id varchar(36) not null, activity_id varchar(64) ${BINARY} not null, mark char(22) ${BINARY} not null, side_mark char(22) ${BINARY} not null,
        name varchar(500) not null, branch varchar(1000) not null, kind varchar(16) ${BINARY} not null, state varchar(12) ${BINARY} not null, owner_id varchar(64) ${BINARY} null, owner varchar(500) null,
        start char(10) null, finish char(10) null, baseline_start char(10) null, baseline_finish char(10) null, drift double null, total_float double null, critical tinyint not null,
        percent double null, deadline char(10) null, margin double null, deadline_state varchar(12) ${BINARY} null, wish varchar(16) ${BINARY} null, duration double null,
        planned int not null, remaining int not null, posted int not null, bac bigint not null, pv bigint not null, ev bigint not null, ac bigint not null, estimate bigint not null,
        currency char(3) not null, scale int not null, blocked tinyint not null, blocked_by varchar(500) null, reported char(10) null, links_in int not null, links_out int not null,
        primary key (project_id, activity_id),
        key activity_row_finish (finish, state), key activity_row_start (start, state), key activity_row_baseline (baseline_finish, state), key activity_row_deadline (deadline_state, margin), key activity_row_blocked (blocked, state)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists activity_person (
        project_id varchar(36) not null, activity_id varchar(64) ${BINARY} not null, person_id varchar(64) ${BINARY} not null, name varchar(500) not null, role varchar(500) null,
        primary key (project_id, activity_id, person_id), key activity_person_person (person_id), key activity_person_role (role)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists activity_value (
        project_id varchar(36) not null, activity_id varchar(64) ${BINARY} not null, field varchar(200) not null, text varchar(500) null, number double null,
        primary key (project_id, activity_id, field), key activity_value_text (field, text), key activity_value_number (field, number)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists spent_row (
        project_id varchar(36) not null, kind varchar(4) ${BINARY} not null, entry varchar(80) ${BINARY} not null, activity_id varchar(64) ${BINARY} not null, date char(10) not null,
        person_id varchar(64) ${BINARY} null, person varchar(500) null, role varchar(500) null, category varchar(500) null, minutes int not null, amount bigint not null, note varchar(1000) not null,
        primary key (project_id, kind, entry), key spent_row_date (kind, date), key spent_row_person (kind, person_id, date), key spent_row_activity (project_id, activity_id)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists load_week (
        project_id varchar(36) not null, person_id varchar(64) ${BINARY} not null, monday char(10) not null, demand int not null, things int not null, planned int not null, posted int not null,
        primary key (project_id, person_id, monday), key load_week_monday (monday)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists watchlist (
        id varchar(36) not null, name varchar(120) not null, account_id varchar(36) not null, question text not null, roles varchar(100) not null, made_at datetime(3) not null,
        primary key (id), key watchlist_account (account_id)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists calendar_feed (
        hash char(64) not null, account_id varchar(36) not null, subject varchar(36) not null, made_at datetime(3) not null,
        primary key (hash), unique key calendar_feed_one (account_id, subject)) engine=InnoDB`,
    );
    await runner.query(
      "create table if not exists baseline_plan (project_id varchar(36) not null, number int not null, content longtext not null, primary key (project_id, number)) engine=InnoDB",
    );
    await runner.query(
      "alter table figures add column if not exists line mediumtext not null default '' after summary",
    );
    await runner.query("alter table programme add column if not exists parent_id varchar(36) null");
    // Made by the database from what was issued, which nothing alters: paths over many periods would read megabytes otherwise.
    for (const [column, path] of [
      ["spi", "$.figures.spi"],
      ["cpi", "$.figures.cpi"],
      ["drift", "$.drift"],
    ])
      await runner.query(
        `alter table issued_period add column if not exists ${column} double generated always as (json_value(summary, '${path}')) stored`,
      );
    await runner.query(
      "create table if not exists project_field (id varchar(36) not null, position int not null, definition text not null, primary key (id)) engine=InnoDB",
    );
    await runner.query(
      "create table if not exists project_value (project_id varchar(36) not null, field_id varchar(36) not null, value text not null, primary key (project_id, field_id)) engine=InnoDB",
    );
    await runner.query(
      "create table if not exists project_says (project_id varchar(36) not null, rating varchar(8) not null, note varchar(1000) not null, said_by varchar(36) not null, said_at datetime(3) not null, primary key (project_id)) engine=InnoDB",
    );
    // Projects that were there before have no rows yet: they are written when the server starts.
    await runner.query("alter table project add column if not exists kept_revision int not null default 0");
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of [
      "calendar_feed",
      "watchlist",
      "load_week",
      "spent_row",
      "activity_value",
      "activity_person",
      "activity_row",
    ])
      await runner.query(`drop table if exists ${table}`);
    for (const table of ["baseline_plan", "project_says", "project_value", "project_field"])
      await runner.query(`drop table if exists ${table}`);
    for (const column of ["spi", "cpi", "drift"])
      await runner.query(`alter table issued_period drop column if exists ${column}`);
    await runner.query("alter table figures drop column if exists line");
    await runner.query("alter table programme drop column if exists parent_id");
    await runner.query("alter table project drop column if exists kept_revision");
  }
}
