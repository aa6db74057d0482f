import type { ChangeResult, Clash } from "@chronometra/contract";
import {
  type Applied,
  type Change,
  dateWords,
  describePath,
  pathsMeet,
  type Plan,
  PlanProblems,
  valueAtPath,
} from "@chronometra/core";
import { Between, MoreThan, type EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { tellSystems } from "../hooks/tellSystems.ts";
import { lockedTo } from "../project/locks.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";
import { inItsWords } from "./held/applyChecked.ts";
import { keepRows } from "./stored/keepRows.ts";
import { ChangeListEntity } from "./stored/planEntities.ts";
import { storeDifference } from "./stored/planStore.ts";
import { prepare, type Prepared } from "./prepare.ts";
import type { Writing } from "./writeProjects.ts";
import { type Through } from "@chronometra/contract";

/** A list of changes on its way into a project. */
export interface ChangeOrder {
  readonly changes: readonly Change[];
  /** The revision the writer saw; left out where the server itself writes under the project's lock. */
  readonly seen?: number;
  readonly label: string;
  readonly undoes?: number;
  /** Through what it came, where not by hand. */
  readonly through?: Through;
  /** What its sender calls it, so that it is stored once however often it is sent. */
  readonly list?: string | undefined;
  /** When it happened, where not now. */
  readonly at?: Date;
}

/** Lists stored since a revision, oldest first. */
export const listsSince = (manager: EntityManager, projectId: string, revision: number): Promise<ChangeListEntity[]> =>
  manager
    .getRepository(ChangeListEntity)
    .find({ where: { projectId, revision: MoreThan(revision) }, order: { revision: "ASC" } });

/** Lists that still stand: one that was undone, and its undoing, wrote nothing together. */
export function standing(lists: readonly ChangeListEntity[]): ChangeListEntity[] {
  const cancelled = new Set<number>();
  for (const list of lists.toReversed()) {
    if (list.undoes === null || cancelled.has(list.revision) || !lists.some(({ revision }) => revision === list.undoes))
      continue;
    cancelled.add(list.revision);
    cancelled.add(list.undoes);
  }
  return lists.filter(({ revision }) => !cancelled.has(revision));
}

/** Fields that both the caller and someone else wrote since the caller looked, with both values. */
async function clashesWith(
  manager: EntityManager,
  others: readonly ChangeListEntity[],
  plan: Plan,
  applied: Applied,
): Promise<Clash[]> {
  const clashes: Clash[] = [];
  const names = others.length > 0 ? await accountNames(manager) : new Map<string, string>();
  for (const path of applied.touched) {
    const other = others.findLast((list) =>
      (JSON.parse(list.touched) as string[]).some((theirs) => pathsMeet(theirs, path)),
    );
    if (other === undefined) continue;
    const theirs = valueAtPath(plan, path) ?? null;
    const yours = valueAtPath(applied.plan, path) ?? null;
    if (JSON.stringify(theirs) === JSON.stringify(yours)) continue;
    clashes.push({
      path,
      what: describePath(plan, path),
      theirs,
      yours,
      by: names.get(other.accountId) ?? "someone",
      at: other.at.toISOString(),
    });
  }
  return clashes;
}

/** A list on its way that nobody's stands against. */
interface Tried extends Prepared {
  /** What others stored since its writer looked. */
  readonly others: ChangeListEntity[];
}

/**
 * What a list of changes would make of a plan; nothing is stored.
 * @throws {Failure} conflict, where someone else wrote the same field since `seen`
 * @throws {PlanProblems} where they cannot be applied
 */
export async function tryChanges(
  manager: EntityManager,
  project: ProjectEntity,
  plan: Plan,
  { changes, seen = project.revision }: Pick<ChangeOrder, "changes" | "seen">,
): Promise<Tried> {
  await assertBehindNoLock(manager, project, changes);
  if (seen > project.revision)
    throw new Failure(
      "invalid",
      `The project is at revision ${project.revision}; revision ${seen} does not exist yet.`,
    );
  const others = seen === project.revision ? [] : await listsSince(manager, project.id, seen);
  try {
    const { applied, rows } = prepare(project, plan, changes);
    const clashes = await clashesWith(manager, standing(others), plan, applied);
    if (clashes.length > 0) throw new Failure("conflict", undefined, { clashes });
    return { applied, others, rows: () => rows().catch(refusing(plan, changes, others)) };
  } catch (error) {
    return refusing(plan, changes, others)(error);
  }
}

/**
 * Stores a list of changes: applied to what is there now, checked, revision raised, and all that is kept beside the
 * plan brought up to it, all in the transaction of the writing.
 * @throws {Failure} conflict, where someone else wrote the same field since `seen`
 * @throws {PlanProblems} where the plan would not hold
 */
export async function storeChanges(
  writing: Writing,
  project: ProjectEntity,
  order: ChangeOrder,
): Promise<{ result: ChangeResult; plan: Plan }> {
  const { manager, me } = writing;
  const plan = await writing.plan(project);
  const { applied, others, rows } = await tryChanges(manager, project, plan, order);
  await assertCodeFree(manager, project, applied.plan.project.code);
  const kept = await rows();
  const revision = project.revision + 1;
  await storeDifference(manager, project.id, plan, applied.plan);
  await manager.getRepository(ChangeListEntity).insert({
    projectId: project.id,
    revision,
    at: order.at ?? new Date(),
    accountId: me.id,
    label: order.label,
    changes: JSON.stringify(order.changes),
    inverse: applied.inverse === null ? null : JSON.stringify(applied.inverse),
    were: applied.inverse === null ? JSON.stringify(applied.were) : null,
    touched: JSON.stringify(applied.touched),
    through: order.undoes === undefined ? (order.through ?? "hand") : "undo",
    undoes: order.undoes ?? null,
    listId: order.list ?? null,
  });
  await keepRows(manager, project.id, kept);
  await manager.query("update project set revision = ?, kept_revision = ?, head = ?, code = ? where id = ?", [
    revision,
    revision,
    JSON.stringify(applied.plan.project),
    applied.plan.project.code,
    project.id,
  ]);
  project.code = applied.plan.project.code;
  project.revision = project.keptRevision = revision;
  project.head = applied.plan.project;
  writing.made(project, applied.plan);
  await tellChanged(manager, project, order);
  return { result: await resultOf(manager, revision, order, applied, others), plan: applied.plan };
}

/** Tells other systems that a plan changed, and what was approved with that. */
async function tellChanged(
  manager: EntityManager,
  project: ProjectEntity,
  { changes, at }: ChangeOrder,
): Promise<void> {
  const { revision } = project;
  for (const change of changes)
    if (change.type === "freeze")
      await tellSystems(manager, "baselineApproved", project, { revision, baseline: change.baseline.number }, at);
  await tellSystems(manager, "planChanged", project, { revision }, at);
}

/** A project is told from all others by its code. */
async function assertCodeFree(manager: EntityManager, project: ProjectEntity, code: string): Promise<void> {
  if (code === project.code || !(await manager.getRepository(ProjectEntity).existsBy({ code }))) return;
  const message = `A project with the code "${code}" exists already; give this one another.`;
  throw new Failure("conflict", message, { problems: [{ table: "project", row: code, field: "code", message }] });
}

/** What its writer is told of a list that is stored: all that came since they looked, theirs last. */
async function resultOf(
  manager: EntityManager,
  revision: number,
  order: ChangeOrder,
  applied: Applied,
  others: readonly ChangeListEntity[],
): Promise<ChangeResult> {
  const changes = [...others.flatMap((list) => JSON.parse(list.changes) as Change[]), ...order.changes];
  const names = others.length > 0 ? await accountNames(manager) : new Map<string, string>();
  const by = [...new Set(others.map(({ accountId }) => names.get(accountId) ?? "someone"))];
  return { revision, undoable: applied.inverse !== null, changes, merged: others.length, by };
}

/** The answer that a list had when it was stored, where it has been already; `null` where it has not. */
export async function answerBefore(
  manager: EntityManager,
  projectId: string,
  list: string | undefined,
  seen: number,
): Promise<ChangeResult | null> {
  if (list === undefined) return null;
  const lists = manager.getRepository(ChangeListEntity);
  const own = await lists.findOneBy({ projectId, listId: list });
  if (own === null) return null;
  const others = await lists.find({
    where: { projectId, revision: Between(seen + 1, own.revision - 1) },
    order: { revision: "ASC" },
  });
  return {
    revision: own.revision,
    undoable: own.inverse !== null,
    changes: [...others, own].flatMap(({ changes }) => JSON.parse(changes) as Change[]),
    merged: others.length,
  };
}

/** What was issued and locked stays: the data date does not go back before it. */
async function assertBehindNoLock(
  manager: EntityManager,
  project: ProjectEntity,
  changes: readonly Change[],
): Promise<void> {
  const dates = changes.flatMap((change) => (change.type === "setDataDate" ? [change.date ?? ""] : []));
  if (dates.length === 0) return;
  const locked = await lockedTo(manager, project.id);
  if (locked !== null && dates.some((date) => date < locked))
    throw new Failure(
      "invalid",
      `The period up to ${dateWords(locked)} is locked; the data date cannot go back before it unless a controller opens the period again.`,
    );
}

/**
 * Throws what stands against changes, in the words of their plan. Someone else may have taken away a row that they
 * name: that is told as such, not as bad data.
 */
const refusing =
  (plan: Plan, changes: readonly Change[], others: readonly ChangeListEntity[]) =>
  (error: unknown): never => {
    const said = inItsWords(plan, changes, error);
    if (!(said instanceof PlanProblems) || others.length === 0) throw said;
    throw new Failure(
      "conflict",
      `Someone else changed the plan meanwhile, and yours no longer fits: ${said.problems[0]!.said}. Load the plan again.`,
      { problems: said.problems },
    );
  };
