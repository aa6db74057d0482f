import type { DataSource } from "typeorm";
import { FiguresEntity } from "../look/figuresEntity.ts";
import { computeWhole, keptFigures } from "../look/summarise.ts";
import { loadPlan } from "../plan/planStore.ts";
import { ProjectEntity } from "../portfolio/projectEntity.ts";
import { inTransaction } from "../shared/database.ts";
import { keepRows } from "./keptRows.ts";

/**
 * Writes the rows and figures of projects whose rows are not of their newest revision, such as those stored before rows were kept.
 * @returns how many there were
 */
export async function fillRows(database: DataSource): Promise<number> {
  const stale = (await database.query("select id from project where kept_revision <> revision")) as { id: string }[];
  for (const { id } of stale) {
    await inTransaction(database, async (manager) => {
      const project = await manager.getRepository(ProjectEntity).findOneOrFail({ where: { id }, lock: { mode: "pessimistic_write" } });
      const plan = await loadPlan(manager, project);
      await manager.query("delete from spent_row where project_id = ?", [id]);
      const whole = computeWhole(plan);
      await manager.getRepository(FiguresEntity).update({ projectId: id, revision: project.revision }, keptFigures(whole));
      await keepRows(manager, project, null, plan, whole);
    });
  }
  return stale.length;
}
