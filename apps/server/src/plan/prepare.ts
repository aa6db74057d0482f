import { applyChanges, type Applied, type Change, type Plan } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { ProjectEntity } from "../project/projectEntity.ts";
import { newTag, overPlans, tagOf, type PlanOf } from "./held/overPlan.ts";
import { compareAhead, loadPlan } from "./stored/planStore.ts";
import type { PlanWorksOf } from "./held/planWorks.ts";
import type { TableRows } from "./held/writer.ts";

const overPlan = overPlans<PlanWorksOf>();

/** What changes make of a plan, and what they make of all that is kept beside it. */
export interface Prepared {
  readonly applied: Applied;
  /** Worked out when it is first asked for. Rejected with PlanProblems where the plan would not hold. */
  readonly rows: () => Promise<readonly TableRows[]>;
}

/** The last list that was prepared for a plan; who prepares ahead of a lock finds it there under the lock. */
const preparedFor = new WeakMap<Plan, { readonly text: string; readonly prepared: Prepared }>();

/**
 * Applies changes to a plan as of a project's revision, and has worked out on the plan's thread what is stored with
 * them.
 * @param when whether the thread begins at once, or when it is asked for rows
 * @throws {PlanProblems} where they cannot be applied
 */
export function prepare(
  { id, revision, keptRevision }: Pick<ProjectEntity, "id" | "revision" | "keptRevision">,
  plan: Plan,
  changes: readonly Change[],
  when: "atOnce" | "whenAsked" = "whenAsked",
): Prepared {
  const anew = keptRevision !== revision;
  const text = JSON.stringify([revision, anew, changes]);
  const known = preparedFor.get(plan);
  if (known?.text === text) return known.prepared;
  const stored = { changes, made: newTag(), revision: revision + 1, anew };
  let asked: Promise<readonly TableRows[]> | undefined;
  const rows = (): Promise<readonly TableRows[]> =>
    (asked ??= overPlan("store", { id, plan }, stored).catch((error: unknown) => {
      // A thread that ended is asked again.
      asked = undefined;
      throw error;
    }));
  // While the thread works on it, so does this one.
  if (when === "atOnce") rows().catch(() => undefined);
  const applied = applyChanges(plan, changes);
  tagOf(applied.plan, stored.made);
  const prepared = { applied, rows };
  preparedFor.set(plan, { text, prepared });
  return prepared;
}

type Changes = readonly Change[];

/** Two lists that are stored one after the other: the second is made of the plan that the first leaves. */
export interface TwoLists {
  readonly first: Changes;
  readonly second: (after: Plan) => Promise<Changes>;
}

/** The changes that are about to be stored in a project, as far as they are known before it is locked. */
export type ChangesOf = (plan: Plan, project: ProjectEntity) => Changes | TwoLists | Promise<Changes | TwoLists>;

/** A plan as of a revision of its project. */
export interface PlanAsOf {
  readonly revision: number;
  readonly plan: Plan;
}

/**
 * Prepares a list of changes before its project is locked, so that under the lock it is only compared and stored. Where
 * the plan is another by then, it is prepared again.
 * @returns the plan that it was prepared of, where it could be read
 */
export async function prepareAhead(
  database: DataSource,
  id: string,
  changesOf: ChangesOf,
): Promise<PlanAsOf | undefined> {
  let read: PlanAsOf | undefined;
  try {
    const project = await database.getRepository(ProjectEntity).findOneByOrFail({ id });
    const plan = await loadPlan(database.manager, project);
    read = { revision: project.revision, plan };
    const asked = await changesOf(plan, project);
    const { first, second } = "second" in asked ? asked : { first: asked, second: null };
    if (first.length === 0) return read;
    const { applied, rows } = prepare(project, plan, first, "atOnce");
    compareAhead(plan, applied.plan);
    await rows();
    if (second === null) return read;
    const revision = project.revision + 1;
    await prepare({ id, revision, keptRevision: revision }, applied.plan, await second(applied.plan)).rows();
  } catch {
    // All of it is done once more under the lock, of the plan as it is then; whatever stands against it is told there.
  }
  return read;
}

/**
 * The effect of changes on a plan, with the currency its amounts are in. Throws PlanProblems where it would not hold.
 */
export const effectOn = (of: PlanOf, changes: readonly Change[]) => overPlan("effect", of, changes);

/** Whether changes hold on a plan. Throws PlanProblems where they do not. */
export const checkOn = (of: PlanOf, changes: readonly Change[]): Promise<void> => overPlan("check", of, changes);

/** All that is kept of a plan that is nowhere kept yet, or not as of this revision. */
export const rowsOfAll = (of: PlanOf, revision: number): Promise<readonly TableRows[]> =>
  overPlan("keepAnew", of, revision);
