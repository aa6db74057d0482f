import { Column, Entity, PrimaryColumn } from "typeorm";

/** Another system that is told of what happens here. */
@Entity("webhook")
export class HookEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ type: "varchar", length: 120 })
  name!: string;

  @Column({ type: "varchar", length: 1000 })
  url!: string;

  /** By which calls are signed; needed whole for that. */
  @Column({ type: "varchar", length: 80 })
  secret!: string;

  /** What it is told of, with commas. */
  @Column({ type: "varchar", length: 200 })
  events!: string;

  /** The group of which it is told, with all below it; `null` for the whole house. */
  @Column({ name: "group_id", type: "varchar", length: 36, nullable: true })
  groupId!: string | null;

  @Column({ name: "made_by", type: "varchar", length: 36 })
  madeBy!: string;

  @Column({ name: "made_at", type: "datetime", precision: 3 })
  madeAt!: Date;
}

/** A call to another system: written with what it tells, made afterwards until it is taken or fails for good. */
@Entity("webhook_call")
export class HookCallEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ name: "webhook_id", type: "varchar", length: 36 })
  hookId!: string;

  @Column({ type: "varchar", length: 20 })
  event!: string;

  @Column({ name: "project_id", type: "varchar", length: 36, nullable: true })
  projectId!: string | null;

  /** As it is sent. */
  @Column({ type: "text" })
  body!: string;

  @Column({ name: "made_at", type: "datetime", precision: 3 })
  madeAt!: Date;

  @Column({ type: "varchar", length: 8 })
  state!: "waiting" | "sending" | "taken" | "failed";

  @Column({ type: "int", default: 0 })
  tries!: number;

  /** Milliseconds since 1970: when it may be tried, or until when one server has it to itself. */
  @Column({ name: "next_at", type: "bigint" })
  nextAt!: string;

  @Column({ name: "taken_at", type: "datetime", precision: 3, nullable: true })
  takenAt!: Date | null;

  @Column({ type: "varchar", length: 500, nullable: true })
  why!: string | null;
}

/** The tables of this room. */
export const HOOK_ENTITIES = [HookEntity, HookCallEntity];
