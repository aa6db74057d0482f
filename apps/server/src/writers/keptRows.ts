import type { Plan } from "@chronometra/core";
import type { EntityManager } from "typeorm";
import { keptActivities } from "./keptActivities.ts";
import { keptLoad } from "./keptLoad.ts";
import { keptNames } from "./keptNames.ts";
import { keptRisks } from "./keptRisks.ts";
import { keptSpent } from "./keptSpent.ts";
import type { ComputedPlan } from "./summarise.ts";
import type { Writer } from "./writer.ts";

/** All that is kept beside plans. */
export const WRITERS: readonly Writer[] = [keptActivities, keptSpent, keptNames, keptRisks, keptLoad];

/**
 * Brings the rows that are kept of a project up to a plan; in the caller's transaction.
 * @param before the plan as it was kept; `null` makes all of them anew
 */
export async function keepRows(
  manager: EntityManager,
  project: { id: string; revision: number },
  before: Plan | null,
  after: Plan,
  whole: ComputedPlan,
): Promise<void> {
  if (before === null)
    for (const table of WRITERS.flatMap(({ tables }) => tables))
      await manager.query(`delete from ${table} where project_id = ?`, [project.id]);
  for (const { write } of WRITERS) await write({ manager, projectId: project.id, before, after, whole });
  await manager.query("update project set kept_revision = ? where id = ?", [project.revision, project.id]);
}
