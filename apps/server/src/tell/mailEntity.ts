import { Column, Entity, PrimaryColumn } from "typeorm";

/** A message that left: kept in the mailbox that ships with the application. */
@Entity("mail")
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

  @Column({ type: "text" })
  body!: string;

  @Column({ name: "sent_at", type: "datetime", precision: 3 })
  sentAt!: Date;
}
