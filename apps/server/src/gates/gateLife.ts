import {
  isPassed,
  type GateDue,
  type GateEvent,
  type HeldCondition,
  type LifeCycle,
  type Stage,
  type Summary,
} from "@chronometra/contract";
import { actionsOf } from "../matters/ofProject.ts";
import { conditionWords, holdCondition, stageAt } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { GateActionEntity, GateEventEntity, ProjectLifeEntity } from "./gateEntities.ts";
import type { ProjectFacts } from "./gateFacts.ts";
import { findLifeCycle } from "./lifeCycles.ts";

/** What is said of a gate of one project. */
export interface SaidOfGate {
  readonly due: GateDue | null;
  /** The account that decides; `null` where any approver may. */
  readonly decider: string | null;
  /** Who confirmed what, by the id of the condition. */
  readonly confirmed: Readonly<Record<string, { readonly words: string }>>;
}

const NOTHING_SAID: SaidOfGate = { due: null, decider: null, confirmed: {} };

/** What is said of the gate of a stage. */
export const saidOf = ({ said }: Pick<Life, "said">, stage: string): SaidOfGate => said[stage] ?? NOTHING_SAID;

/** How a project lives. */
export interface Life {
  readonly id: string;
  readonly cycle: LifeCycle;
  readonly passed: readonly string[];
  readonly said: Readonly<Record<string, SaidOfGate>>;
}

/**
 * How a project lives; `null` where no life cycle is said.
 * @param stays whether its life cycle is to stay as it is until the transaction ends
 */
export async function lifeOf(
  manager: DataSource | EntityManager,
  projectId: string,
  stays?: "stays",
): Promise<Life | null> {
  const row = await manager.getRepository(ProjectLifeEntity).findOneBy({ projectId });
  if (row === null) return null;
  const cycle = await findLifeCycle(manager, row.lifeCycleId, stays);
  if (cycle === null) return null;
  return {
    id: row.lifeCycleId,
    cycle,
    passed: JSON.parse(row.passed) as string[],
    said: JSON.parse(row.said) as Record<string, SaidOfGate>,
  };
}

export async function storeLife(manager: EntityManager, projectId: string, life: Omit<Life, "cycle">): Promise<void> {
  await manager.getRepository(ProjectLifeEntity).upsert(
    {
      projectId,
      lifeCycleId: life.id,
      passed: JSON.stringify(life.passed),
      said: JSON.stringify(life.said),
    },
    ["projectId"],
  );
}

/** The day on which a gate is due, with what its milestone was approved for; `null` where it has none, or no more. */
export function dayOfGate(
  due: GateDue | null,
  milestones: Summary["milestones"],
): { readonly date: string; readonly approved: string | null } | null {
  if (due === null) return null;
  if ("date" in due) return { date: due.date, approved: null };
  const milestone = milestones.find(({ id }) => id === due.activity);
  return milestone === undefined ? null : { date: milestone.forecast, approved: milestone.baseline };
}

/** The stage in which a project is; `null` where it is in none. */
export const stageOf = (life: Life | null): Stage | null =>
  life === null ? null : stageAt(life.cycle.stages, life.passed);

const severityName = (scale: ProjectFacts["facts"]["severities"], severity: string): string =>
  scale.find(({ id }) => id === severity)?.name ?? "of a step that is not there any more";

/** The conditions of a stage's gate, held against the project. */
export function heldOf(stage: Stage, said: SaidOfGate, known: ProjectFacts): HeldCondition[] {
  const facts = {
    ...known.facts,
    deliverables: known.deliverablesOf(stage.id),
    confirmed: Object.fromEntries(Object.entries(said.confirmed).map(([id, { words }]) => [id, words])),
  };
  return stage.conditions.map((condition) => ({
    id: condition.id,
    kind: condition.kind,
    words: conditionWords(condition, (severity) => severityName(facts.severities, severity)),
    ...holdCondition(condition, facts),
  }));
}

/** All that happened at a project's gates, the newest first. */
export async function eventsOf(
  manager: DataSource | EntityManager,
  projectId: string,
  names: ReadonlyMap<string, string>,
): Promise<GateEvent[]> {
  const [rows, actions, standings] = await Promise.all([
    manager.getRepository(GateEventEntity).find({ where: { projectId }, order: { id: "DESC" } }),
    manager.getRepository(GateActionEntity).find({ where: { projectId }, order: { position: "ASC" } }),
    actionsOf(manager, projectId),
  ]);
  return rows.map((row) => ({
    id: row.id,
    stage: row.stageId,
    stageName: row.stageName,
    gate: row.gateName,
    act: row.act,
    by: names.get(row.accountId) ?? "",
    at: row.at.toISOString(),
    word: row.word,
    conditions: JSON.parse(row.conditions) as HeldCondition[],
    actions: actions
      .filter(({ eventId }) => eventId === row.id)
      .flatMap(({ id, owner }) => {
        const standing = standings.get(id);
        if (standing === undefined) return [];
        const { title, due, closedOn, closedBy } = standing;
        return [{ id, what: title, owner: standing.owner ?? owner, due, doneOn: closedOn, doneBy: closedBy }];
      }),
  }));
}

/** The asking that waits for a decision: the last that happened, where it is one. */
export const lastEvent = (manager: EntityManager, projectId: string): Promise<GateEventEntity | null> =>
  manager.getRepository(GateEventEntity).findOne({ where: { projectId }, order: { id: "DESC" } });

/** The decision by which a stage was passed, of events the newest first. */
export const passedBy = (events: readonly GateEvent[], stage: string): GateEvent | null =>
  events.find((event) => event.stage === stage && isPassed(event.act)) ?? null;

/** Lets a project live by a life cycle, from its first stage on; one that is there no more is left out. */
export async function beginLife(manager: EntityManager, projectId: string, lifeCycle: string): Promise<void> {
  if ((await findLifeCycle(manager, lifeCycle)) !== null)
    await storeLife(manager, projectId, { id: lifeCycle, passed: [], said: {} });
}
