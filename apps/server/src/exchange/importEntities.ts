import { Column, Entity, Index, PrimaryColumn } from "typeorm";

/** A file that was brought and not stored as a project yet. */
@Entity("import_draft")
@Index("import_draft_account", ["accountId"])
export class ImportDraftEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ name: "created_at", type: "datetime", precision: 3 })
  createdAt!: Date;

  @Column({ name: "file_name", type: "varchar", length: 300 })
  fileName!: string;

  @Column({ type: "varchar", length: 10 })
  state!: "reading" | "ready" | "failed" | "stored";

  @Column({ type: "double" })
  progress!: number;

  @Column({ type: "varchar", length: 200 })
  step!: string;

  /** The file's cells (`SourceFile`), read once. */
  @Column({ type: "longtext", nullable: true })
  source!: string | null;

  /** `ImportAnswers`. */
  @Column({ type: "mediumtext" })
  answers!: string;

  /** What was understood (`Understood`), the bundle among it. */
  @Column({ type: "longtext", nullable: true })
  understood!: string | null;

  @Column({ name: "stored_as", type: "varchar", length: 36, nullable: true })
  storedAs!: string | null;

  /** Milliseconds since 1970: when whoever reads it was last at it. */
  @Column({ name: "alive_at", type: "bigint", default: 0 })
  aliveAt!: string;
}

/** A plan as it was exported, so that a file made from it can be told from what colleagues changed since. */
@Entity("exported_plan")
export class ExportedPlanEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @PrimaryColumn({ type: "int" })
  revision!: number;

  @Column({ name: "exported_at", type: "datetime", precision: 3 })
  exportedAt!: Date;

  /** The bundle without time, costs and baselines, as JSON, compressed by gzip. */
  @Column({ type: "longblob" })
  content!: Buffer;
}

/** A heading that someone matched by hand, remembered for the next file. */
@Entity("known_heading")
export class KnownHeadingEntity {
  @PrimaryColumn({ name: "table_name", type: "varchar", length: 40 })
  tableName!: string;

  @PrimaryColumn({ type: "varchar", length: 200 })
  heading!: string;

  @Column({ name: "column_name", type: "varchar", length: 60 })
  columnName!: string;
}

/** How a file was understood, under a name, for the next one. */
@Entity("understanding")
export class UnderstandingEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ type: "varchar", length: 120, unique: true })
  name!: string;

  /** `ImportAnswers`, without what belongs to the one file. */
  @Column({ type: "mediumtext" })
  answers!: string;

  @Column({ name: "kept_by", type: "varchar", length: 36 })
  keptBy!: string;

  @Column({ name: "kept_at", type: "datetime", precision: 3 })
  keptAt!: Date;
}

/** The tables of this room. */
export const EXCHANGE_ENTITIES = [ExportedPlanEntity, ImportDraftEntity, KnownHeadingEntity, UnderstandingEntity];
