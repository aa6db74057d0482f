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
}

/** What holds for the whole installation, such as the organisation's name. */
@Entity("setting")
export class SettingEntity {
  @PrimaryColumn({ type: "varchar", length: 60 })
  name!: string;

  @Column({ type: "text" })
  value!: string;
}
