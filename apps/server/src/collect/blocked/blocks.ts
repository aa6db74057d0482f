import type { Me } from "@chronometra/contract";
import type { Change, Plan } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { storeChanges } from "../../plan/changeService.ts";
import { writeProjects, type Writing } from "../../plan/writeProjects.ts";
import { assertNotClosed } from "../../project/projectAccess.ts";
import { mayEdit } from "../../project/reach.ts";
import { todayOf } from "../../shared/clock.ts";
import { Failure, orNotFound } from "../../shared/failure.ts";

interface BlockRequest {
  readonly project: string;
  readonly activity: string;
  readonly by: string | null;
  readonly on?: { readonly project: string; readonly activity: string } | undefined;
}

/**
 * Marks an activity as blocked, or no longer: those who work on it may, and whoever may change the plan. It moves no
 * date.
 */
export async function markBlocked(
  database: DataSource,
  me: Me,
  { project: projectId, activity, by, on }: BlockRequest,
): Promise<void> {
  const changesOf = ({ blocks }: Plan): Change[] => {
    const had = blocks.get(activity);
    const since = had?.since ?? todayOf(me);
    const row = { by: by!, since, saidBy: me.name, ...(on === undefined ? {} : { on }) };
    return [
      ...(had === undefined ? [] : [{ type: "removeRow", table: "blocks", key: activity } as const]),
      ...(by === null ? [] : [{ type: "addRow", table: "blocks", key: activity, row } as const]),
    ];
  };
  const work = async (writing: Writing): Promise<void> => {
    const project = writing.project(projectId);
    await assertNotClosed(writing.manager, project);
    const before = await writing.plan(project);
    const row = orNotFound(before.activities.get(activity), "activity of that name");
    const isOwn =
      me.person !== null &&
      [...before.assignments.values()].some((each) => each.activity === activity && each.person === me.person);
    if (!isOwn && !mayEdit(me, project))
      throw new Failure(
        "notAllowed",
        `"${row.name}" is not assigned to you; only those who work on it and its project manager say that it is blocked.`,
      );
    const changes = changesOf(before);
    if (changes.length > 0)
      await storeChanges(writing, project, {
        changes,
        label: (by === null ? `No longer blocked: ${row.name}` : `Blocked: ${row.name}`).slice(0, 200),
      });
  };
  await writeProjects(database, me, [projectId], work, changesOf);
}
