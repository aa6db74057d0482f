import { randomUUID } from "node:crypto";
import type { ChangeResult, Me } from "@chronometra/contract";
import { type Applied, applyChanges, type Change } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { overPlans, type PlanOf } from "../plan/held/overPlan.ts";
import { checkOn, type ChangesOf } from "../plan/prepare.ts";
import { writeProject, type Writing } from "../plan/writeProjects.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import type { APPROVE_WORKS } from "./works/approveWorks.ts";
import { WhatIfEntity, WhatIfListEntity } from "./kept/whatIfEntities.ts";

export const overPlan = overPlans<typeof APPROVE_WORKS>();

/** The what-if of that id; locked until the transaction ends, where asked. */
export async function findWhatIf(manager: DataSource | EntityManager, id: string, lock = false): Promise<WhatIfEntity> {
  return orNotFound(
    await manager
      .getRepository(WhatIfEntity)
      .findOne({ where: { id }, ...(lock ? { lock: { mode: "pessimistic_write" as const } } : {}) }),
    "what-if of that address",
  );
}

/** What-ifs that are still worked on: open, or sent back with a word. */
export const isWorkable = ({ state }: WhatIfEntity): boolean => state === "open" || state === "sentBack";

interface Work {
  readonly writing: Writing;
  readonly manager: EntityManager;
  readonly whatIf: WhatIfEntity;
  readonly project: ProjectEntity;
}

/** Works on a what-if that may be changed by this person, locked together with its project. */
export async function onWhatIf<T>(
  database: DataSource,
  me: Me,
  id: string,
  work: (on: Work) => Promise<T>,
  changesOf?: ChangesOf,
): Promise<T> {
  const { projectId } = await findWhatIf(database, id);
  return writeProject(
    database,
    me,
    projectId,
    async (writing, project) => {
      const whatIf = await findWhatIf(writing.manager, id, true);
      if (!isWorkable(whatIf))
        throw new Failure(
          "conflict",
          `"${whatIf.name}" was ${whatIf.state === "asked" ? "put forward" : whatIf.state} meanwhile and is not changed any more.`,
        );
      return work({ writing, manager: writing.manager, whatIf, project });
    },
    changesOf,
  );
}

const listsOf = (manager: DataSource | EntityManager, whatIf: WhatIfEntity): Promise<WhatIfListEntity[]> =>
  manager.getRepository(WhatIfListEntity).find({ where: { whatIfId: whatIf.id }, order: { version: "ASC" } });

const changesOf = (lists: readonly WhatIfListEntity[]): Change[] =>
  lists.flatMap((list) => JSON.parse(list.changes) as Change[]);

/** All changes of a what-if, in their order. */
export const whatIfChanges = async (manager: DataSource | EntityManager, whatIf: WhatIfEntity): Promise<Change[]> =>
  changesOf(await listsOf(manager, whatIf));

/** Begins a what-if beside the live plan as it is. */
export async function beginWhatIf(
  database: DataSource,
  me: Me,
  projectId: string,
  name: string,
): Promise<WhatIfEntity> {
  return writeProject(database, me, projectId, async ({ manager }, project) => {
    const none = {
      request: null,
      reason: null,
      draw: null,
      askedBy: null,
      askedAt: null,
      decidedBy: null,
      decidedAt: null,
      word: null,
      baseline: null,
      whole: false,
    };
    const row = manager.getRepository(WhatIfEntity).create({
      id: randomUUID(),
      projectId: project.id,
      name,
      baseRevision: project.revision,
      version: 0,
      madeBy: me.id,
      madeAt: new Date(),
      state: "open",
      ...none,
    });
    await manager.getRepository(WhatIfEntity).insert(row);
    return row;
  });
}

/**
 * A list of changes on a plan that has others; all of them are checked. Throws PlanProblems where they do not fit it.
 */
export async function onto(of: PlanOf, before: readonly Change[], changes: readonly Change[]): Promise<Applied> {
  await checkOn(of, [...before, ...changes]);
  return applyChanges(applyChanges(of.plan, before).plan, changes);
}

export async function append(
  manager: EntityManager,
  me: Me,
  whatIf: WhatIfEntity,
  changes: readonly Change[],
  applied: Applied,
  { label, undoes = null, list = null }: { label: string; undoes?: number | null; list?: string | null | undefined },
): Promise<ChangeResult> {
  const version = whatIf.version + 1;
  await manager.getRepository(WhatIfListEntity).insert({
    whatIfId: whatIf.id,
    version,
    at: new Date(),
    accountId: me.id,
    label,
    changes: JSON.stringify(changes),
    inverse: applied.inverse === null ? null : JSON.stringify(applied.inverse),
    undoes,
    listId: list,
  });
  await manager.getRepository(WhatIfEntity).update({ id: whatIf.id }, { version });
  return { revision: version, undoable: applied.inverse !== null, changes: [...changes], merged: 0 };
}

/** The answer that a list had when it was stored, where it has been already; `null` where it has not. */
async function storedBefore(
  manager: EntityManager,
  whatIf: WhatIfEntity,
  list: string | undefined,
): Promise<ChangeResult | null> {
  const own =
    list === undefined
      ? null
      : await manager.getRepository(WhatIfListEntity).findOneBy({ whatIfId: whatIf.id, listId: list });
  return own === null
    ? null
    : {
        revision: own.version,
        undoable: own.inverse !== null,
        changes: JSON.parse(own.changes) as Change[],
        merged: 0,
      };
}

/** Stores a list of changes in a what-if; the live plan stays as it is. */
export const changeWhatIf = (
  database: DataSource,
  me: Me,
  id: string,
  seen: number,
  changes: readonly Change[],
  label: string,
  list?: string,
): Promise<ChangeResult> =>
  onWhatIf(database, me, id, async ({ writing, manager, whatIf, project }) => {
    const stored = await storedBefore(manager, whatIf, list);
    if (stored !== null) return stored;
    if (seen !== whatIf.version)
      throw new Failure("conflict", "Someone else changed this what-if meanwhile; load it again.");
    const of = { id: project.id, plan: await writing.plan(project) };
    const applied = await onto(of, await whatIfChanges(manager, whatIf), changes);
    return append(manager, me, whatIf, changes, applied, { label, list });
  });

/** Undoes one list of a what-if by its version. */
export const undoInWhatIf = (
  database: DataSource,
  me: Me,
  id: string,
  version: number,
  list?: string,
): Promise<ChangeResult> =>
  onWhatIf(database, me, id, async ({ writing, manager, whatIf, project }) => {
    const stored = await storedBefore(manager, whatIf, list);
    if (stored !== null) return stored;
    const lists = await listsOf(manager, whatIf);
    const undone = orNotFound(
      lists.find((each) => each.version === version),
      "change of that number in this what-if",
    );
    if (undone.inverse === null) throw new Failure("invalid", `"${undone.label}" cannot be undone.`);
    const changes = JSON.parse(undone.inverse) as Change[];
    const of = { id: project.id, plan: await writing.plan(project) };
    const applied = await onto(of, changesOf(lists), changes);
    const label = undone.undoes === null ? `Undid: ${undone.label}` : `Redid: ${undone.label.replace(/^Undid: /, "")}`;
    return append(manager, me, whatIf, changes, applied, {
      label: label.slice(0, 200),
      undoes: version,
      list,
    });
  });
