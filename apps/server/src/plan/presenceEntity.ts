import { Column, Entity, PrimaryColumn } from "typeorm";

/** A page that has a plan open, and where on it. */
@Entity("presence")
export class PresenceEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  /** Names the page, since one person may have several open. */
  @PrimaryColumn({ type: "varchar", length: 40, charset: "utf8mb4", collation: "utf8mb4_bin" })
  client!: string;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ name: "activity_id", type: "varchar", length: 64, nullable: true, charset: "utf8mb4", collation: "utf8mb4_bin" })
  activityId!: string | null;

  /** Milliseconds since 1970. */
  @Column({ name: "seen_at", type: "bigint" })
  seenAt!: string;
}
