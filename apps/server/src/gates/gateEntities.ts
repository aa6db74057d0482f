import type { GateAct } from "@chronometra/contract";
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from "typeorm";

/** How projects of one kind live. */
@Entity("life_cycle")
export class LifeCycleEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ type: "varchar", length: 100, unique: true })
  kind!: string;

  /** A `LifeCycle` of the contract, as JSON. */
  @Column({ type: "mediumtext" })
  content!: string;
}

/** By which life cycle a project lives, and which of its gates it has passed. */
@Entity("project_life")
export class ProjectLifeEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ name: "life_cycle_id", type: "varchar", length: 36 })
  lifeCycleId!: string;

  /** Ids of the stages whose gates are passed, as a JSON list. */
  @Column({ type: "mediumtext" })
  passed!: string;

  /** What is said of its gates, `SaidOfGate` by stage, as JSON. */
  @Column({ type: "mediumtext" })
  said!: string;
}

/** What happened at a gate. Rows are only added. */
@Entity("gate_event")
export class GateEventEntity {
  @PrimaryGeneratedColumn({ type: "int" })
  id!: number;

  @Column({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ name: "stage_id", type: "varchar", length: 36 })
  stageId!: string;

  /** What stage and gate were called then. */
  @Column({ name: "stage_name", type: "varchar", length: 100 })
  stageName!: string;

  @Column({ name: "gate_name", type: "varchar", length: 100 })
  gateName!: string;

  @Column({ type: "varchar", length: 12 })
  act!: GateAct;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ type: "datetime", precision: 3 })
  at!: Date;

  @Column({ type: "text" })
  word!: string;

  /** The conditions as they stood then, `HeldCondition[]` as JSON. */
  @Column({ type: "mediumtext" })
  conditions!: string;
}

/** Which action in the register a gate asked for that was passed with conditions. */
@Entity("gate_action")
export class GateActionEntity {
  /** The action's. */
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ name: "event_id", type: "int" })
  eventId!: number;

  @Column({ type: "int" })
  position!: number;

  /** Whoever is to do it, as it was written. */
  @Column({ type: "varchar", length: 200 })
  owner!: string;
}

/** The tables of this room. */
export const GATE_ENTITIES = [LifeCycleEntity, ProjectLifeEntity, GateEventEntity, GateActionEntity];
