import type { Me } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { storeChanges } from "../../plan/changeService.ts";
import { writeProjects } from "../../plan/writeProjects.ts";
import { assertNotClosed, mayEdit } from "../../project/projectAccess.ts";
import { todayOf } from "../../shared/clock.ts";
import { Failure, orNotFound } from "../../shared/failure.ts";

interface BlockRequest {
  readonly project: string;
  readonly activity: string;
  readonly by: string | null;
  readonly on?: { readonly project: string; readonly activity: string } | undefined;
}

/** Marks an activity as blocked, or no longer: those who work on it may, and whoever may change the plan. It moves no date. */
export async function markBlocked(
  database: DataSource,
  me: Me,
  { project: projectId, activity, by, on }: BlockRequest,
): Promise<void> {
  await writeProjects(database, me, [projectId], async (writing) => {
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
    const had = before.blocks.get(activity);
    const changes: Change[] = [
      ...(had === undefined ? [] : [{ type: "removeRow", table: "blocks", key: activity } as const]),
      ...(by === null
        ? []
        : [
            {
              type: "addRow",
              table: "blocks",
              key: activity,
              row: { by, since: had?.since ?? todayOf(me), saidBy: me.name, ...(on === undefined ? {} : { on }) },
            } as const,
          ]),
    ];
    if (changes.length > 0)
      await storeChanges(writing, project, {
        changes,
        label: (by === null ? `No longer blocked: ${row.name}` : `Blocked: ${row.name}`).slice(0, 200),
      });
  });
}
