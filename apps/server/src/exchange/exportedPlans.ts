import { promisify } from "node:util";
import { gunzip, gzip } from "node:zlib";
import type { PlanBundle } from "@chronometra/core";
import { LessThan, type DataSource, type EntityManager } from "typeorm";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { ExportedPlanEntity } from "./importEntities.ts";

const KEPT_MILLISECONDS = 366 * 24 * 60 * 60_000;

/** Keeps a plan as it was exported, for a file that comes back edited. */
export async function rememberExport(database: DataSource, project: ProjectEntity, bundle: PlanBundle): Promise<void> {
  const { timeEntries: _time, actualCosts: _costs, baselines: _baselines, ...plan } = bundle;
  const content = await promisify(gzip)(JSON.stringify(plan));
  const row = { projectId: project.id, revision: project.revision, exportedAt: new Date(), content };
  await database.getRepository(ExportedPlanEntity).upsert(row, ["projectId", "revision"]);
}

/** A plan as it was exported at a revision, and when last; `null` where it was not, or is no longer kept. */
export async function exportedAt(
  manager: EntityManager,
  projectId: string,
  revision: number,
): Promise<{ at: Date; plan: PlanBundle } | null> {
  const row = await manager.getRepository(ExportedPlanEntity).findOneBy({ projectId, revision });
  if (row === null) return null;
  return { at: row.exportedAt, plan: JSON.parse((await promisify(gunzip)(row.content)).toString()) as PlanBundle };
}

/** Drops plans whose files are hardly brought back any more. */
export async function sweepExports(database: DataSource, now = Date.now()): Promise<void> {
  await database.getRepository(ExportedPlanEntity).delete({ exportedAt: LessThan(new Date(now - KEPT_MILLISECONDS)) });
}
