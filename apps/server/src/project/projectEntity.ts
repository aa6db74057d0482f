import type { ProjectField } from "@chronometra/contract";
import type { OwnValue, ProjectHead } from "@chronometra/core";
import { Column, Entity, PrimaryColumn } from "typeorm";

@Entity("programme")
export class ProgrammeEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ type: "varchar", length: 200 })
  name!: string;

  @Column({ type: "int" })
  position!: number;

  /** The portfolio or programme that it is part of. */
  @Column({ name: "parent_id", type: "varchar", length: 36, nullable: true })
  parentId!: string | null;

  /** The account that answers for it. */
  @Column({ name: "manager_id", type: "varchar", length: 36, nullable: true })
  managerId!: string | null;

  /** Its own `Thresholds` as JSON; `null` where it takes them from above. */
  @Column({ type: "varchar", length: 1000, nullable: true })
  thresholds!: string | null;
}

/** A field of one's own that every project has. */
@Entity("project_field")
export class ProjectFieldEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ type: "int" })
  position!: number;

  @Column({ type: "simple-json" })
  definition!: ProjectField;
}

@Entity("project_value")
export class ProjectValueEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @PrimaryColumn({ name: "field_id", type: "varchar", length: 36 })
  fieldId!: string;

  @Column({ type: "simple-json" })
  value!: OwnValue;
}

/** What a project's manager says of it: a rating and a note. */
@Entity("project_says")
export class ProjectSaysEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ type: "varchar", length: 8 })
  rating!: "well" | "care" | "trouble";

  @Column({ type: "varchar", length: 1000 })
  note!: string;

  @Column({ name: "said_by", type: "varchar", length: 36 })
  saidBy!: string;

  @Column({ name: "said_at", type: "datetime", precision: 3 })
  saidAt!: Date;
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

  /** The revision that the rows kept for questions over all projects are of; 0 where there are none yet. */
  @Column({ name: "kept_revision", type: "int", default: 0 })
  keptRevision!: number;

  /** The head of the plan, `project` in the bundle. */
  @Column({ type: "simple-json" })
  head!: ProjectHead;
}

/** The tables of this room. */
export const PROJECT_ENTITIES = [
  ProgrammeEntity,
  ProjectEntity,
  ProjectFieldEntity,
  ProjectValueEntity,
  ProjectSaysEntity,
];
