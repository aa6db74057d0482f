import { Column, Entity, Index, PrimaryColumn } from "typeorm";

/** Something that all who work in a project, or in the projects of a group, are to know for a while. */
@Entity("announcement")
@Index("announcement_until", ["until"])
export class AnnouncementEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ name: "project_id", type: "varchar", length: 36, nullable: true })
  projectId!: string | null;

  @Column({ name: "group_id", type: "varchar", length: 36, nullable: true })
  groupId!: string | null;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ type: "datetime", precision: 3 })
  at!: Date;

  /** The last day on which it is shown, `YYYY-MM-DD`. */
  @Column({ type: "char", length: 10 })
  until!: string;

  @Column({ type: "text" })
  text!: string;

  /** Who ended it before its time. */
  @Column({ name: "ended_by", type: "varchar", length: 36, nullable: true })
  endedBy!: string | null;
}
