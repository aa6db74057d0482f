import type { Closing, Me } from "@chronometra/contract";
import { parkRows, type Change, type Plan } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { storeChanges, type ChangeOrder } from "../plan/changeService.ts";
import { inverseOf } from "../plan/history.ts";
import { ChangeListEntity } from "../plan/stored/planEntities.ts";
import { tellSystems } from "../hooks/tellSystems.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { writeProject, writeProjects, type Writing } from "../plan/writeProjects.ts";
import { findProject } from "../project/projectAccess.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";
import { ProjectClosingEntity } from "./cycleEntities.ts";
import { overPlans } from "../plan/held/overPlan.ts";
import type { CYCLE_WORKS } from "./cycleWorks.ts";

const overPlan = overPlans<typeof CYCLE_WORKS>();

/** What must be settled by a decision of its own before a project is closed. */
async function toSettle(manager: DataSource | EntityManager, project: ProjectEntity): Promise<string[]> {
  const count = async (query: string): Promise<number> =>
    Number(((await manager.query(query, [project.id])) as [{ n: string }])[0].n);
  const requests = await count("select count(*) as n from what_if where project_id = ? and state = 'asked'");
  const [reports, approvals] = [
    await count("select count(*) as n from report where project_id = ? and state = 'submitted'"),
    await count("select count(*) as n from approval where project_id = ? and state = 'asked'"),
  ];
  return [
    ...(reports > 0
      ? [`${reports} ${reports === 1 ? "report waits" : "reports wait"} to be accepted or returned`]
      : []),
    ...(approvals > 0 ? ["a request for approval waits for a decision"] : []),
    ...(requests > 0
      ? [`${requests === 1 ? "a change request waits" : `${requests} change requests wait`} for a decision`]
      : []),
    ...(project.head.dataDate === undefined
      ? ["the project has no data date, on which what remains could be finished"]
      : []),
  ];
}

/** How many activities closing a project ended, which stand as before once it is opened again. */
async function endedBy(database: DataSource, { projectId, revision }: ProjectClosingEntity): Promise<number> {
  if (revision === null) return 0;
  const list = await database.getRepository(ChangeListEntity).findOneByOrFail({ projectId, revision });
  return new Set(
    (JSON.parse(list.changes) as Change[]).flatMap((change) => ("activity" in change ? [change.activity] : [])),
  ).size;
}

/** What is left in a project before it can be closed, and whether it is. */
export async function closingOf(database: DataSource, projectId: string): Promise<Closing> {
  const project = await findProject(database, projectId);
  const closing = await database.getRepository(ProjectClosingEntity).findOneBy({ projectId });
  const names = await accountNames(database);
  return {
    closed:
      closing === null
        ? null
        : {
            by: names.get(closing.closedBy) ?? "",
            at: closing.closedAt.toISOString(),
            word: closing.word,
            ended: await endedBy(database, closing),
          },
    dataDate: project.head.dataDate ?? null,
    activities: await overPlan("leftIn", { id: projectId, plan: await loadPlan(database.manager, project) }),
    first: closing === null ? await toSettle(database, project) : [],
  };
}

/** What becomes of what is left, by activity. */
type Said = Readonly<Record<string, "done" | "dropped" | "parked">>;

/** The changes that finish what is left as someone said of each. */
function finishing(plan: Plan, left: Closing["activities"], said: Said): Change[] {
  const on = plan.project.dataDate!;
  const parked = left.filter(({ id }) => said[id] === "parked").map(({ id }) => id);
  const ended = left.flatMap(({ id }): Change[] => {
    const activity = plan.activities.get(id)!;
    if (said[id] === "parked") return [];
    const milestone = activity.kind === "milestone";
    const percent = milestone ? {} : said[id] === "done" ? { percent: 100 } : { percent: activity.percent ?? 0 };
    return [
      {
        type: "reportProgress",
        activity: id,
        ...(milestone || activity.actualStart !== undefined ? {} : { actualStart: on }),
        actualFinish: on,
        ...(activity.remainingMinutes === undefined ? {} : { remainingMinutes: null }),
        ...percent,
        ...(milestone ? { actualStart: on } : {}),
        ...(said[id] === "dropped" ? { dropped: true } : {}),
      },
    ];
  });
  return [...parkRows(plan, parked, { carried: false, newKey: () => "" }), ...ended];
}

const FEW = 5;

/** The first of some names, and how many more there are. */
const fewOf = (named: readonly { readonly name: string }[]): string =>
  `${named
    .slice(0, FEW)
    .map(({ name }) => `"${name}"`)
    .join(", ")}${named.length > FEW ? ` and ${named.length - FEW} more` : ""}`;

/**
 * Throws a Failure where it was not said of everything that is left what becomes of it, or something is to be parked
 * that counts.
 */
function assertAllSaid(left: Closing["activities"], said: Said): void {
  const unsaid = left.filter(({ id }) => said[id] === undefined);
  if (unsaid.length > 0) throw new Failure("invalid", `Say of ${fewOf(unsaid)} whether it is done, dropped or parked.`);
  const begun = left.filter(({ id, mayPark }) => said[id] === "parked" && !mayPark);
  if (begun.length > 0)
    throw new Failure(
      "invalid",
      `${fewOf(begun)} cannot be parked: work with dates, percent, time or cost on it counts. Say done or dropped. Nothing was closed.`,
    );
}

/** Finishes what is left in a project and closes it, all or nothing. */
export async function closeProject(
  database: DataSource,
  me: Me,
  projectId: string,
  word: string,
  said: Said,
): Promise<void> {
  await writeProject(
    database,
    me,
    projectId,
    async (writing, project) => {
      const { manager } = writing;
      const settle = await toSettle(manager, project);
      if (settle.length > 0) throw new Failure("invalid", `Before the project is closed: ${settle.join("; ")}.`);
      const plan = await writing.plan(project);
      const left = await overPlan("leftIn", { id: projectId, plan });
      assertAllSaid(left, said);
      const changes = finishing(plan, left, said);
      const stored =
        changes.length === 0
          ? null
          : await storeChanges(writing, project, { changes, label: `Closed: ${word}`.slice(0, 200) });
      await manager
        .getRepository(ProjectClosingEntity)
        .insert({ projectId, closedBy: me.id, closedAt: new Date(), word, revision: stored?.result.revision ?? null });
      await tellSystems(manager, "projectClosed", project, { revision: project.revision });
    },
    async (plan) => finishing(plan, await overPlan("leftIn", { id: projectId, plan }), said),
  );
}

/**
 * Opens a closed project again: what closing ended stands as before, in the same transaction. That it was closed, and
 * why it is open again, stands in its history.
 */
export async function openAgain(database: DataSource, me: Me, projectId: string, reason: string): Promise<void> {
  const work = async (writing: Writing): Promise<void> => {
    const { manager } = writing;
    const closings = manager.getRepository(ProjectClosingEntity);
    const closing = await closings.findOneBy({ projectId });
    if (closing === null || (await closings.delete({ projectId })).affected === 0)
      throw new Failure("conflict", "This project is not closed.");
    const project = await writing.editable(projectId);
    const back = await openingAgain(manager, project, closing);
    await storeChanges(writing, project, { ...back, label: `Opened again: ${reason}`.slice(0, 200) });
  };
  await writeProjects(database, me, [projectId], work, async (_plan, project) => {
    const closing = await database.getRepository(ProjectClosingEntity).findOneBy({ projectId });
    return closing === null ? [] : (await openingAgain(database.manager, project, closing)).changes;
  });
}

/** What takes back what closing a project ended. */
const openingAgain = async (
  manager: EntityManager,
  project: ProjectEntity,
  { revision }: ProjectClosingEntity,
): Promise<Pick<ChangeOrder, "changes">> =>
  revision === null ? { changes: [{ type: "setProject", set: {} }] } : inverseOf(manager, project, revision);
