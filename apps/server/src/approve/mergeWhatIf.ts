import type { ChangeResult, Me, WhatIfView } from "@chronometra/contract";
import {
  type Applied,
  applyChanges,
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
import { loadPlan } from "../plan/stored/planStore.ts";
import { checkOn } from "../plan/prepare.ts";
import { type Writing } from "../plan/writeProjects.ts";
import { findProject } from "../project/projectAccess.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";
import { BaselinePlanEntity } from "./kept/approveEntities.ts";
import { assertLeft } from "./reserves.ts";
import { WhatIfEntity, WhatIfListEntity } from "./kept/whatIfEntities.ts";
import { overPlan, findWhatIf, onWhatIf, whatIfChanges, onto, append } from "./whatIfService.ts";
import type { Telling } from "../tell/post.ts";
import { tellAsked, type Request } from "./tellOfApprovals.ts";

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

/**
 * The plan that approving a what-if alone would freeze: the one behind the baseline in force with its changes; or why
 * there is none.
 */
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
  return overPlan(
    "alone",
    { id: whatIf.projectId, plan: live },
    { kept: JSON.parse(kept.content) as PlanBundle, changes: await whatIfChanges(manager, whatIf) },
  );
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

/**
 * Settles what meets: paths named stay as the what-if has them, the others as the live plan has; what no longer fits
 * goes.
 */
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
  return (await storeChanges(writing, project, { changes, label: label.slice(0, 200), through: "request" })).result;
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
    async (plan, project) => {
      const changes = await whatIfChanges(database, await findWhatIf(database, id));
      await checkOn({ id: project.id, plan }, changes);
      return changes;
    },
  );

/** How people are told of a change request. */
export const requestOf = ({ id, request, name }: WhatIfEntity): Request => ({
  about: `request ${id}`,
  what: `change request ${request}, “${name}”,`,
});

/** Puts a what-if forward as the project's next change request. */
export const putForward = (
  database: DataSource,
  post: Telling,
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
    const saved = await manager.getRepository(WhatIfEntity).save(whatIf);
    await tellAsked(manager, post, me, project, { ...requestOf(saved), word: reason, at: saved.askedAt! });
    return saved;
  });
