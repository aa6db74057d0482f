import type { BackView, ChangeResult, Me, PlanThen } from "@chronometra/contract";
import {
  changesBefore,
  planBefore,
  PlanProblems,
  problemInWords,
  type Change,
  type Plan,
  type StoredChanges,
} from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames } from "../../access/accounts.ts";
import { listsSince, storeChanges, tryChanges } from "../../plan/changeService.ts";
import { overPlans } from "../../plan/held/overPlan.ts";
import { effectOn } from "../../plan/prepare.ts";
import { ChangeListEntity } from "../../plan/stored/planEntities.ts";
import { loadPlan } from "../../plan/stored/planStore.ts";
import { writeProject } from "../../plan/writeProjects.ts";
import { assertMayEdit, assertNotClosed, findProject } from "../../project/projectAccess.ts";
import type { ProjectEntity } from "../../project/projectEntity.ts";
import { Failure, orNotFound } from "../../shared/failure.ts";
import type { APPROVE_WORKS } from "../works/approveWorks.ts";

const overPlan = overPlans<typeof APPROVE_WORKS>();

/** A list as one goes back behind it. */
function asStored({ revision, label, touched, inverse, were }: ChangeListEntity): StoredChanges {
  const back = inverse ?? were;
  if (back === null)
    throw new Failure(
      "invalid",
      `How the plan was before revision ${revision} (“${label}”) is not kept: it was stored before that was noted.`,
    );
  return { touched: JSON.parse(touched) as string[], were: JSON.parse(back) as Change[] };
}

/** The lists that were stored since a revision, the newest first. */
async function behind(manager: EntityManager, project: ProjectEntity, revision: number): Promise<ChangeListEntity[]> {
  if (!Number.isInteger(revision) || revision < 1 || revision > project.revision)
    throw new Failure("notFound", `There is no revision ${revision} in this project.`);
  return (await listsSince(manager, project.id, revision))
    .filter((list) => list.revision <= project.revision)
    .reverse();
}

/** A plan as it was at a revision. */
export async function planAt(manager: EntityManager, project: ProjectEntity, revision: number): Promise<Plan> {
  const lists = await behind(manager, project, revision);
  return planBefore(await loadPlan(manager, project), lists.map(asStored));
}

/** A plan as it was at a revision, to be read: what was when, without what it cost. */
export async function viewPlanAt(database: DataSource, projectId: string, revision: number): Promise<PlanThen> {
  const project = await findProject(database, projectId);
  const plan = await planAt(database.manager, project, revision);
  const [list, names, activities] = await Promise.all([
    database.getRepository(ChangeListEntity).findOneBy({ projectId, revision }),
    accountNames(database),
    overPlan("asRead", { id: project.id, plan }),
  ]);
  const { at, label, accountId } = orNotFound(list, "revision of that number");
  return {
    ...{ revision, at: at.toISOString(), label, by: names.get(accountId) ?? "", newest: project.revision },
    ...{ name: plan.project.name, dataDate: plan.project.dataDate ?? null, activities },
  };
}

/** What happened since a revision and stays: reports were made of work that was done, whatever the plan says. */
const stays = ({ through }: ChangeListEntity): boolean => through === "reports" || through === "system";

/** The changes that bring a plan back to what it was; the data date stays, and so does what was reported. */
function changesBack(lists: readonly ChangeListEntity[]): Change[] {
  return changesBefore(lists.filter((list) => !stays(list)).map(asStored)).filter(({ type }) => type !== "setDataDate");
}

/** Why a list cannot be stored, in words; anything else is thrown. */
function whyNot(error: unknown, plan: Plan, changes: readonly Change[]): string {
  if (!(error instanceof PlanProblems) && !(error instanceof Failure)) throw error;
  const [problem] = error instanceof PlanProblems ? error.problems : (error.details.problems ?? []);
  if (problem === undefined) return error.message;
  return `What stays rests on it. ${problemInWords(problem, plan, changes).said}.`;
}

/** What bringing a plan back to a revision would move, or why it cannot be. */
export async function effectOfBack(database: DataSource, me: Me, id: string, revision: number): Promise<BackView> {
  const project = await findProject(database, id);
  assertMayEdit(me, project);
  const lists = await behind(database.manager, project, revision);
  const changes = changesBack(lists);
  const counts = {
    seen: project.revision,
    lists: lists.length,
    stay: lists.filter(stays).length,
    changes: changes.length,
  };
  const plan = await loadPlan(database.manager, project);
  try {
    await assertNotClosed(database.manager, project);
    if (changes.length === 0) throw new Failure("invalid", "Nothing of the plan was changed since.");
    await tryChanges(database.manager, project, plan, { changes });
    return { ...counts, effect: await effectOn({ id, plan }, changes), why: null };
  } catch (error) {
    return { ...counts, effect: null, why: whyNot(error, plan, changes) };
  }
}

/**
 * Brings a plan back to what it was at a revision, as one list that can be undone.
 * @param seen the revision that was looked at: whatever came after it is in the way
 */
export const bringBack = (
  database: DataSource,
  me: Me,
  id: string,
  { revision, seen }: { readonly revision: number; readonly seen: number },
): Promise<ChangeResult> =>
  writeProject(
    database,
    me,
    id,
    async (writing, project) => {
      if (seen !== project.revision)
        throw new Failure(
          "conflict",
          "The plan was changed meanwhile; look again at what bringing it back would move.",
        );
      const changes = changesBack(await behind(writing.manager, project, revision));
      if (changes.length === 0) throw new Failure("invalid", "Nothing of the plan was changed since.");
      const label = `Brought back as it was at revision ${revision}`;
      return (await storeChanges(writing, project, { changes, label, through: "undo" })).result;
    },
    async (_plan, project) => changesBack(await behind(database.manager, project, revision)),
  );
