import type { Thresholds } from "@chronometra/core";
import { Column, Entity, PrimaryColumn } from "typeorm";

/** A reporting period of the portfolio; the highest number is the open one. */
@Entity("reporting_period")
export class ReportingPeriodEntity {
  @PrimaryColumn({ type: "int" })
  number!: number;

  /** The first and the last day it reports on; the last is its data date. */
  @Column({ name: "from_date", type: "char", length: 10 })
  fromDate!: string;

  @Column({ name: "data_date", type: "char", length: 10 })
  dataDate!: string;

  /** Local `YYYY-MM-DDTHH:MM` by which reports are to be issued. */
  @Column({ name: "issue_by", type: "char", length: 16 })
  issueBy!: string;
}

/** A project's figures as issued for a period; they do not change any more. */
@Entity("issued_period")
export class IssuedPeriodEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @PrimaryColumn({ type: "int" })
  number!: number;

  /** 1, and one more each time the period was opened again and issued anew; the highest holds. */
  @PrimaryColumn({ type: "int" })
  edition!: number;

  @Column({ name: "data_date", type: "char", length: 10 })
  dataDate!: string;

  @Column({ type: "int" })
  revision!: number;

  @Column({ name: "issued_by", type: "varchar", length: 36 })
  issuedBy!: string;

  @Column({ name: "issued_at", type: "datetime", precision: 3 })
  issuedAt!: Date;

  @Column({ type: "mediumtext" })
  summary!: string;

  /** Some of the summary's figures, which the database takes out of it itself, for paths over many periods. */
  @Column({ type: "double", nullable: true, insert: false, update: false })
  spi!: number | null;

  @Column({ type: "double", nullable: true, insert: false, update: false })
  cpi!: number | null;

  @Column({ type: "double", nullable: true, insert: false, update: false })
  drift!: number | null;

  /** At completion, from what is left, in minor units. */
  @Column({ type: "double", nullable: true, insert: false, update: false })
  estimate!: number | null;
}

/** The plan as it stood when a period was issued, without time and costs; written once. */
@Entity("issued_plan")
export class IssuedPlanEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @PrimaryColumn({ type: "int" })
  number!: number;

  @PrimaryColumn({ type: "int" })
  edition!: number;

  /** A plan bundle. */
  @Column({ type: "longtext" })
  content!: string;
}

/** What holds for the whole installation, such as the organisation's name. */
@Entity("setting")
export class SettingEntity {
  @PrimaryColumn({ type: "varchar", length: 60 })
  name!: string;

  @Column({ type: "text" })
  value!: string;
}

/** That a project's period was locked, and perhaps opened again: what is posted must land after its data date while it holds. */
@Entity("period_lock")
export class PeriodLockEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ type: "int" })
  number!: number;

  @Column({ name: "data_date", type: "char", length: 10 })
  dataDate!: string;

  @Column({ name: "locked_by", type: "varchar", length: 36 })
  lockedBy!: string;

  @Column({ name: "locked_at", type: "datetime", precision: 3 })
  lockedAt!: Date;

  @Column({ name: "reopened_by", type: "varchar", length: 36, nullable: true })
  reopenedBy!: string | null;

  @Column({ name: "reopened_at", type: "datetime", precision: 3, nullable: true })
  reopenedAt!: Date | null;

  @Column({ type: "varchar", length: 1000, nullable: true })
  reason!: string | null;

  /** Why it was locked though something fell short. */
  @Column({ type: "varchar", length: 1000, nullable: true })
  word!: string | null;
}

/** A period to come, as the reporting calendar has it. */
@Entity("planned_period")
export class PlannedPeriodEntity {
  @PrimaryColumn({ name: "data_date", type: "char", length: 10 })
  dataDate!: string;

  @Column({ name: "issue_by", type: "char", length: 16 })
  issueBy!: string;
}

/** That a step of a period was done for a project by someone, with their words. */
@Entity("cycle_mark")
export class CycleMarkEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @PrimaryColumn({ type: "int" })
  number!: number;

  /** An explanation of all that was broken, as former versions kept it, names no limit. */
  @PrimaryColumn({ type: "varchar", length: 40 })
  step!: "Check" | "Explain" | `Explain ${keyof Thresholds}`;

  @Column({ type: "text" })
  words!: string;

  @Column({ name: "marked_by", type: "varchar", length: 36 })
  markedBy!: string;

  @Column({ name: "marked_at", type: "datetime", precision: 3 })
  markedAt!: Date;
}

/** That a project is closed: nothing in it changes any more. */
@Entity("project_closing")
export class ProjectClosingEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ name: "closed_by", type: "varchar", length: 36 })
  closedBy!: string;

  @Column({ name: "closed_at", type: "datetime", precision: 3 })
  closedAt!: Date;

  @Column({ type: "varchar", length: 1000 })
  word!: string;

  /** The revision that ended what was left, which opening it again takes back; `null` where nothing was, or before that was kept. */
  @Column({ type: "int", nullable: true })
  revision!: number | null;
}

/** The tables of this room. */
export const CYCLE_ENTITIES = [
  ReportingPeriodEntity,
  IssuedPeriodEntity,
  IssuedPlanEntity,
  PeriodLockEntity,
  PlannedPeriodEntity,
  CycleMarkEntity,
  ProjectClosingEntity,
  SettingEntity,
];
