import type { Me } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { Failure, orNotFound } from "../shared/failure.ts";
import { ProjectEntity } from "./projectEntity.ts";

/** Whether someone may change a project: controllers any, project managers their own. */
export const mayEdit = (me: Me, project: { managerId: string }): boolean =>
  me.roles.includes("controller") || (me.roles.includes("projectManager") && project.managerId === me.id);

/** The project of that id. */
export async function findProject(database: DataSource | EntityManager, id: string): Promise<ProjectEntity> {
  return orNotFound(await database.getRepository(ProjectEntity).findOneBy({ id }), "project of that address");
}

/** The project, if this person may change it; its row is locked until the transaction ends. */
export async function lockProjectFor(manager: EntityManager, id: string, me: Me): Promise<ProjectEntity> {
  const project = orNotFound(await manager.getRepository(ProjectEntity).findOne({ where: { id }, lock: { mode: "pessimistic_write" } }), "project of that address");
  assertMayEdit(me, project);
  return project;
}

export function assertMayEdit(me: Me, project: { managerId: string }): void {
  if (!mayEdit(me, project)) throw new Failure("notAllowed", "Only the project's manager or a controller may change this project.");
}
