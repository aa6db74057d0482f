import type { Me, PlanView } from "@chronometra/contract";
import { SHOWN_TABLES, type Plan } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { mayEdit } from "../project/reach.ts";
import { ProgrammeEntity, type ProjectEntity } from "../project/projectEntity.ts";

const viewTables = (plan: Plan): PlanView["tables"] =>
  Object.fromEntries(SHOWN_TABLES.map((table) => [table, [...plan[table]]])) as PlanView["tables"];

/** A plan of a project with its rows and keys, for whoever looks at it. */
export async function presentPlan(database: DataSource, me: Me, project: ProjectEntity, plan: Plan): Promise<PlanView> {
  const programme =
    project.programmeId === null
      ? null
      : await database.getRepository(ProgrammeEntity).findOneBy({ id: project.programmeId });
  const manager = { id: project.managerId, name: (await accountNames(database)).get(project.managerId) ?? "" };
  return {
    id: project.id,
    revision: project.revision,
    manager,
    programme: programme?.name ?? null,
    mayEdit: mayEdit(me, project),
    project: plan.project,
    tables: viewTables(plan),
  };
}
