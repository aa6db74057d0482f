import type { ReportContent, Summary } from "@chronometra/contract";
import type { ProjectEntity } from "../../project/projectEntity.ts";

/** A project of a group, with the report of the period that it issued; `null` where it has not. */
export interface GroupMember {
  readonly project: ProjectEntity;
  readonly content: ReportContent | null;
  /** The figures that were frozen with it. */
  readonly summary: Summary | null;
}
