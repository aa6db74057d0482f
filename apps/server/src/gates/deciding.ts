import {
  GATE_ACT_WORDS,
  GATE_DECISIONS,
  isPassed,
  type DecideGate,
  type GateAct,
  type HeldCondition,
  type Me,
  type ProjectGates,
  type Stage,
} from "@chronometra/contract";
import { CallNames } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import { deciders } from "../access/accounts.ts";
import { namables } from "../resources/namables.ts";
import { noteInLog, setState } from "../charter/charter.ts";
import { tellOwner } from "../matters/tellOfMatters.ts";
import { beginMatter } from "../matters/raise/raiseMatters.ts";
import { tellSystems } from "../hooks/tellSystems.ts";
import { writeProject, writeProjects } from "../plan/writeProjects.ts";
import { assertNotClosed } from "../project/projectAccess.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import type { Message, Telling } from "../tell/post.ts";
import { GateActionEntity, GateEventEntity } from "./gateEntities.ts";
import { factsOf } from "./gateFacts.ts";
import { heldOf, lastEvent, lifeOf, saidOf, stageOf, storeLife, type Life } from "./gateLife.ts";
import { viewGates } from "./projectGates.ts";
import { settleNotices } from "../tell/notices.ts";

/** The stage a project is in, whose gate is spoken of. */
async function stageHere(manager: EntityManager, id: string, stageId: string): Promise<{ life: Life; stage: Stage }> {
  const life = orNotFound(await lifeOf(manager, id, "stays"), "life cycle of this project");
  const stage = stageOf(life);
  if (stage?.id !== stageId)
    throw new Failure(
      "conflict",
      stage === null
        ? "All gates of this project are passed."
        : `The project is in the stage “${stage.name}”; its gate “${stage.gate}” comes next.`,
    );
  return { life, stage };
}

interface Happened {
  readonly act: GateAct;
  readonly word: string;
  readonly conditions: readonly HeldCondition[];
  readonly at: Date;
}

/** Notes what happened at a gate; gives the number of the event. */
async function happened(
  manager: EntityManager,
  me: Me,
  project: ProjectEntity,
  stage: Stage,
  { act, word, conditions, at }: Happened,
): Promise<number> {
  const row = manager.getRepository(GateEventEntity).create({
    projectId: project.id,
    stageId: stage.id,
    stageName: stage.name,
    gateName: stage.gate,
    act,
    accountId: me.id,
    at,
    word,
    conditions: JSON.stringify(conditions),
  });
  await manager.getRepository(GateEventEntity).insert(row);
  if ((GATE_DECISIONS as readonly GateAct[]).includes(act))
    await tellSystems(manager, "gateDecided", project, { gate: stage.gate, decision: act }, at);
  await noteInLog(manager, project, me, `“${stage.gate}” ${GATE_ACT_WORDS[act]}${word === "" ? "" : `: ${word}`}`);
  return row.id;
}

/** What is asked of whoever decides a project's gates. */
const gateAsked = (project: string): string => `gate ${project}`;

/** Tells people of a gate, whoever does it left out. */
async function tell(
  manager: EntityManager,
  post: Telling,
  me: Me,
  project: ProjectEntity,
  {
    to,
    subject,
    body,
    asks = false,
  }: { to: readonly string[]; subject: string; body: readonly string[]; asks?: boolean },
): Promise<void> {
  const ids = [...new Set(to)].filter((id) => id !== me.id);
  if (ids.length === 0) return;
  const accounts = await manager.getRepository(AccountEntity).findBy(ids.map((id) => ({ id })));
  const { code, name } = project.head;
  await post.put(
    manager,
    accounts.map((account): Message => ({
      ...{ to: account, from: me, project: project.id },
      kind: asks ? "asked" : "decided",
      ...(asks ? { about: gateAsked(project.id), act: "Decide" } : {}),
      subject: `${code} ${name}: ${subject}`,
      body: body.filter((line) => line !== "").join("\n\n"),
      link: `/projects/${project.id}/stages`,
    })),
  );
}

const unmet = (conditions: readonly HeldCondition[]): HeldCondition[] => conditions.filter(({ met }) => met === false);
const listed = (conditions: readonly HeldCondition[]): string =>
  conditions.map(({ words, says }) => `${words}: ${says}`).join("\n");

/** Asks for the gate of the stage that a project is in; whoever decides is told. */
export async function askGate(
  database: DataSource,
  me: Me,
  post: Telling,
  id: string,
  { stage: stageId, word }: { readonly stage: string; readonly word: string },
  at = new Date(),
): Promise<ProjectGates> {
  await writeProject(database, me, id, async ({ manager }, project) => {
    const { life, stage } = await stageHere(manager, id, stageId);
    if ((await lastEvent(manager, id))?.act === "asked")
      throw new Failure("conflict", `“${stage.gate}” is asked for already; it waits for a decision.`);
    const said = saidOf(life, stage.id);
    const conditions = heldOf(stage, said, await factsOf(manager, project));
    const missing = unmet(conditions);
    if (missing.length > 0 && word === "")
      throw new Failure("invalid", "Some of what must be true is not. Say why it is asked for all the same.");
    await happened(manager, me, project, stage, { act: "asked", word, conditions, at });
    const to = said.decider === null ? (await deciders(manager, project)).map((each) => each.id) : [said.decider];
    await tell(manager, post, me, project, {
      to,
      asks: true,
      subject: `“${stage.gate}” asks for a decision`,
      body: [
        `${me.name} asks for the gate “${stage.gate}”, which ends the stage “${stage.name}”.`,
        word,
        missing.length === 0 ? "All that must be true is." : `Not met:\n${listed(missing)}`,
      ],
    });
  });
  return viewGates(database, me, id);
}

/** Withdraws what was asked. */
export async function withdrawGate(database: DataSource, me: Me, id: string, stageId: string): Promise<ProjectGates> {
  await writeProject(database, me, id, async ({ manager }, project) => {
    const { stage } = await stageHere(manager, id, stageId);
    if ((await lastEvent(manager, id))?.act !== "asked")
      throw new Failure("conflict", `“${stage.gate}” is not asked for, or was decided already.`);
    await settleNotices(manager, gateAsked(id));
    await happened(manager, me, project, stage, { act: "withdrawn", word: "", conditions: [], at: new Date() });
  });
  return viewGates(database, me, id);
}

/** Refuses who may not decide, and what does not wait for it any more. */
function assertMayDecide(me: Me, asked: GateEventEntity | null, seen: number, decider: string | null): void {
  if (asked?.act !== "asked" || asked.id !== seen)
    throw new Failure("conflict", "What was asked has been decided or withdrawn meanwhile; look at it anew.");
  if (asked.accountId === me.id)
    throw new Failure("notAllowed", "You asked for this gate yourself; somebody else decides.");
  if (decider !== null && decider !== me.id)
    throw new Failure("notAllowed", "Someone else is named to decide this gate.");
}

const NEEDS: Readonly<Record<"passed" | "conditional", string>> = {
  passed: "Not all that must be true is, so it can be passed with conditions only. Nothing was decided.",
  conditional: "Passed with conditions: say at least one of what is to be done.",
};

interface Asked {
  readonly project: ProjectEntity;
  readonly stage: Stage;
  readonly event: number;
  readonly actions: DecideGate["actions"];
}

/** Puts what a gate asks for into the register of actions. */
async function askActions(
  manager: EntityManager,
  post: Telling,
  me: Me,
  { project, stage, event, actions }: Asked,
): Promise<void> {
  if (actions.length === 0) return;
  const known = new CallNames(await namables(manager));
  for (const [position, { what, owner, due }] of actions.entries()) {
    const found = known.findWhole(owner);
    const id = await beginMatter(manager, me, {
      ...{ kind: "action", project: project.id, group: null, title: what, due },
      owner: "id" in found ? found.id : null,
      ties: [{ about: "gate", id: stage.id }],
    });
    await manager
      .getRepository(GateActionEntity)
      .insert({ id, projectId: project.id, eventId: event, position, owner });
    const told = { id, kind: "action", title: what, due, code: project.code, projectId: project.id } as const;
    await tellOwner(manager, post, me, told, "id" in found ? found.id : null);
  }
}

/** Decides a gate that is asked for: what was found then stays with it, and whoever asked is told. */
export async function decideGate(
  database: DataSource,
  me: Me,
  post: Telling,
  id: string,
  { stage: stageId, decision, asked: seen, word, actions }: DecideGate & { readonly stage: string },
  at = new Date(),
): Promise<ProjectGates> {
  await writeProjects(database, me, [id], async (writing) => {
    const { manager } = writing;
    const project = writing.project(id);
    await assertNotClosed(manager, project);
    const asked = await lastEvent(manager, id);
    const { life, stage } = await stageHere(manager, id, stageId);
    const said = saidOf(life, stage.id);
    assertMayDecide(me, asked, seen, said.decider);
    const conditions = heldOf(stage, said, await factsOf(manager, project));
    if (decision === "passed" && unmet(conditions).length > 0) throw new Failure("invalid", NEEDS.passed);
    if (decision === "conditional" && actions.length === 0) throw new Failure("invalid", NEEDS.conditional);
    if (decision !== "conditional" && actions.length > 0)
      throw new Failure("invalid", "Only a pass with conditions asks for something to be done.");
    const event = await happened(manager, me, project, stage, { act: decision, word, conditions, at });
    await settleNotices(manager, gateAsked(id), at);
    await askActions(manager, post, me, { project, stage, event, actions });
    if (isPassed(decision)) await storeLife(manager, id, { ...life, passed: [...life.passed, stage.id] });
    if (decision === "stopped") await setState(manager, me, project, "onHold");
    await tell(manager, post, me, project, {
      to: [asked!.accountId, project.managerId],
      subject: `“${stage.gate}” ${GATE_ACT_WORDS[decision]}`,
      body: [
        `${me.name} decided the gate “${stage.gate}”: ${GATE_ACT_WORDS[decision]}.`,
        word,
        actions.length === 0 ? "" : `To be done:\n${actions.map(({ what }) => what).join("\n")}`,
        decision === "stopped" ? "The project is on hold." : "",
      ],
    });
  });
  return viewGates(database, me, id);
}
