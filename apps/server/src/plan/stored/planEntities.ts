import { Column, Entity, Index, PrimaryColumn } from "typeorm";
import { type Through } from "@chronometra/contract";

/** One row of one table of one plan; its content is the bundle's, owned by the core's schema. */
@Entity("plan_row")
@Index("plan_row_person", ["personId", "tableName"])
export class PlanRowEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @PrimaryColumn({ name: "table_name", type: "varchar", length: 20 })
  tableName!: string;

  @PrimaryColumn({ name: "row_key", type: "varchar", length: 80, charset: "utf8mb4", collation: "utf8mb4_bin" })
  rowKey!: string;

  @Column({ type: "double" })
  position!: number;

  /** Of assignments and time: whose they are. */
  @Column({
    name: "person_id",
    type: "varchar",
    length: 64,
    nullable: true,
    charset: "utf8mb4",
    collation: "utf8mb4_bin",
  })
  personId!: string | null;

  @Column({ type: "mediumtext" })
  doc!: string;
}

/** What happened to a plan, one stored list a revision. */
@Entity("change_list")
export class ChangeListEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @PrimaryColumn({ type: "int" })
  revision!: number;

  @Column({ type: "datetime", precision: 3, default: () => "current_timestamp(3)" })
  at!: Date;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ type: "varchar", length: 200 })
  label!: string;

  @Column({ type: "longtext" })
  changes!: string;

  /** What leads back; null where something in the list cannot be undone. */
  @Column({ type: "longtext", nullable: true })
  inverse!: string | null;

  /** How fields were before, where the list cannot be undone as a whole. */
  @Column({ type: "longtext", nullable: true })
  were!: string | null;

  @Column({ type: "longtext" })
  touched!: string;

  /** Through what it came. */
  @Column({ type: "varchar", length: 10, default: "hand" })
  through!: Through;

  /** The revision that this list undoes. */
  @Column({ type: "int", nullable: true })
  undoes!: number | null;

  /** What the sender calls this list, so that it is stored once however often it is sent. */
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
