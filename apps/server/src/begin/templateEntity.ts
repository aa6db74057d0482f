import { Column, Entity, PrimaryColumn } from "typeorm";

/** A plan that others begin with, in which nothing has happened. */
@Entity("template")
export class TemplateEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ type: "varchar", length: 200, unique: true })
  name!: string;

  @Column({ type: "text" })
  description!: string;

  @Column({ name: "made_by", type: "varchar", length: 36 })
  madeBy!: string;

  @Column({ name: "made_at", type: "datetime", precision: 3 })
  madeAt!: Date;

  /** A plan as `planText` writes it. */
  @Column({ type: "longtext" })
  plan!: string;

  /** A `Charter` of the contract as JSON; `null` where none went along. */
  @Column({ type: "mediumtext", nullable: true })
  charter!: string | null;

  /** The life cycle by which projects begun with it live; `null` for none. */
  @Column({ name: "life_cycle_id", type: "varchar", length: 36, nullable: true })
  lifeCycleId!: string | null;

  /** `RepeatAsked[]` of the contract, as JSON. */
  @Column({ type: "mediumtext" })
  repeats!: string;
}

/** The tables of this room. */
export const BEGIN_ENTITIES = [TemplateEntity];
