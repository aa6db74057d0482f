import type { BodyOf, MatterView, Me } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { assertNotClosed } from "../../project/projectAccess.ts";
import { ProjectEntity } from "../../project/projectEntity.ts";
import { mayEdit } from "../../project/reach.ts";
import { projectsWorkedIn } from "../../project/worksIn.ts";
import { inTransaction } from "../../shared/database.ts";
import { orNotFound } from "../../shared/failure.ts";
import type { Telling } from "../../tell/post.ts";
import { viewMatter } from "../listMatters.ts";
import { tellOwner } from "../tellOfMatters.ts";
import { beginMatter } from "./raiseMatters.ts";

/** Raises an issue where someone works: its project's manager owns it and is asked to see to it. */
export async function raiseAtWork(
  database: DataSource,
  me: Me,
  post: Telling,
  { project: projectId, activity, title, text }: BodyOf<"POST /api/desk/issues">,
): Promise<MatterView> {
  const id = await inTransaction(database, async (manager) => {
    const project = await manager.getRepository(ProjectEntity).findOneBy({ id: projectId });
    const mayRaise =
      project !== null &&
      (mayEdit(me, project) || (await projectsWorkedIn(manager, me.person, [projectId])).has(projectId));
    const { managerId, code } = orNotFound(mayRaise ? project : null, "project of that address");
    await assertNotClosed(manager, project!);
    const begun = await beginMatter(manager, me, {
      ...{ kind: "issue", project: projectId, group: null, title, text, owner: managerId },
      ties: [{ about: "activity", id: activity }],
    });
    const told = { id: begun, kind: "issue", title, due: null, projectId, code } as const;
    await tellOwner(manager, post, me, told, managerId);
    return begun;
  });
  return viewMatter(database, me, id);
}
