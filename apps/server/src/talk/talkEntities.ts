import type { TalkAbout } from "@chronometra/contract";
import { AnnouncementEntity } from "./announce/announcementEntity.ts";
import { Column, Entity, Index, PrimaryColumn } from "typeorm";

/** Something that was said about a project or something in it. */
@Entity("talk_message")
@Index("talk_place", ["about", "projectId", "aboutId", "at"])
@Index("talk_project", ["projectId"])
@Index("talk_account", ["accountId"])
export class TalkMessageEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ type: "varchar", length: 12 })
  about!: TalkAbout;

  /** Empty of something in a register. */
  @Column({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ name: "about_id", type: "varchar", length: 120 })
  aboutId!: string;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ type: "datetime", precision: 3 })
  at!: Date;

  @Column({ type: "mediumtext" })
  text!: string;

  /** Who is named in it, with the name that stands there. */
  @Column({ type: "simple-json" })
  named!: { id: string; as: string }[];

  @Column({ name: "by_mail", type: "boolean" })
  byMail!: boolean;

  /** The id of the mail that it came by, which is taken once; `null` of what was written here. */
  @Index("talk_mail", { unique: true })
  @Column({ name: "mail_id", type: "varchar", length: 255, nullable: true })
  mailId!: string | null;

  /** What it said before, the newest first: `TalkMessage["was"]` as JSON. */
  @Column({ type: "mediumtext" })
  was!: string;

  @Column({ name: "removed_by", type: "varchar", length: 36, nullable: true })
  removedBy!: string | null;
}

/** A file that goes with a message: its bytes are those of the version of a document that bears its id. */
@Entity("talk_file")
@Index("talk_file_message", ["messageId"])
export class TalkFileEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  /** `null` until it is said with something. */
  @Column({ name: "message_id", type: "varchar", length: 36, nullable: true })
  messageId!: string | null;

  @Column({ type: "varchar", length: 12 })
  about!: TalkAbout;

  @Column({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ name: "about_id", type: "varchar", length: 120 })
  aboutId!: string;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ type: "datetime", precision: 3 })
  at!: Date;
}

/** Who takes part where something is said: they wrote there, were named there, or follow it. */
@Entity("following")
export class FollowingEntity {
  @PrimaryColumn({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @PrimaryColumn({ type: "varchar", length: 12 })
  about!: TalkAbout;

  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @PrimaryColumn({ name: "about_id", type: "varchar", length: 120 })
  aboutId!: string;

  /** Followed by hand: what becomes of it is told as well, not only what is said of it. */
  @Column({ type: "boolean" })
  follows!: boolean;

  /** Not any more, by one's own wish: taking part again changes nothing of that. */
  @Column({ type: "boolean" })
  ended!: boolean;

  /** Kept at hand. */
  @Column({ type: "boolean" })
  pinned!: boolean;
}

/** The tables of this room. */
export const TALK_ENTITIES = [TalkMessageEntity, TalkFileEntity, FollowingEntity, AnnouncementEntity];
