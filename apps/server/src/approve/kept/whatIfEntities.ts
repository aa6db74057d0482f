import type { WhatIf } from "@chronometra/contract";
import { Column, Entity, Index, PrimaryColumn } from "typeorm";

/** A copy of a plan on trial: the changes that are kept aside from it, and what became of them. */
@Entity("what_if")
@Index("what_if_project", ["projectId", "state"])
export class WhatIfEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ type: "varchar", length: 200 })
  name!: string;

  /** The revision of the live plan that its changes were last made against or merged with. */
  @Column({ name: "base_revision", type: "int" })
  baseRevision!: number;

  /** Raised by one with each list. */
  @Column({ type: "int" })
  version!: number;

  @Column({ name: "made_by", type: "varchar", length: 36 })
  madeBy!: string;

  @Column({ name: "made_at", type: "datetime", precision: 3 })
  madeAt!: Date;

  @Column({ type: "varchar", length: 12 })
  state!: WhatIf["state"];

  @Column({ type: "int", nullable: true })
  request!: number | null;

  @Column({ type: "text", nullable: true })
  reason!: string | null;

  @Column({ type: "text", nullable: true })
  draw!: string | null;

  @Column({ name: "asked_by", type: "varchar", length: 36, nullable: true })
  askedBy!: string | null;

  @Column({ name: "asked_at", type: "datetime", precision: 3, nullable: true })
  askedAt!: Date | null;

  @Column({ name: "decided_by", type: "varchar", length: 36, nullable: true })
  decidedBy!: string | null;

  @Column({ name: "decided_at", type: "datetime", precision: 3, nullable: true })
  decidedAt!: Date | null;

  @Column({ type: "text", nullable: true })
  word!: string | null;

  @Column({ type: "int", nullable: true })
  baseline!: number | null;

  /** Whether that froze the whole plan as it stood, and not the approved one with these changes alone. */
  @Column({ type: "boolean", default: false })
  whole!: boolean;
}

/** A list of changes in a what-if. */
@Entity("what_if_list")
export class WhatIfListEntity {
  @PrimaryColumn({ name: "what_if_id", type: "varchar", length: 36 })
  whatIfId!: string;

  @PrimaryColumn({ type: "int" })
  version!: number;

  @Column({ type: "datetime", precision: 3 })
  at!: Date;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ type: "varchar", length: 200 })
  label!: string;

  @Column({ type: "longtext" })
  changes!: string;

  @Column({ type: "longtext", nullable: true })
  inverse!: string | null;

  @Column({ type: "int", nullable: true })
  undoes!: number | null;

  /** What its sender calls it, so that it is stored once however often it is sent. */
  @Column({
    name: "list_id",
    type: "varchar",
    length: 36,
    nullable: true,
    charset: "utf8mb4",
    collation: "utf8mb4_bin",
  })
  listId!: string | null;
}

/** Money set aside beside the work's budget, or drawn from what was. */
@Entity("reserve_entry")
@Index("reserve_of_project", ["projectId", "madeAt"])
export class ReserveEntryEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ type: "varchar", length: 12 })
  kind!: "contingency" | "management";

  /** Below 0 for a draw. */
  @Column({ name: "amount_minor", type: "bigint" })
  amountMinor!: string;

  @Column({ type: "varchar", length: 1000 })
  reason!: string;

  @Column({ name: "made_by", type: "varchar", length: 36 })
  madeBy!: string;

  @Column({ name: "made_at", type: "datetime", precision: 3 })
  madeAt!: Date;

  /** The change request that drew it. */
  @Column({ type: "int", nullable: true })
  request!: number | null;
}
