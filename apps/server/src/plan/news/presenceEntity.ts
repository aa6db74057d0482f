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

  @Column({
    name: "activity_id",
    type: "varchar",
    length: 64,
    nullable: true,
    charset: "utf8mb4",
    collation: "utf8mb4_bin",
  })
  activityId!: string | null;

  /**
   * The stream by which the page listens, which takes this row along when it ends; `null` where the page has said where
   * it is before it listens.
   */
  @Column({ type: "varchar", length: 36, nullable: true })
  stream!: string | null;

  /** Milliseconds since 1970. */
  @Column({ name: "seen_at", type: "bigint" })
  seenAt!: string;
}
