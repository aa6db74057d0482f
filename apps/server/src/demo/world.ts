import type { Me } from "@chronometra/contract";
import type { Change, Plan } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { askApproval, decideApproval } from "../approve/approveService.ts";
import { storeChanges } from "../plan/changeService.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { writeProject } from "../plan/writeProjects.ts";
import { findProject } from "../project/projectAccess.ts";
import type { DemoProject } from "./invented/projects.ts";
import type { Random } from "./invented/random.ts";
import { Post, type Telling } from "../tell/post.ts";

/** What the demo world is filled with, and by whom. */
export interface World {
  readonly database: DataSource;
  readonly accounts: ReadonlyMap<string, Me>;
  readonly controller: Me;
  readonly approver: Me;
  readonly random: Random;
  readonly booked: Map<string, number>;
}

/** A project of it, to whoever manages it. */
export interface LiveProject {
  readonly demo: DemoProject;
  readonly id: string;
  readonly manager: Me;
}

/** An instant of a day, in UTC. */
export const at = (date: string, time = "15:00"): Date => new Date(`${date}T${time}:00Z`);

/** What was told long ago is in nobody's inbox any more. */
export const UNTOLD: Telling = { put: () => Promise.resolve() };

/** Mail of the demo world stays in its mailbox. */
export const POST = new Post({ togetherMilliseconds: 0 });

/** The plan of a project as it stands. */
export const planOf = async (database: DataSource, id: string): Promise<Plan> =>
  loadPlan(database.manager, await findProject(database, id));

/** A manager asks for approval in the morning of a day, and the approver gives it in the afternoon. */
export async function approve(
  world: World,
  projectId: string,
  manager: Me,
  word: string,
  reason: string,
  day: string,
): Promise<void> {
  const approval = await writeProject(world.database, manager, projectId, (writing, project) =>
    askApproval(writing, project, UNTOLD, { word }, at(day, "09:00")),
  );
  await decideApproval(world.database, UNTOLD, world.approver, approval.id, "approve", reason, at(day, "16:00"));
}

/** Stores changes of a project as of some moment; nothing where there are none. */
export async function change(
  world: World,
  id: string,
  me: Me,
  changes: readonly Change[],
  label: string,
  when: Date,
): Promise<void> {
  if (changes.length === 0) return;
  await writeProject(world.database, me, id, (writing, project) =>
    storeChanges(writing, project, { changes, label, at: when }),
  );
}
