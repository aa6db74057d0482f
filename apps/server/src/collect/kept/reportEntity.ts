import { Column, Entity, Index, PrimaryColumn } from "typeorm";

/** What a person sent from the desk, until and after it was decided. */
@Entity("report")
@Index("report_waiting", ["projectId", "state"])
@Index("report_person", ["personId", "date"])
export class ReportEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ name: "activity_id", type: "varchar", length: 64, charset: "utf8mb4", collation: "utf8mb4_bin" })
  activityId!: string;

  @Column({ name: "person_id", type: "varchar", length: 64, charset: "utf8mb4", collation: "utf8mb4_bin" })
  personId!: string;

  /** `YYYY-MM-DD`. */
  @Column({ type: "char", length: 10 })
  date!: string;

  /** Of leave its last day, `YYYY-MM-DD`; it speaks of no activity then. */
  @Column({ name: "leave_until", type: "char", length: 10, nullable: true })
  leaveUntil!: string | null;

  @Column({ type: "int", nullable: true })
  minutes!: number | null;

  @Column({ type: "double", nullable: true })
  percent!: number | null;

  @Column({ name: "remaining_minutes", type: "int", nullable: true })
  remainingMinutes!: number | null;

  /** The stage that it has come to. */
  @Column({ type: "varchar", length: 4000, nullable: true })
  stage!: string | null;

  @Column({ type: "varchar", length: 1000 })
  note!: string;

  @Column({ type: "varchar", length: 12 })
  state!: "submitted" | "posted" | "returned" | "withdrawn";

  @Column({ name: "sent_at", type: "datetime", precision: 3 })
  sentAt!: Date;

  @Column({ name: "decided_by", type: "varchar", length: 36, nullable: true })
  decidedBy!: string | null;

  @Column({ type: "varchar", length: 1000, nullable: true })
  word!: string | null;
}
