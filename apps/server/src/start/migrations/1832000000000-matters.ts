import type { MigrationInterface, QueryRunner } from "typeorm";

const BINARY = "character set utf8mb4 collate utf8mb4_bin";

/** Registers, what happened in them, and the heads of risks over all projects, written at the next start. */
export class Matters1832000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `create table if not exists matter (
        id varchar(120) ${BINARY} not null, kind varchar(12) not null, project_id varchar(36) null, group_id varchar(36) null, risk_id varchar(64) ${BINARY} null,
        title varchar(200) not null, state varchar(8) not null, severity varchar(64) null, owner varchar(64) ${BINARY} null,
        raised_by varchar(36) null, raised_on varchar(10) null, due varchar(10) null, closed_on varchar(10) null,
        chance double null, content mediumtext not null, removed tinyint not null default 0,
        primary key (id), key matter_project (project_id, kind), key matter_group (group_id), key matter_owner (owner), key matter_due (due)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists matter_tie (
        matter_id varchar(120) ${BINARY} not null, position int not null, about varchar(12) not null, about_id varchar(80) ${BINARY} not null,
        primary key (matter_id, position), key matter_tie_about (about_id, about)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists matter_event (
        id int not null auto_increment, matter_id varchar(120) ${BINARY} not null, at datetime(3) not null, account_id varchar(36) not null,
        field varchar(40) not null, was text not null, value text not null,
        primary key (id), key matter_event_matter (matter_id, id)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists matter_standing (
        project_id varchar(36) not null, number int not null, matter_id varchar(120) ${BINARY} not null, chance double not null, severity varchar(64) null,
        primary key (project_id, number, matter_id)) engine=InnoDB`,
    );
    await runner.query(
      `create table if not exists risk_head (
        project_id varchar(36) not null, risk_id varchar(64) ${BINARY} not null, name varchar(500) not null, chance double not null, gone varchar(8) null,
        expected bigint not null, currency char(3) not null, digits int not null,
        primary key (project_id, risk_id)) engine=InnoDB`,
    );
    await runner.query("update project set kept_revision = 0");
    await this.takeActions(runner);
  }

  /** What gates asked for stands in the register of actions from now on. */
  private async takeActions(runner: QueryRunner): Promise<void> {
    if (!(await runner.hasColumn("gate_action", "what"))) return;
    await runner.query(
      `insert ignore into matter (id, kind, project_id, title, state, raised_by, raised_on, due, closed_on, content)
         select a.id, 'action', a.project_id, left(a.what, 200), if(a.done_at is null, 'open', 'settled'), e.account_id, date_format(e.at, '%Y-%m-%d'), a.due,
             date_format(a.done_at, '%Y-%m-%d'), json_object('text', if(char_length(a.what) > 200, a.what, ''), 'closedBy', a.done_by)
           from gate_action a join gate_event e on e.id = a.event_id`,
    );
    await runner.query(
      "insert ignore into matter_tie (matter_id, position, about, about_id) select a.id, 0, 'gate', e.stage_id from gate_action a join gate_event e on e.id = a.event_id",
    );
    await runner.query(
      `insert into matter_event (matter_id, at, account_id, field, was, value)
         select id, done_at, done_by, 'State', 'to do', 'done' from gate_action a where done_at is not null and done_by is not null
             and not exists (select 1 from matter_event e where e.matter_id = a.id)`,
    );
    await runner.query(
      "alter table gate_action drop column what, drop column due, drop column done_by, drop column done_at",
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      "alter table gate_action add column what varchar(300) not null default '', add column due char(10), add column done_by varchar(36), add column done_at datetime(3)",
    );
    await runner.query(
      "update gate_action a join matter m on m.id = a.id set a.what = m.title, a.due = m.due, a.done_at = m.closed_on, a.done_by = m.raised_by where true",
    );
    await runner.query("update gate_action set done_by = null where done_at is null");
    for (const table of ["matter", "matter_tie", "matter_event", "matter_standing", "risk_head"])
      await runner.query(`drop table if exists ${table}`);
  }
}
