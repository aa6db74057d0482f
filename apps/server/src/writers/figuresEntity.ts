import { Column, Entity, PrimaryColumn } from "typeorm";

/** A project's figures, one row a revision, written in the transaction that changed the project. */
@Entity("figures")
export class FiguresEntity {
  @PrimaryColumn({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @PrimaryColumn({ type: "int" })
  revision!: number;

  /** A `Summary` of the contract, as text. */
  @Column({ type: "mediumtext" })
  summary!: string;

  /** A `LineSummary` of the contract, as text: the portfolio page hands it on as it is. */
  @Column({ type: "mediumtext" })
  line!: string;

  /** Who has work that is not finished, and since when, as text: from this follows who is expected to report. */
  @Column({ type: "mediumtext" })
  people!: string;
}

/** The tables of this room. */
export const WRITERS_ENTITIES = [FiguresEntity];
