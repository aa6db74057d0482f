import type { RegisterTable } from "@chronometra/contract";
import { Column, Entity, PrimaryColumn } from "typeorm";

/** A calendar, person, team or cost category of the whole installation. */
@Entity("register_row")
export class RegisterRowEntity {
  @PrimaryColumn({ name: "table_name", type: "varchar", length: 20 })
  table!: RegisterTable;

  @PrimaryColumn({ name: "row_key", type: "varchar", length: 80 })
  id!: string;

  /** The row as a plan would have it; of people with their rates. */
  @Column({ type: "mediumtext" })
  doc!: string;

  @Column({ name: "changed_by", type: "varchar", length: 36, nullable: true })
  changedBy!: string | null;

  @Column({ name: "changed_at", type: "datetime", precision: 3, nullable: true })
  changedAt!: Date | null;
}

/** The tables of this room. */
export const RESOURCES_ENTITIES = [RegisterRowEntity];
