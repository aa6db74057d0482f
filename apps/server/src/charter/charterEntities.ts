import type { Charter } from "@chronometra/contract";
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from "typeorm";

/** Why a project is, for whom, and within what. */
@Entity("project_charter")
export class ProjectCharterEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ type: "varchar", length: 10 })
  state!: Charter["state"];

  /** All else of the charter, as JSON. */
  @Column({ type: "mediumtext" })
  content!: string;
}

/** What was written into a charter, and who was given the project. */
@Entity("charter_log")
export class CharterLogEntity {
  @PrimaryGeneratedColumn({ type: "int" })
  id!: number;

  @Column({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ type: "datetime", precision: 3 })
  at!: Date;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ type: "varchar", length: 1000 })
  what!: string;
}

/** The tables of this room. */
export const CHARTER_ENTITIES = [ProjectCharterEntity, CharterLogEntity];
