import { Column, Entity, Index, PrimaryColumn } from "typeorm";
import { NoticeEntity, TellingEntity, ToldActivityEntity, ToldProjectEntity } from "./noticeEntities.ts";

/** A message: kept in the mailbox that ships with the application, and sent out by a mail server where one is named. */
@Entity("mail")
@Index("mail_state", ["state", "nextAt"])
@Index("mail_account", ["accountId", "sentAt"])
export class MailEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  /** Whose mailbox it lies in; `null` where the address belongs to no account. */
  @Column({ name: "account_id", type: "varchar", length: 36, nullable: true })
  accountId!: string | null;

  @Column({ type: "varchar", length: 320 })
  address!: string;

  @Column({ type: "varchar", length: 300 })
  subject!: string;

  @Column({ type: "mediumtext" })
  body!: string;

  @Column({ name: "sent_at", type: "datetime", precision: 3 })
  sentAt!: Date;

  /** `kept` where no mail server is named, `waiting` for its turn, `sending` just now, `sent`, or `failed` for good. */
  @Column({ type: "varchar", length: 10, default: "kept" })
  state!: "kept" | "waiting" | "sending" | "sent" | "failed";

  @Column({ type: "int", default: 0 })
  tries!: number;

  /** Milliseconds since 1970: not to be taken up before, because it was tried, or is being tried by a server. */
  @Column({ name: "next_at", type: "bigint", default: 0 })
  nextAt!: string;

  /** What the mail server said last. */
  @Column({ type: "varchar", length: 500, nullable: true })
  why!: string | null;

  @Column({ name: "reply_to", type: "varchar", length: 320, nullable: true })
  replyTo!: string | null;

  /** The page that the message is about, from the installation's address on. */
  @Column({ type: "varchar", length: 500, nullable: true })
  link!: string | null;

  /** What was said and can be answered, as what is told of it names it; `null` of all other mail. */
  @Column({ type: "varchar", length: 200, nullable: true })
  thread!: string | null;

  /** What an answer bears in its address: whoever has it received this message. */
  @Index("mail_answer", { unique: true })
  @Column({ name: "answer_key", type: "char", length: 32, nullable: true })
  answerKey!: string | null;

  /** What is sent with it, by a name under which it is made when the message leaves. */
  @Column({ type: "varchar", length: 200, nullable: true })
  attachment!: string | null;
}

/** The tables of this room. */
export const TELL_ENTITIES = [MailEntity, NoticeEntity, TellingEntity, ToldProjectEntity, ToldActivityEntity];
