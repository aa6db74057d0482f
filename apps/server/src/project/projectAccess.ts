import type { Me } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { Failure, orNotFound } from "../shared/failure.ts";
import { ProjectEntity } from "./projectEntity.ts";
import { holdsIn, mayEdit, type Placed } from "./reach.ts";

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

/** Refuses whoever may not put projects into a group; `null` for none. */
export function assertMayBeginIn(me: Me, group: string | null): void {
  if (!holdsIn(me, "controller", group) && !holdsIn(me, "projectManager", group))
    throw new Failure("notAllowed", "Your role is for other groups; put the project into one of those.");
}

/** Refuses whoever may not change a project. */
export function assertMayEdit(me: Me, project: Placed): void {
  if (!mayEdit(me, project))
    throw new Failure("notAllowed", "Only the project's manager or a controller may change this project.");
}
