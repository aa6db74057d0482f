import type { BodyOf, Me, Paths } from "@chronometra/contract";
import { ownValueFault, type OwnField } from "@chronometra/core";
import { In, IsNull, Not, type DataSource } from "typeorm";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { assertMayEdit, findProject } from "../project/projectAccess.ts";
import {
  ProgrammeEntity,
  ProjectEntity,
  ProjectFieldEntity,
  ProjectSaysEntity,
  ProjectValueEntity,
} from "../project/projectEntity.ts";

/** SPI, CPI and drift of each project as issued, period by period; of each period the edition that holds. */
export async function pathsOf(database: DataSource): Promise<Paths> {
  const rows = (await database.query(
    "select project_id as project, number, data_date as dataDate, spi, cpi, drift from issued_period order by project_id, number, edition",
  )) as ({ project: string } & Paths[string][number])[];
  const paths: Record<string, Paths[string]> = {};
  for (const { project, ...point } of rows) {
    const path = (paths[project] ??= []);
    if (path.at(-1)?.number === point.number) path.pop();
    path.push(point);
  }
  return paths;
}

/** Writes the fields of one's own that every project has. A field whose values would no longer fit is refused. */
export async function writeFields(database: DataSource, fields: readonly OwnField[]): Promise<void> {
  const twice = fields.find(({ id, name }, i) =>
    fields.some((other, j) => j < i && (other.id === id || other.name === name)),
  );
  if (twice !== undefined)
    throw new Failure("invalid", `There are two fields called "${twice.name}"; give one another name.`);
  await inTransaction(database, async (manager) => {
    const values = await manager.getRepository(ProjectValueEntity).find();
    for (const field of fields) {
      const fault = values.flatMap(({ fieldId, value }) =>
        fieldId === field.id ? (ownValueFault(field, value) ?? []) : [],
      )[0];
      if (fault !== undefined)
        throw new Failure(
          "invalid",
          `"${field.name}" has values that would no longer fit: it ${fault}. Change those first.`,
        );
    }
    const ids = fields.map(({ id }) => id);
    await manager
      .getRepository(ProjectFieldEntity)
      .delete(ids.length === 0 ? { id: Not(IsNull()) } : { id: Not(In(ids)) });
    await manager
      .getRepository(ProjectValueEntity)
      .delete(ids.length === 0 ? { fieldId: Not(IsNull()) } : { fieldId: Not(In(ids)) });
    if (fields.length > 0)
      await manager.getRepository(ProjectFieldEntity).upsert(
        fields.map((definition, position) => ({ id: definition.id, position, definition })),
        ["id"],
      );
  });
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
      const fault = value === null ? null : ownValueFault(field, value);
      if (fault !== null) throw new Failure("invalid", `${field.name} ${fault}.`);
      if (value === null) await manager.getRepository(ProjectValueEntity).delete({ projectId, fieldId });
      else
        await manager.getRepository(ProjectValueEntity).upsert({ projectId, fieldId, value }, ["projectId", "fieldId"]);
    }
  });
}
