import type { CharterView, Me } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import { managersOf } from "../access/accounts.ts";
import { storeChanges } from "../plan/changeService.ts";
import { writeProject } from "../plan/writeProjects.ts";
import { Failure } from "../shared/failure.ts";
import type { Message, Post } from "../tell/post.ts";
import { noteInLog, viewCharter } from "./charter.ts";

/**
 * Gives a project to another manager: it stands in its history, and whoever had it and whoever gets it are told.
 * @throws {Failure} where that is nobody who may manage, or has it already
 */
export async function handOver(
  database: DataSource,
  me: Me,
  post: Post,
  id: string,
  { manager: to, word }: { readonly manager: string; readonly word: string },
): Promise<CharterView> {
  await writeProject(database, me, id, async (writing, project) => {
    const { manager } = writing;
    const next = (await managersOf(manager)).find((each) => each.id === to);
    if (next === undefined)
      throw new Failure(
        "invalid",
        "Whoever is to manage it is no project manager and no controller. Nothing was changed.",
      );
    if (project.managerId === to) throw new Failure("invalid", `${next.name} manages it already.`);
    const was = await manager.getRepository(AccountEntity).findOneBy({ id: project.managerId });
    const label = `Handed over from ${was?.name ?? "nobody"} to ${next.name}`;
    await manager.query("update project set manager_id = ? where id = ?", [to, project.id]);
    project.managerId = to;
    await storeChanges(writing, project, { changes: [], label });
    await noteInLog(manager, project, me, word === "" ? label : `${label}: ${word}`);
    const told = await manager.getRepository(AccountEntity).findBy([{ id: to }, { id: was?.id ?? "" }]);
    const { code, name } = project.head;
    await post.put(
      manager,
      told.map((account): Message => ({
        to: account,
        kind: "period",
        project: project.id,
        from: me,
        subject: `${code} ${name}: ${account.id === to ? "it is yours to manage" : `${next.name} manages it now`}`,
        body: [`${label}, by ${me.name}.`, word].filter((line) => line !== "").join("\n\n"),
        link: `/projects/${project.id}/charter`,
      })),
    );
  });
  return viewCharter(database, me, id);
}
