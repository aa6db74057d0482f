import { createHash, randomUUID } from "node:crypto";
import type { BodyOf, Me } from "@chronometra/contract";
import {
  canonicalText,
  dateWords,
  fromBundle,
  toBundle,
  withoutProgress,
  type Baseline,
  type Plan,
  type PlanBundle,
} from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { storeChanges } from "../plan/changeService.ts";
import { overPlans, type PlanOf } from "../plan/held/overPlan.ts";
import { writeProjects, type Writing } from "../plan/writeProjects.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { dayOf } from "../shared/clock.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import type { APPROVE_WORKS } from "./works/approveWorks.ts";
import { ApprovalEntity, ApprovalPlanEntity, BaselineEntity, BaselinePlanEntity } from "./kept/approveEntities.ts";
import { holdsIn } from "../project/reach.ts";
import { settleNotices } from "../tell/notices.ts";
import type { Telling } from "../tell/post.ts";
import { tellAsked, tellDecided, type Request } from "./tellOfApprovals.ts";

const overPlan = overPlans<typeof APPROVE_WORKS>();

export const digestOf = (content: string): string => createHash("sha256").update(content).digest("hex");

/** The text that a baseline is stored as and its digest is made from: the rows, and the logic they were frozen with. */
export function baselineContent(baseline: Baseline, plan: Plan): string {
  const wishes = Object.fromEntries(
    [...plan.activities].flatMap(([id, { wish }]) => (wish === undefined ? [] : [[id, wish]])),
  );
  return canonicalText({ baseline, links: [...plan.links.values()], wishes });
}

/**
 * Puts a baseline into the database; what is written there stays.
 * @param content as it was frozen elsewhere; left out, it is made from the plan
 */
export async function insertBaseline(
  manager: EntityManager,
  projectId: string,
  baseline: Baseline,
  plan: Plan,
  content = baselineContent(baseline, plan),
): Promise<void> {
  await manager
    .getRepository(BaselineEntity)
    .insert({ projectId, number: baseline.number, content, digest: digestOf(content) });
}

/** An approval, in the ledger's words. */
export interface Approved {
  readonly by: Me;
  /** The day of approval, `YYYY-MM-DD`. */
  readonly on: string;
  readonly reason: string;
  /** The plan to freeze, where not the one that is live. */
  readonly asked?: Plan | undefined;
}

/** The next baseline of a project whose plan is live. Throws a Failure where there is nothing to approve. */
export async function nextBaseline({ id, plan: live }: PlanOf, approved: Approved): Promise<Baseline> {
  const { by, on, reason, asked = live } = approved;
  const frozen = await overPlan("frozen", { id, plan: asked });
  if (frozen.activities.length === 0)
    throw new Failure("invalid", "There is nothing to approve: no activity has dates yet.");
  const number = Math.max(0, ...[...live.baselines.values()].map((baseline) => baseline.number)) + 1;
  return { number, approvedOn: on, approvedBy: by.name, reason, ...frozen };
}

/** Freezes a plan as the project's next baseline; gives its number. */
export async function freezeProject(
  writing: Writing,
  project: ProjectEntity,
  approved: Approved,
  at: Date,
): Promise<number> {
  const { manager } = writing;
  const live = await writing.plan(project);
  const plan = approved.asked ?? live;
  const baseline = await nextBaseline({ id: project.id, plan: live }, approved);
  const { number } = baseline;
  await insertBaseline(manager, project.id, baseline, plan);
  const { timeEntries: _time, actualCosts: _costs, baselines: _baselines, ...whole } = withoutProgress(toBundle(plan));
  await manager
    .getRepository(BaselinePlanEntity)
    .insert({ projectId: project.id, number, content: JSON.stringify(whole) });
  await storeChanges(writing, project, {
    changes: [{ type: "freeze", baseline }],
    label: `Baseline ${number} frozen`,
    through: "request",
    at,
  });
  return number;
}

/** Refuses a day of an earlier approval that cannot be: of a plan that has a baseline, or still to come. */
function assertAgreed(me: Me, plan: Plan, on: string, at: Date): void {
  if (plan.baselines.size > 0)
    throw new Failure("invalid", "Only the first plan can have been approved before; later ones are approved here.");
  if (on > dayOf(me, at))
    throw new Failure("invalid", `It cannot have been approved on ${dateWords(on)}, which is still to come.`);
}

/**
 * Asks for the plan as it is to be approved. One request waits at a time: where the plan has moved on since one was made, the
 * new one takes its place.
 */
export async function askApproval(
  writing: Writing,
  project: ProjectEntity,
  post: Telling,
  { word, agreedOn = null }: BodyOf<"POST /api/projects/:project/approvals">,
  at = new Date(),
): Promise<ApprovalEntity> {
  const { manager, me } = writing;
  const repository = manager.getRepository(ApprovalEntity);
  const plan = await writing.plan(project);
  if (agreedOn !== null) assertAgreed(me, plan, agreedOn, at);
  const waiting = await repository.findOneBy({ projectId: project.id, state: "asked" });
  if (waiting?.revision === project.revision)
    throw new Failure("conflict", "Approval of this plan has been asked for already and waits for a decision.");
  if (waiting !== null) {
    await settleNotices(manager, requestOf(waiting).about, at);
    await settle(manager, waiting, {
      state: "replaced",
      decidedBy: me.id,
      decidedAt: at,
      reason: "Asked anew with a later plan.",
    });
  }
  const undecided = { decidedBy: null, decidedAt: null, reason: null, baseline: null };
  const approval = repository.create({
    id: randomUUID(),
    projectId: project.id,
    state: "asked",
    askedBy: me.id,
    askedAt: at,
    word,
    agreedOn,
    revision: project.revision,
    ...undecided,
  });
  await repository.insert(approval);
  const { timeEntries: _time, actualCosts: _costs, baselines: _baselines, ...asked } = toBundle(plan);
  await manager.getRepository(ApprovalPlanEntity).insert({ approvalId: approval.id, content: JSON.stringify(asked) });
  await tellAsked(manager, post, me, project, { ...requestOf(approval), word, at });
  return approval;
}

const requestOf = ({ id }: ApprovalEntity): Request => ({ about: `approval ${id}`, what: "the plan" });

async function settle(
  manager: EntityManager,
  approval: ApprovalEntity,
  decided: Pick<ApprovalEntity, "state" | "decidedBy" | "decidedAt" | "reason"> & { baseline?: number | null },
): Promise<void> {
  Object.assign(approval, decided);
  await manager.getRepository(ApprovalEntity).save(approval);
  await manager.getRepository(ApprovalPlanEntity).delete({ approvalId: approval.id });
}

/** The plan that a request asked for; `null` in requests made before that was kept. */
export async function planAsked(manager: EntityManager, approval: ApprovalEntity): Promise<PlanBundle | null> {
  const kept = await manager.getRepository(ApprovalPlanEntity).findOneBy({ approvalId: approval.id });
  return kept === null ? null : (JSON.parse(kept.content) as PlanBundle);
}

/** Approves the plan as it was asked for, and freezes that, or sends it back; never what one asked for oneself. */
export async function decideApproval(
  database: DataSource,
  post: Telling,
  me: Me,
  id: string,
  decision: "approve" | "sendBack",
  reason: string,
  at = new Date(),
): Promise<ApprovalEntity> {
  const looked = await findApproval(database, id);
  const { projectId } = looked;
  const isApproved = decision === "approve";
  const kept = isApproved ? await planAsked(database.manager, looked) : null;
  const asked = kept === null ? undefined : fromBundle(kept);
  const approved: Approved = { by: me, on: looked.agreedOn ?? dayOf(me, at), reason, asked };
  const work = async (writing: Writing): Promise<ApprovalEntity> => {
    const { manager } = writing;
    const project = writing.project(projectId);
    const approval = await findApproval(manager, id);
    assertApproves(me, project);
    assertMayDecide(me, approval);
    const baseline = isApproved ? await freezeProject(writing, project, approved, at) : null;
    await settle(manager, approval, {
      state: isApproved ? "approved" : "sentBack",
      decidedBy: me.id,
      decidedAt: at,
      reason,
      baseline,
    });
    const { askedBy } = approval;
    await tellDecided(manager, post, me, project, {
      ...requestOf(approval),
      ...{ askedBy, approved: isApproved, word: reason, at },
    });
    return approval;
  };
  return writeProjects(database, me, [projectId], work, async (plan) =>
    isApproved ? [{ type: "freeze", baseline: await nextBaseline({ id: projectId, plan }, approved) }] : [],
  );
}

/** Refuses whoever approves in other groups alone. */
export function assertApproves(me: Me, project: ProjectEntity): void {
  if (!holdsIn(me, "approver", project.programmeId))
    throw new Failure("notAllowed", `Your role of an approver is not for the group of "${project.head.name}".`);
}

/** Throws a Failure where a request has been decided, or is one's own. */
function assertMayDecide(me: Me, { state, askedBy }: ApprovalEntity): void {
  if (state !== "asked")
    throw new Failure(
      "conflict",
      state === "replaced"
        ? "This request was replaced by one with a later plan; load the page again."
        : "This request has been decided already.",
    );
  if (askedBy === me.id)
    throw new Failure("notAllowed", "You asked for this approval yourself; another approver decides it.");
}

export const findApproval = async (database: DataSource | EntityManager, id: string): Promise<ApprovalEntity> =>
  orNotFound(await database.getRepository(ApprovalEntity).findOneBy({ id }), "request for approval");
