import type { ProjectHead } from "@chronometra/core";
import { Column, Entity, PrimaryColumn } from "typeorm";

@Entity("programme")
export class ProgrammeEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ type: "varchar", length: 200 })
  name!: string;

  @Column({ type: "int" })
  position!: number;
}

@Entity("project")
export class ProjectEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ name: "programme_id", type: "varchar", length: 36, nullable: true })
  programmeId!: string | null;

  @Column({ name: "manager_id", type: "varchar", length: 36 })
  managerId!: string;

  @Column({ type: "varchar", length: 64, unique: true })
  code!: string;

  /** Raised by one with each stored list of changes. */
  @Column({ type: "int" })
  revision!: number;

  /** The head of the plan, `project` in the bundle. */
  @Column({ type: "simple-json" })
  head!: ProjectHead;
}
