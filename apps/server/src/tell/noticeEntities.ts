import type { NoticeKind, Telling } from "@chronometra/contract";
import { Column, Entity, Index, PrimaryColumn } from "typeorm";

/** Something that someone was told: a line of their inbox, and what their mail is gathered from. */
@Entity("notice")
@Index("notice_account", ["accountId", "at"])
@Index("notice_mail", ["mailAt"])
@Index("notice_about", ["about"])
export class NoticeEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ type: "varchar", length: 12 })
  kind!: NoticeKind;

  @Column({ type: "varchar", length: 300 })
  subject!: string;

  @Column({ type: "mediumtext" })
  body!: string;

  @Column({ type: "varchar", length: 500, nullable: true })
  link!: string | null;

  /** What is done on that page. */
  @Column({ type: "varchar", length: 40 })
  act!: string;

  /** The project that one must be able to look into to be told, or of talk to work in; `null` of what is one's own. */
  @Column({ name: "project_id", type: "varchar", length: 36, nullable: true })
  projectId!: string | null;

  /** What it asks for or tells of, as `approval <id>`: told once, and settled wherever that is done. */
  @Column({ type: "varchar", length: 200, nullable: true })
  about!: string | null;

  /** What has moved since it was last looked at, as JSON, where several differences are told as one. */
  @Column({ type: "mediumtext", nullable: true })
  moved!: string | null;

  @Column({ name: "from_id", type: "varchar", length: 36, nullable: true })
  fromId!: string | null;

  @Column({ type: "datetime", precision: 3 })
  at!: Date;

  @Column({ name: "seen_at", type: "datetime", precision: 3, nullable: true })
  seenAt!: Date | null;

  @Column({ name: "settled_at", type: "datetime", precision: 3, nullable: true })
  settledAt!: Date | null;

  /** When it is to be told by mail; `null` once it was, or where no mail is wanted. */
  @Column({ name: "mail_at", type: "datetime", precision: 3, nullable: true })
  mailAt!: Date | null;

  /** The message that told it. */
  @Column({ name: "mail_id", type: "varchar", length: 36, nullable: true })
  mailId!: string | null;
}

/** How someone wants to be told by mail, where it is not as usual. */
@Entity("telling")
export class TellingEntity {
  @PrimaryColumn({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ type: "simple-json" })
  content!: Telling;
}

/** Up to which revision people were told what moved in a project. */
@Entity("told_project")
export class ToldProjectEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ type: "int" })
  revision!: number;
}

/** An activity as people were told of it last. */
@Entity("told_activity")
export class ToldActivityEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @PrimaryColumn({ name: "activity_id", type: "varchar", length: 64 })
  activityId!: string;

  @Column({ type: "varchar", length: 10, nullable: true })
  start!: string | null;

  @Column({ type: "varchar", length: 10, nullable: true })
  finish!: string | null;

  /** How its deadline stands; `null` without one. */
  @Column({ type: "varchar", length: 12, nullable: true })
  deadline!: string | null;

  /** What it is blocked by. */
  @Column({ type: "varchar", length: 200, nullable: true })
  blocked!: string | null;
}
