import { createHash, randomUUID } from "node:crypto";
import type { Me } from "@chronometra/contract";
import { canonicalText, freezePlan, toBundle, withoutProgress, type Baseline, type Plan } from "@chronometra/core";
import type { EntityManager } from "typeorm";
import { storeChanges } from "../plan/changeService.ts";
import { loadPlan } from "../plan/planStore.ts";
import { ProjectEntity } from "../portfolio/projectEntity.ts";
import { dateOf } from "../shared/clock.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { ApprovalEntity, BaselineEntity, BaselinePlanEntity } from "./approveEntities.ts";

export const digestOf = (content: string): string => createHash("sha256").update(content).digest("hex");

/** The text that a baseline is stored as and its digest is made from: the rows, and the logic they were frozen with. */
export function baselineContent(baseline: Baseline, plan: Plan): string {
  const wishes = Object.fromEntries([...plan.activities].flatMap(([id, { wish }]) => (wish === undefined ? [] : [[id, wish]])));
  return canonicalText({ baseline, links: [...plan.links.values()], wishes });
}

/** Puts a baseline into the database; what is written there stays. */
export async function insertBaseline(manager: EntityManager, projectId: string, baseline: Baseline, plan: Plan): Promise<void> {
  const content = baselineContent(baseline, plan);
  await manager.getRepository(BaselineEntity).insert({ projectId, number: baseline.number, content, digest: digestOf(content) });
}

/**
 * Freezes the plan as it is as the next baseline. The project's row must be locked.
 * @param on the day of approval, `YYYY-MM-DD`
 */
export async function freezeProject(manager: EntityManager, project: ProjectEntity, me: Me, reason: string, on: string, at: Date): Promise<{ number: number; plan: Plan }> {
  const plan = await loadPlan(manager, project);
  const frozen = freezePlan(toBundle(plan));
  if (frozen.activities.length === 0) throw new Failure("invalid", "There is nothing to approve: no activity has dates yet.");
  const number = Math.max(0, ...[...plan.baselines.values()].map((baseline) => baseline.number)) + 1;
  const baseline: Baseline = { number, approvedOn: on, approvedBy: me.name, reason, calendars: [...frozen.calendars], activities: [...frozen.activities] };
  await insertBaseline(manager, project.id, baseline, plan);
  const { timeEntries: _time, actualCosts: _costs, baselines: _baselines, ...whole } = withoutProgress(toBundle(plan));
  await manager.getRepository(BaselinePlanEntity).insert({ projectId: project.id, number, content: JSON.stringify(whole) });
  const stored = await storeChanges(manager, project, me, { changes: [{ type: "freeze", baseline }], label: `Baseline ${number} frozen`, at });
  return { number, plan: stored.plan };
}

/** Asks for the plan to be approved. The project's row must be locked; one request waits at a time. */
export async function askApproval(manager: EntityManager, project: ProjectEntity, me: Me, word: string, at = new Date()): Promise<ApprovalEntity> {
  const repository = manager.getRepository(ApprovalEntity);
  if (await repository.existsBy({ projectId: project.id, state: "asked" })) {
    throw new Failure("conflict", "Approval of this plan has been asked for already and waits for a decision.");
  }
  const undecided = { decidedBy: null, decidedAt: null, reason: null, baseline: null };
  const approval = repository.create({ id: randomUUID(), projectId: project.id, state: "asked", askedBy: me.id, askedAt: at, word, ...undecided });
  await repository.insert(approval);
  return approval;
}

/** Approves and freezes, or sends back; never what one asked for oneself. Gives the plan where it was frozen. */
export async function decideApproval(
  manager: EntityManager,
  me: Me,
  id: string,
  decision: "approve" | "sendBack",
  reason: string,
  at = new Date(),
): Promise<{ approval: ApprovalEntity; project: ProjectEntity; plan: Plan | null }> {
  const repository = manager.getRepository(ApprovalEntity);
  const approval = orNotFound(await repository.findOne({ where: { id }, lock: { mode: "pessimistic_write" } }), "request for approval");
  if (approval.state !== "asked") throw new Failure("conflict", "This request has been decided already.");
  if (approval.askedBy === me.id) throw new Failure("notAllowed", "You asked for this approval yourself; another approver decides it.");
  const project = orNotFound(await manager.getRepository(ProjectEntity).findOne({ where: { id: approval.projectId }, lock: { mode: "pessimistic_write" } }), "project");
  const frozen = decision === "approve" ? await freezeProject(manager, project, me, reason, dateOf(at), at) : null;
  Object.assign(approval, { state: frozen === null ? "sentBack" : "approved", decidedBy: me.id, decidedAt: at, reason, baseline: frozen?.number ?? null });
  await repository.save(approval);
  return { approval, project, plan: frozen?.plan ?? null };
}
