import { randomUUID } from "node:crypto";
import type { ChangeResult, Me, WhatIfView } from "@chronometra/contract";
import {
  type Applied,
  applyChanges,
  approvedAlone,
  type ApprovedAlone,
  type Change,
  describePath,
  pathsMeet,
  type Plan,
  type PlanBundle,
  PlanProblems,
  valueAtPath,
} from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { listsSince, standing, storeChanges } from "../plan/changeService.ts";
import { overPlans, type PlanOf } from "../plan/held/overPlan.ts";
import { checkOn, type ChangesOf } from "../plan/prepare.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { writeProject, type Writing } from "../plan/writeProjects.ts";
import { findProject } from "../project/projectAccess.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { BaselinePlanEntity } from "./approveEntities.ts";
import type { APPROVE_WORKS } from "./approveWorks.ts";
import { assertLeft } from "./reserves.ts";
import { WhatIfEntity, WhatIfListEntity } from "./whatIfEntities.ts";

const overPlan = overPlans<typeof APPROVE_WORKS>();

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
async function onWhatIf<T>(
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

/** A list of changes on a plan that has others; all of them are checked. Throws PlanProblems where they do not fit it. */
async function onto(of: PlanOf, before: readonly Change[], changes: readonly Change[]): Promise<Applied> {
  await checkOn(of, [...before, ...changes]);
  return applyChanges(applyChanges(of.plan, before).plan, changes);
}

async function append(
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

type Meets = WhatIfView["meets"];

/** Fields that both the what-if and the live plan wrote since they parted, with both values. */
async function meetsOf(
  manager: DataSource | EntityManager,
  project: ProjectEntity,
  whatIf: WhatIfEntity,
  live: Plan,
  applied: Applied,
): Promise<Meets> {
  const em = "manager" in manager ? manager.manager : manager;
  const since = standing(await listsSince(em, project.id, whatIf.baseRevision));
  if (since.length === 0) return [];
  const names = await accountNames(manager);
  const met: Meets = [];
  for (const path of applied.touched) {
    const other = since.findLast((list) =>
      (JSON.parse(list.touched) as string[]).some((theirs) => pathsMeet(theirs, path)),
    );
    if (other === undefined) continue;
    const [theirs, mine] = [valueAtPath(live, path) ?? null, valueAtPath(applied.plan, path) ?? null];
    if (JSON.stringify(theirs) === JSON.stringify(mine)) continue;
    const [table, id] = path.split("/");
    met.push({
      path,
      what: describePath(applied.plan, path),
      activity: table === "activities" ? (id ?? null) : null,
      live: theirs,
      mine,
      by: names.get(other.accountId) ?? "someone",
      at: other.at.toISOString(),
    });
  }
  return met;
}

/** A what-if put onto the live plan as it is now. */
export async function tried(
  database: DataSource | EntityManager,
  whatIf: WhatIfEntity,
): Promise<{
  project: ProjectEntity;
  live: Plan;
  after: Plan | null;
  fault: string | null;
  behind: number;
  meets: Meets;
  effect: WhatIfView["effect"];
  load: WhatIfView["load"];
  budget: WhatIfView["budget"];
}> {
  const em = "manager" in database ? database.manager : database;
  const project = await findProject(database, whatIf.projectId);
  const live = await loadPlan(em, project);
  const behind = standing(await listsSince(em, project.id, whatIf.baseRevision)).length;
  try {
    const changes = await whatIfChanges(database, whatIf);
    const comesTo = await overPlan("whatIf", { id: project.id, plan: live }, changes);
    const applied = applyChanges(live, changes);
    return {
      project,
      live,
      after: applied.plan,
      fault: null,
      behind,
      meets: await meetsOf(database, project, whatIf, live, applied),
      ...comesTo,
    };
  } catch (error) {
    if (!(error instanceof PlanProblems)) throw error;
    const nothing = { after: null, meets: [], effect: null, load: [], budget: null };
    return { project, live, fault: error.problems[0]!.message, behind, ...nothing };
  }
}

/** The number of the baseline in force; `null` where nothing was approved yet. */
export const inForce = (plan: Plan): number | null =>
  [...plan.baselines.values()].reduce<number | null>((most, { number }) => Math.max(most ?? 0, number), null);

/** The plan that approving a what-if alone would freeze: the one behind the baseline in force with its changes; or why there is none. */
export async function aloneOnBaseline(
  manager: EntityManager,
  live: Plan,
  whatIf: WhatIfEntity,
): Promise<ApprovedAlone> {
  const number = inForce(live);
  if (number === null)
    return { fault: "No plan is approved yet: approving this approves the whole plan as it stands." };
  const kept = await manager.getRepository(BaselinePlanEntity).findOneBy({ projectId: whatIf.projectId, number });
  if (kept === null)
    return {
      fault: `The plan behind baseline ${number} is not kept here: it was approved elsewhere, or before plans were kept.`,
    };
  return approvedAlone(JSON.parse(kept.content) as PlanBundle, live, await whatIfChanges(manager, whatIf));
}

/** Which of some changes still fit a plan, taken one by one: those that fail by themselves are left out. */
function fitting(live: Plan, changes: readonly Change[], isLeftOut: (touched: readonly string[]) => boolean): Change[] {
  const kept: Change[] = [];
  let at = live;
  for (const change of changes) {
    try {
      const applied = applyChanges(at, [change]);
      if (isLeftOut(applied.touched)) continue;
      at = applied.plan;
      kept.push(change);
    } catch (error) {
      if (!(error instanceof PlanProblems)) throw error;
    }
  }
  return kept;
}

/** Settles what meets: paths named stay as the what-if has them, the others as the live plan has; what no longer fits goes. */
export const mergeWhatIf = (database: DataSource, me: Me, id: string, mine: readonly string[]): Promise<void> =>
  onWhatIf(database, me, id, async ({ writing, manager, whatIf, project }) => {
    const live = await writing.plan(project);
    const changes = await whatIfChanges(manager, whatIf);
    let theirs: string[] = [];
    try {
      theirs = (await meetsOf(manager, project, whatIf, live, applyChanges(live, changes)))
        .map(({ path }) => path)
        .filter((path) => !mine.includes(path));
    } catch (error) {
      // Something that it changed is gone from the live plan: what is left of it is looked at change by change.
      if (!(error instanceof PlanProblems)) throw error;
    }
    const kept = fitting(live, changes, (touched) =>
      touched.some((path) => theirs.some((other) => pathsMeet(path, other))),
    );
    const applied = await onto({ id: project.id, plan: live }, [], kept);
    await manager.getRepository(WhatIfListEntity).delete({ whatIfId: whatIf.id });
    await manager.getRepository(WhatIfEntity).update({ id: whatIf.id }, { baseRevision: project.revision, version: 0 });
    if (kept.length > 0)
      await append(manager, me, { ...whatIf, version: 0 }, kept, applied, { label: "Merged with the live plan" });
  });

/** Refuses where the live plan moved on in the same fields; a merge settles that. */
async function assertMerged(
  manager: EntityManager,
  project: ProjectEntity,
  whatIf: WhatIfEntity,
  live: Plan,
  applied: Applied,
): Promise<void> {
  const meets = await meetsOf(manager, project, whatIf, live, applied);
  if (meets.length > 0)
    throw new Failure(
      "conflict",
      `The live plan has changed ${meets
        .slice(0, 3)
        .map(({ what }) => what)
        .join(
          ", ",
        )}${meets.length > 3 ? ` and ${meets.length - 3} more` : ""} meanwhile, and so has "${whatIf.name}"; settle which is to hold first.`,
    );
}

/** Makes a what-if's changes in the live plan, under the project's lock. Gives the plan. */
export async function applyWhatIf(
  writing: Writing,
  project: ProjectEntity,
  whatIf: WhatIfEntity,
  label: string,
): Promise<ChangeResult> {
  const { manager } = writing;
  const changes = await whatIfChanges(manager, whatIf);
  if (changes.length === 0) throw new Failure("invalid", `"${whatIf.name}" changes nothing yet.`);
  const live = await writing.plan(project);
  await assertMerged(manager, project, whatIf, live, await onto({ id: project.id, plan: live }, [], changes));
  return (await storeChanges(writing, project, { changes, label: label.slice(0, 200) })).result;
}

/** Keeps a what-if: its changes are made in the live plan as one list, which can be undone. */
export const keepWhatIf = (database: DataSource, me: Me, id: string): Promise<ChangeResult> =>
  onWhatIf(
    database,
    me,
    id,
    async ({ writing, manager, whatIf, project }) => {
      const result = await applyWhatIf(writing, project, whatIf, `Kept: ${whatIf.name}`);
      await manager
        .getRepository(WhatIfEntity)
        .update({ id: whatIf.id }, { state: "kept", decidedBy: me.id, decidedAt: new Date() });
      return result;
    },
    async () => whatIfChanges(database, await findWhatIf(database, id)),
  );

/** Puts a what-if forward as the project's next change request. */
export const putForward = (
  database: DataSource,
  me: Me,
  id: string,
  reason: string,
  draw: { kind: "contingency" | "management"; amountMinor: number } | undefined,
): Promise<WhatIfEntity> =>
  onWhatIf(database, me, id, async ({ manager, whatIf, project }) => {
    if (whatIf.version === 0) throw new Failure("invalid", `"${whatIf.name}" changes nothing yet.`);
    if (draw !== undefined) await assertLeft(manager, project.id, draw.kind, draw.amountMinor);
    const [{ last }] = (await manager.query(
      "select coalesce(max(request), 0) as last from what_if where project_id = ?",
      [project.id],
    )) as [{ last: string }];
    const request = whatIf.request ?? Number(last) + 1;
    Object.assign(whatIf, {
      state: "asked",
      request,
      reason,
      draw: draw === undefined ? null : JSON.stringify(draw),
      askedBy: me.id,
      askedAt: new Date(),
      decidedBy: null,
      decidedAt: null,
      word: null,
    });
    return manager.getRepository(WhatIfEntity).save(whatIf);
  });
