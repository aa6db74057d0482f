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

/** Whether a project was closed. */
export const isClosed = async (manager: DataSource | EntityManager, project: ProjectEntity): Promise<boolean> =>
  ((await manager.query("select 1 from project_closing where project_id = ?", [project.id])) as unknown[]).length > 0;

/** In a closed project nothing changes any more. */
export async function assertNotClosed(manager: DataSource | EntityManager, project: ProjectEntity): Promise<void> {
  if (await isClosed(manager, project))
    throw new Failure("invalid", `"${project.head.name}" is closed; a controller may open it again.`);
}

export function assertMayEdit(me: Me, project: { managerId: string }): void {
  if (!mayEdit(me, project))
    throw new Failure("notAllowed", "Only the project's manager or a controller may change this project.");
}
