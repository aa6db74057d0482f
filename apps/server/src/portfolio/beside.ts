import type { BodyOf, Me, Paths } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { inTransaction } from "../shared/database.ts";
import { valueFault } from "./ownFields.ts";
import { Failure } from "../shared/failure.ts";
import { assertMayBeginIn, assertMayEdit, findProject } from "../project/projectAccess.ts";
import {
  ProgrammeEntity,
  ProjectEntity,
  ProjectFieldEntity,
  ProjectSaysEntity,
  ProjectValueEntity,
} from "../project/projectEntity.ts";
import { projectsSeen } from "../project/reach.ts";

/**
 * SPI, CPI and drift of each project that someone sees as issued, period by period; of each period the edition that
 * holds.
 */
export async function pathsOf(database: DataSource, me: Me): Promise<Paths> {
  const seen = await projectsSeen(database, me);
  const rows = (await database.query(
    "select project_id as project, number, data_date as dataDate, spi, cpi, drift from issued_period order by project_id, number, edition",
  )) as ({ project: string } & Paths[string][number])[];
  const paths: Record<string, Paths[string]> = {};
  for (const { project, ...point } of rows) {
    if (seen?.has(project) === false) continue;
    const path = (paths[project] ??= []);
    if (path.at(-1)?.number === point.number) path.pop();
    path.push(point);
  }
  return paths;
}

/** Writes what the portfolio knows of a project beside its plan. */
export async function writeStanding(
  database: DataSource,
  me: Me,
  projectId: string,
  { programme, says, values }: BodyOf<"PUT /api/projects/:project/standing">,
): Promise<void> {
  await inTransaction(database, async (manager) => {
    const project = await findProject(manager, projectId);
    assertMayEdit(me, project);
    if (programme !== undefined) {
      if (programme !== null && !(await manager.getRepository(ProgrammeEntity).existsBy({ id: programme })))
        throw new Failure("invalid", "There is no such programme.");
      if (programme !== project.programmeId) assertMayBeginIn(me, programme);
      await manager.getRepository(ProjectEntity).update({ id: projectId }, { programmeId: programme });
    }
    if (says === null) await manager.getRepository(ProjectSaysEntity).delete({ projectId });
    else if (says !== undefined)
      await manager
        .getRepository(ProjectSaysEntity)
        .upsert({ projectId, ...says, saidBy: me.id, saidAt: new Date() }, ["projectId"]);
    const fields = new Map(
      (await manager.getRepository(ProjectFieldEntity).find()).map(({ id, definition }) => [id, definition]),
    );
    for (const [fieldId, value] of Object.entries(values ?? {})) {
      const field = fields.get(fieldId);
      if (field === undefined) throw new Failure("invalid", "There is no such field; load the page again.");
      const fault = value === null ? null : await valueFault(manager, field, value, project.head.minorDigits ?? 2);
      if (fault !== null) throw new Failure("invalid", `${field.name} ${fault}.`);
      if (value === null) await manager.getRepository(ProjectValueEntity).delete({ projectId, fieldId });
      else
        await manager.getRepository(ProjectValueEntity).upsert({ projectId, fieldId, value }, ["projectId", "fieldId"]);
    }
  });
}
