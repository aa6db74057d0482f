import type { Noted } from "@chronometra/contract";
import { Column, Entity, Index, PrimaryGeneratedColumn } from "typeorm";

/** Something of the house that was changed: by whom, what was, and what is. */
@Entity("house_change")
@Index("house_change_about", ["about", "id"])
export class HouseChangeEntity {
  @PrimaryGeneratedColumn({ type: "int" })
  id!: number;

  @Column({ type: "datetime", precision: 3 })
  at!: Date;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ type: "varchar", length: 12 })
  about!: Noted;

  @Column({ type: "varchar", length: 300 })
  subject!: string;

  /** `HouseChange["lines"]` as JSON. */
  @Column({ type: "mediumtext" })
  lines!: string;
}

/** The tables of what is noted of the house. */
export const NOTED_ENTITIES = [HouseChangeEntity];
