import type { MatterKind, MatterState } from "@chronometra/contract";
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from "typeorm";

/**
 * Something that stands in a register. Of a project's risk, which the plan has with its name, chance and whether it is
 * over, this is what there is to know besides, where anything was written.
 */
@Entity("matter")
export class MatterEntity {
  @PrimaryColumn({ type: "varchar", length: 120 })
  id!: string;

  @Column({ type: "varchar", length: 12 })
  kind!: MatterKind;

  @Column({ name: "project_id", type: "varchar", length: 36, nullable: true })
  projectId!: string | null;

  @Column({ name: "group_id", type: "varchar", length: 36, nullable: true })
  groupId!: string | null;

  /** The plan's risk that it is about. */
  @Column({ name: "risk_id", type: "varchar", length: 64, nullable: true })
  riskId!: string | null;

  @Column({ type: "varchar", length: 200 })
  title!: string;

  @Column({ type: "varchar", length: 8 })
  state!: MatterState;

  @Column({ type: "varchar", length: 64, nullable: true })
  severity!: string | null;

  /** An account, or a person of the register. */
  @Column({ type: "varchar", length: 64, nullable: true })
  owner!: string | null;

  @Column({ name: "raised_by", type: "varchar", length: 36, nullable: true })
  raisedBy!: string | null;

  @Column({ name: "raised_on", type: "varchar", length: 10, nullable: true })
  raisedOn!: string | null;

  @Column({ type: "varchar", length: 10, nullable: true })
  due!: string | null;

  @Column({ name: "closed_on", type: "varchar", length: 10, nullable: true })
  closedOn!: string | null;

  /** Of a group's risk, 0 to 1. */
  @Column({ type: "double", nullable: true })
  chance!: number | null;

  /** `MatterContent` as JSON. */
  @Column({ type: "mediumtext" })
  content!: string;

  @Column({ type: "boolean" })
  removed!: boolean;
}

/** What a matter is tied to, in order. */
@Entity("matter_tie")
export class MatterTieEntity {
  @PrimaryColumn({ name: "matter_id", type: "varchar", length: 120 })
  matterId!: string;

  @PrimaryColumn({ type: "int" })
  position!: number;

  @Column({ type: "varchar", length: 12 })
  about!: string;

  @Column({ name: "about_id", type: "varchar", length: 80 })
  aboutId!: string;
}

/** What was written of a matter, in words: what was, and what is. Rows are only added. */
@Entity("matter_event")
export class MatterEventEntity {
  @PrimaryGeneratedColumn({ type: "int" })
  id!: number;

  @Column({ name: "matter_id", type: "varchar", length: 120 })
  matterId!: string;

  @Column({ type: "datetime", precision: 3 })
  at!: Date;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ type: "varchar", length: 40 })
  field!: string;

  @Column({ type: "text" })
  was!: string;

  @Column({ type: "text" })
  value!: string;
}

/** How an open risk stood when a period was issued. */
@Entity("matter_standing")
export class MatterStandingEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @PrimaryColumn({ type: "int" })
  number!: number;

  @PrimaryColumn({ name: "matter_id", type: "varchar", length: 120, charset: "utf8mb4", collation: "utf8mb4_bin" })
  matterId!: string;

  @Column({ type: "double" })
  chance!: number;

  @Column({ type: "varchar", length: 64, nullable: true })
  severity!: string | null;
}

/** The tables of this room. */
export const MATTER_ENTITIES = [MatterEntity, MatterTieEntity, MatterEventEntity, MatterStandingEntity];
