import type { MigrationInterface, QueryRunner } from "typeorm";

const BINARY = "character set utf8mb4 collate utf8mb4_bin";
const ID = "varchar(36) not null";

/** Made where they are not there yet: the database takes back no definition, so a start that was killed leaves some behind. */
const TABLES = [
  `create table if not exists account (
    id ${ID}, login varchar(120) not null, name varchar(200) not null, password_hash varchar(200) not null,
    roles text not null, person_id varchar(64) null,
    primary key (id), unique key account_login (login)) engine=InnoDB`,
  `create table if not exists session (
    sid varchar(128) not null, expires_at bigint not null, data text not null, primary key (sid)) engine=InnoDB`,
  `create table if not exists sign_in_attempt (address varchar(100) not null, attempts int not null, until bigint not null, primary key (address)) engine=InnoDB`,
  `create table if not exists programme (id ${ID}, name varchar(200) not null, position int not null, primary key (id)) engine=InnoDB`,
  `create table if not exists project (
    id ${ID}, programme_id varchar(36) null, manager_id ${ID}, code varchar(64) not null, revision int not null, head text not null,
    primary key (id), unique key project_code (code),
    constraint project_programme foreign key (programme_id) references programme (id),
    constraint project_manager foreign key (manager_id) references account (id)) engine=InnoDB`,
  `create table if not exists plan_row (
    project_id ${ID}, table_name varchar(20) not null, row_key varchar(80) ${BINARY} not null, position double not null,
    person_id varchar(64) ${BINARY} null, doc mediumtext not null,
    primary key (project_id, table_name, row_key), key plan_row_person (person_id, table_name),
    constraint plan_row_project foreign key (project_id) references project (id)) engine=InnoDB`,
  `create table if not exists change_list (
    project_id ${ID}, revision int not null, at datetime(3) not null default current_timestamp(3), account_id ${ID},
    label varchar(200) not null, changes longtext not null, inverse longtext null, touched longtext not null, undoes int null,
    primary key (project_id, revision),
    constraint change_list_project foreign key (project_id) references project (id)) engine=InnoDB`,
  `create table if not exists approval (
    id ${ID}, project_id ${ID}, state varchar(12) not null, asked_by ${ID}, asked_at datetime(3) not null, word text not null,
    decided_by varchar(36) null, decided_at datetime(3) null, reason text null, baseline int null,
    primary key (id), key approval_project (project_id),
    constraint approval_of_project foreign key (project_id) references project (id)) engine=InnoDB`,
  `create table if not exists baseline (
    project_id ${ID}, number int not null, content longtext not null, digest char(64) not null,
    primary key (project_id, number),
    constraint baseline_project foreign key (project_id) references project (id)) engine=InnoDB`,
  `create table if not exists report (
    id ${ID}, project_id ${ID}, activity_id varchar(64) ${BINARY} not null, person_id varchar(64) ${BINARY} not null, date char(10) not null,
    minutes int null, percent double null, remaining_minutes int null, note varchar(1000) not null, state varchar(12) not null,
    sent_at datetime(3) not null, decided_by varchar(36) null, word varchar(1000) null,
    primary key (id), key report_waiting (project_id, state), key report_person (person_id, date),
    constraint report_project foreign key (project_id) references project (id)) engine=InnoDB`,
  `create table if not exists figures (
    project_id ${ID}, revision int not null, summary mediumtext not null, people mediumtext not null, primary key (project_id, revision),
    constraint figures_project foreign key (project_id) references project (id)) engine=InnoDB`,
  `create table if not exists reporting_period (
    number int not null, from_date char(10) not null, data_date char(10) not null, issue_by char(16) not null, primary key (number)) engine=InnoDB`,
  `create table if not exists issued_period (
    project_id ${ID}, number int not null, data_date char(10) not null, revision int not null, issued_by ${ID},
    issued_at datetime(3) not null, summary mediumtext not null, primary key (project_id, number),
    constraint issued_period_project foreign key (project_id) references project (id)) engine=InnoDB`,
  `create table if not exists import_draft (
    id ${ID}, account_id ${ID}, created_at datetime(3) not null, file_name varchar(300) not null, state varchar(10) not null,
    progress double not null, step varchar(200) not null, source longtext null, answers mediumtext not null, understood longtext null,
    stored_as varchar(36) null, primary key (id), key import_draft_account (account_id)) engine=InnoDB`,
  `create table if not exists setting (name varchar(60) not null, value text not null, primary key (name)) engine=InnoDB`,
  `create table if not exists known_heading (
    table_name varchar(40) not null, heading varchar(200) not null, column_name varchar(60) not null, primary key (table_name, heading)) engine=InnoDB`,
];

/** What is written once must stay as it is, whoever asks: the database itself refuses. */
const WRITTEN_ONCE = ["baseline", "issued_period"];

export class FirstSchema1790000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const table of TABLES) await runner.query(table);
    for (const table of WRITTEN_ONCE) {
      for (const verb of ["update", "delete"]) {
        const message = `a ${table.replace("_", " ")} is written once and stays`;
        await runner.query(
          `create trigger if not exists ${table}_no_${verb} before ${verb} on ${table} for each row signal sqlstate '45000' set message_text = '${message}'`,
        );
      }
    }
  }

  async down(): Promise<void> {
    throw new Error("the first schema is not taken back; drop the database instead");
  }
}
