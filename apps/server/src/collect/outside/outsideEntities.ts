import type { LineKind, OutsideLine } from "@chronometra/contract";
import { Column, Entity, PrimaryColumn } from "typeorm";

const ID = { type: "varchar", length: 64, charset: "utf8mb4", collation: "utf8mb4_bin", nullable: true } as const;

/** A file of costs or time that was brought; its digest keeps it from being taken twice. */
@Entity("outside_file")
export class OutsideFileEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  /** SHA-256 of its bytes. */
  @Column({ type: "char", length: 64 })
  digest!: string;

  @Column({ type: "varchar", length: 8 })
  kind!: LineKind;

  @Column({ type: "varchar", length: 300 })
  name!: string;

  @Column({ name: "brought_by", type: "varchar", length: 36 })
  broughtBy!: string;

  @Column({ name: "brought_at", type: "datetime", precision: 3 })
  broughtAt!: Date;

  @Column({ name: "taken_at", type: "datetime", precision: 3, nullable: true })
  takenAt!: Date | null;

  /** Its cells, until its lines are taken in. */
  @Column({ type: "longtext", nullable: true })
  source!: string | null;
}

/** A cost or some time that another system told of. */
@Entity("outside_line")
export class OutsideLineEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ type: "varchar", length: 8 })
  kind!: LineKind;

  @Column({ type: "varchar", length: 300 })
  source!: string;

  /** The same line, however it came, has the same one. */
  @Column({ type: "char", length: 64, unique: true })
  fingerprint!: string;

  /** The line that this one says anew, in a correction. */
  @Column({ type: "varchar", length: 36, nullable: true })
  corrects!: string | null;

  @Column({ type: "varchar", length: 12 })
  state!: OutsideLine["state"];

  @Column({ name: "said_project", type: "varchar", length: 400 })
  saidProject!: string;

  @Column({ name: "said_activity", type: "varchar", length: 400 })
  saidActivity!: string;

  @Column({ name: "said_person", type: "varchar", length: 400 })
  saidPerson!: string;

  @Column({ name: "project_id", type: "varchar", length: 36, nullable: true })
  projectId!: string | null;

  @Column({ ...ID, name: "activity_id" })
  activityId!: string | null;

  @Column({ ...ID, name: "person_id" })
  personId!: string | null;

  @Column({ type: "char", length: 10 })
  date!: string;

  /** Whole units of the project's currency. */
  @Column({ type: "double", nullable: true })
  amount!: number | null;

  @Column({ type: "int", nullable: true })
  minutes!: number | null;

  @Column({ type: "varchar", length: 200 })
  category!: string;

  @Column({ type: "varchar", length: 200 })
  reference!: string;

  @Column({ type: "varchar", length: 1000 })
  note!: string;

  @Column({ type: "varchar", length: 500, nullable: true })
  why!: string | null;

  @Column({ name: "came_at", type: "datetime", precision: 3 })
  cameAt!: Date;

  @Column({ name: "decided_by", type: "varchar", length: 36, nullable: true })
  decidedBy!: string | null;
}

/** How lines that say the same were matched by hand, for those to come. */
@Entity("outside_match")
export class OutsideMatchEntity {
  @PrimaryColumn({ type: "varchar", length: 8 })
  kind!: LineKind;

  /** SHA-256 of what was said. */
  @PrimaryColumn({ type: "char", length: 64 })
  said!: string;

  @Column({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ ...ID, name: "activity_id", nullable: false })
  activityId!: string;

  @Column({ ...ID, name: "person_id" })
  personId!: string | null;
}
