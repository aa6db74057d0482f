import type { Aspect, Rating } from "@chronometra/core";
import { Column, Entity, PrimaryColumn } from "typeorm";

/** What someone says on one side of a report that is not issued yet. */
@Entity("report_said")
export class ReportSaidEntity {
  /** A project, a group, or `house`. */
  @PrimaryColumn({ name: "subject_id", type: "varchar", length: 36 })
  subjectId!: string;

  @PrimaryColumn({ type: "int" })
  number!: number;

  @PrimaryColumn({ type: "varchar", length: 12 })
  aspect!: Aspect;

  /** Raised whenever it is written, so that two who write do not undo each other. */
  @Column({ type: "int" })
  version!: number;

  @Column({ type: "varchar", length: 8, nullable: true })
  rating!: Rating | null;

  @Column({ type: "varchar", length: 500 })
  reason!: string;

  @Column({ type: "text", nullable: true })
  text!: string | null;

  @Column({ name: "said_by", type: "varchar", length: 36 })
  saidBy!: string;

  @Column({ name: "said_at", type: "datetime", precision: 3 })
  saidAt!: Date;
}

/** A report as it was issued, word for word; written once. */
@Entity("issued_report")
export class IssuedReportEntity {
  @PrimaryColumn({ name: "subject_id", type: "varchar", length: 36 })
  subjectId!: string;

  @PrimaryColumn({ type: "int" })
  number!: number;

  /** As of the issued period of a project; of a group 1, and one more each time it is issued anew. */
  @PrimaryColumn({ type: "int" })
  edition!: number;

  @Column({ name: "data_date", type: "char", length: 10 })
  dataDate!: string;

  @Column({ name: "issued_by", type: "varchar", length: 36 })
  issuedBy!: string;

  @Column({ name: "issued_at", type: "datetime", precision: 3 })
  issuedAt!: Date;

  /** A `ReportContent` of the contract. */
  @Column({ type: "longtext" })
  content!: string;

  /** SHA-256 of the content, in hexadecimal digits. */
  @Column({ type: "char", length: 64 })
  digest!: string;
}

/** How reports of a group, and of the projects in it, are laid out. */
@Entity("report_layout")
export class ReportLayoutEntity {
  /** A group, or `house`. */
  @PrimaryColumn({ name: "group_id", type: "varchar", length: 36 })
  groupId!: string;

  /** Names of sections in their order, separated by commas. */
  @Column({ type: "varchar", length: 500 })
  sections!: string;

  /** Those of the group's own report in the same way; empty for all in their order. */
  @Column({ name: "group_sections", type: "varchar", length: 200, default: "" })
  groupSections!: string;
}

/** Who gets the reports of a project or group. */
@Entity("report_recipient")
export class ReportRecipientEntity {
  @PrimaryColumn({ name: "subject_id", type: "varchar", length: 36 })
  subjectId!: string;

  /** An account, or an address of mail. */
  @PrimaryColumn({ type: "varchar", length: 320 })
  recipient!: string;

  @Column({ type: "varchar", length: 8 })
  kind!: "account" | "address";
}

/** The tables of this room. */
export const REPORT_ENTITIES = [ReportSaidEntity, IssuedReportEntity, ReportLayoutEntity, ReportRecipientEntity];
