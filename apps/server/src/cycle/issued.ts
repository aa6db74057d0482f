import type { DataSource, EntityManager } from "typeorm";
import { IssuedPeriodEntity } from "./cycleEntities.ts";

/** The periods issued for a project, oldest first; of each the edition that holds. */
export async function issuedPeriods(
  database: DataSource | EntityManager,
  projectId: string,
): Promise<IssuedPeriodEntity[]> {
  const all = await database
    .getRepository(IssuedPeriodEntity)
    .find({ where: { projectId }, order: { number: "ASC", edition: "ASC" } });
  return [...new Map(all.map((period) => [period.number, period])).values()];
}
