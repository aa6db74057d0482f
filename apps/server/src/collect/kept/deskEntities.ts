import { Column, Entity, PrimaryColumn } from "typeorm";

const ID = { type: "varchar", length: 64, charset: "utf8mb4", collation: "utf8mb4_bin" } as const;

/** A clock that runs for someone, whether or not their browser is open. */
@Entity("clock")
export class ClockEntity {
  @PrimaryColumn({ ...ID, name: "person_id" })
  personId!: string;

  @Column({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ ...ID, name: "activity_id" })
  activityId!: string;

  @Column({ name: "started_at", type: "datetime", precision: 3 })
  startedAt!: Date;
}

/** What someone's own work looked like when they last said that they had seen it. */
@Entity("desk_look")
export class DeskLookEntity {
  @PrimaryColumn({ ...ID, name: "person_id" })
  personId!: string;

  @Column({ type: "datetime", precision: 3 })
  at!: Date;

  @Column({ type: "mediumtext" })
  seen!: string;
}

/** A week that someone sent as whole, and what was said to it. */
@Entity("week_sheet")
export class WeekSheetEntity {
  @PrimaryColumn({ ...ID, name: "person_id" })
  personId!: string;

  @PrimaryColumn({ type: "char", length: 10 })
  monday!: string;

  @Column({ type: "varchar", length: 12 })
  state!: "sent" | "approved" | "returned";

  @Column({ name: "sent_at", type: "datetime", precision: 3 })
  sentAt!: Date;

  @Column({ name: "decided_by", type: "varchar", length: 36, nullable: true })
  decidedBy!: string | null;

  @Column({ name: "decided_at", type: "datetime", precision: 3, nullable: true })
  decidedAt!: Date | null;

  @Column({ type: "varchar", length: 1000, nullable: true })
  word!: string | null;

  /** When hours of the week were last written after it was sent; null where none were. */
  @Column({ name: "changed_at", type: "datetime", precision: 3, nullable: true })
  changedAt!: Date | null;
}
