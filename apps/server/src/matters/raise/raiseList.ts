import type { BodyOf, MatterWrite, Me, NewMatter, ResponseOf } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { writeProjects } from "../../plan/writeProjects.ts";
import { Failure } from "../../shared/failure.ts";
import type { Telling } from "../../tell/post.ts";
import { matterSettings } from "../matterSettings.ts";
import { tellOwner } from "../tellOfMatters.ts";
import { applyWrites, writable } from "../writeMatters.ts";
import { assertMayRaise, assertWhole, beginInProject, beginMatter, toldOf } from "./raiseMatters.ts";

/** Puts things into the registers of groups and of the house, within the transaction. */
async function beginElsewhere(manager: EntityManager, me: Me, list: readonly NewMatter[]): Promise<string[]> {
  for (const group of new Set(list.map((asked) => asked.group))) await assertMayRaise(manager, me, group);
  const begun: string[] = [];
  for (const asked of list) begun.push(await beginMatter(manager, me, asked));
  return begun;
}

/** What is wrong in a list, with which of it. */
async function naming<T>({ title }: NewMatter, act: () => T | Promise<T>): Promise<T> {
  try {
    return await act();
  } catch (error) {
    throw error instanceof Failure && error.code === "invalid"
      ? new Failure("invalid", `“${title}”: ${error.message} Nothing was added.`)
      : error;
  }
}

/**
 * Puts a list of things into registers, of any projects, groups and the house: all or nothing.
 * @returns their ids, and the revisions that the plans of those projects have now which gained risks
 */
export async function raiseList(
  database: DataSource,
  me: Me,
  post: Telling,
  list: readonly NewMatter[],
): Promise<ResponseOf<"POST /api/matters/list">> {
  for (const asked of list) await naming(asked, () => assertWhole(asked));
  const projects = [...new Set(list.map(({ project }) => project))];
  const ids = projects.filter((id) => id !== null);
  return writeProjects(database, me, ids, async (writing) => {
    const { manager } = writing;
    const added: string[] = [];
    const revisions: { project: string; revision: number }[] = [];
    for (const id of projects) {
      const of = list.filter((asked) => asked.project === id);
      const project = id === null ? null : await writing.editable(id);
      const before = project?.revision;
      const begun =
        project === null ? await beginElsewhere(manager, me, of) : await beginInProject(writing, project, of);
      for (const [i, matter] of begun.entries())
        await tellOwner(manager, post, me, toldOf(matter, of[i]!, project?.code ?? null), of[i]!.owner ?? null);
      if (project !== null && project.revision !== before)
        revisions.push({ project: project.id, revision: project.revision });
      added.push(...begun);
    }
    return { ids: added, revisions };
  });
}

/** Removes all of a list that is of no plan, as one by one, but all or nothing. */
export async function removeList(
  database: DataSource,
  me: Me,
  { ids }: BodyOf<"DELETE /api/matters/list">,
): Promise<void> {
  const rows = (await database.query(
    "select id, project_id as project from matter where id in (?) and risk_id is null and removed = 0",
    [[...ids, ""]],
  )) as { id: string; project: string | null }[];
  const settings = await matterSettings(database);
  const projects = rows.flatMap(({ project }) => project ?? []);
  const removal: MatterWrite[] = [{ field: "removed", was: false, value: true }];
  await writeProjects(database, me, projects, async ({ manager }) => {
    for (const { id } of rows)
      await applyWrites(manager, me, await writable(manager, me, id, removal), settings, removal);
  });
}
