import { Column, Entity, Index, PrimaryColumn } from "typeorm";

@Entity("approval")
@Index("approval_project", ["projectId"])
export class ApprovalEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ type: "varchar", length: 12 })
  state!: "asked" | "approved" | "sentBack" | "replaced";

  @Column({ name: "asked_by", type: "varchar", length: 36 })
  askedBy!: string;

  @Column({ name: "asked_at", type: "datetime", precision: 3 })
  askedAt!: Date;

  @Column({ type: "text" })
  word!: string;

  /** The day on which it was approved before it came here, `YYYY-MM-DD`; `null` where it is approved here. */
  @Column({ name: "agreed_on", type: "varchar", length: 10, nullable: true })
  agreedOn!: string | null;

  @Column({ name: "decided_by", type: "varchar", length: 36, nullable: true })
  decidedBy!: string | null;

  @Column({ name: "decided_at", type: "datetime", precision: 3, nullable: true })
  decidedAt!: Date | null;

  @Column({ type: "text", nullable: true })
  reason!: string | null;

  @Column({ type: "int", nullable: true })
  baseline!: number | null;

  /** The revision of the plan that was asked for; `null` in requests made before revisions were kept. */
  @Column({ type: "int", nullable: true })
  revision!: number | null;
}

/** The plan as it was when its approval was asked for, while that is not decided: this is what is approved. */
@Entity("approval_plan")
export class ApprovalPlanEntity {
  @PrimaryColumn({ name: "approval_id", type: "varchar", length: 36 })
  approvalId!: string;

  /** A plan bundle. */
  @Column({ type: "longtext" })
  content!: string;
}

/** The plan that a baseline was frozen from, whole but for time and costs: from it follows why dates moved since. */
@Entity("baseline_plan")
export class BaselinePlanEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @PrimaryColumn({ type: "int" })
  number!: number;

  /** A plan bundle. */
  @Column({ type: "longtext" })
  content!: string;
}

/** A frozen plan. Rows are written once: the database refuses to alter or remove one. */
@Entity("baseline")
export class BaselineEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @PrimaryColumn({ type: "int" })
  number!: number;

  /** The baseline as text with its keys in order, from which the digest is made. */
  @Column({ type: "longtext" })
  content!: string;

  /** SHA-256 of the content, in hexadecimal. */
  @Column({ type: "char", length: 64 })
  digest!: string;
}
