import { Column, Entity, Index, PrimaryColumn } from "typeorm";

/** A saved question over all projects. */
@Entity("watchlist")
@Index("watchlist_account", ["accountId"])
export class WatchlistEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ type: "varchar", length: 120 })
  name!: string;

  /** Whose it is. */
  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  /** A `WatchQuestion` of the contract. */
  @Column({ type: "text" })
  question!: string;

  /** Roles that find it among theirs, separated by commas. */
  @Column({ type: "varchar", length: 100 })
  roles!: string;

  @Column({ name: "made_at", type: "datetime", precision: 3 })
  madeAt!: Date;
}

/** A calendar that programs outside fetch by a secret address: deadlines, or what a watchlist finds. */
@Entity("calendar_feed")
@Index("calendar_feed_one", ["accountId", "subject"], { unique: true })
export class CalendarFeedEntity {
  /** SHA-256 of the secret, which is told once. */
  @PrimaryColumn({ type: "char", length: 64 })
  hash!: string;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  /** `deadlines`, or the id of a watchlist. */
  @Column({ type: "varchar", length: 36 })
  subject!: string;

  @Column({ name: "made_at", type: "datetime", precision: 3 })
  madeAt!: Date;
}

/** What was sent of an entry of a calendar at an address last. */
@Entity("calendar_entry")
export class CalendarEntryEntity {
  @PrimaryColumn({ name: "feed_hash", type: "char", length: 64 })
  feedHash!: string;

  @PrimaryColumn({ name: "entry_id", type: "varchar", length: 180, charset: "utf8mb4", collation: "utf8mb4_bin" })
  entryId!: string;

  /** Its first and last day. */
  @Column({ type: "char", length: 21 })
  dates!: string;

  /** SHA-256 of all else that is said of it. */
  @Column({ type: "char", length: 64 })
  digest!: string;

  /** How often its days have changed. */
  @Column({ type: "int" })
  sequence!: number;

  @Column({ name: "changed_at", type: "datetime", precision: 3 })
  changedAt!: Date;
}

/** The tables of this room. */
export const WATCH_ENTITIES = [WatchlistEntity, CalendarFeedEntity, CalendarEntryEntity];
