import { randomUUID } from "node:crypto";
import type { BodyOf, Charter, Me, RepeatAsked, Template } from "@chronometra/contract";
import { beginAnew } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { meantOf } from "../charter/charter.ts";
import { copyDocuments, forgetDocuments } from "../documents/copyDocuments.ts";
import { lifeOf } from "../gates/gateLife.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { inTransaction, orTaken } from "../shared/database.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { branchAlone } from "./assemble.ts";
import { planOfText, planText } from "./planText.ts";
import { TemplateEntity } from "./templateEntity.ts";
import { findSeen } from "../project/reach.ts";

/** A template with its plan. */
export async function findTemplate(manager: DataSource | EntityManager, id: string) {
  const row = orNotFound(await manager.getRepository(TemplateEntity).findOneBy({ id }), "template of that address");
  return {
    name: row.name,
    plan: planOfText(row.plan),
    repeats: JSON.parse(row.repeats) as RepeatAsked[],
    charter: row.charter === null ? null : (JSON.parse(row.charter) as Charter),
    lifeCycle: row.lifeCycleId,
  };
}

/** Whoever made a template may change it, and controllers. */
const mayWrite = (me: Me, { madeBy }: Pick<TemplateEntity, "madeBy">): boolean =>
  me.roles.includes("controller") || madeBy === me.id;

/** The templates by name. */
export async function listTemplates(database: DataSource, me: Me): Promise<Template[]> {
  const [rows, names] = await Promise.all([
    database.getRepository(TemplateEntity).find({ order: { name: "ASC" } }),
    accountNames(database),
  ]);
  return rows.map((row): Template => {
    const plan = planOfText(row.plan);
    const activities = [...plan.activities.values()];
    const count = (...kinds: string[]): number => activities.filter(({ kind = "work" }) => kinds.includes(kind)).length;
    return {
      id: row.id,
      name: row.name,
      description: row.description,
      by: names.get(row.madeBy) ?? "",
      at: row.madeAt.toISOString(),
      currency: plan.project.currency,
      activities: count("work", "levelOfEffort"),
      milestones: count("milestone"),
      roles: plan.placeholders.size,
      repeats: JSON.parse(row.repeats) as RepeatAsked[],
      branches: activities.flatMap(({ id, name, kind }) => (kind === "summary" ? [{ id, name }] : [])),
      mayEdit: mayWrite(me, row),
    };
  });
}

const taken = (name: string): Failure =>
  new Failure("conflict", `There is a template called “${name}” already; give this one another name.`);

async function assertFree(manager: EntityManager, name: string, id: string): Promise<void> {
  const known = await manager.getRepository(TemplateEntity).findOneBy({ name });
  if (known !== null && known.id !== id) throw taken(name);
}

/** Branches that may stand several times have to be there, each once. */
function assertBranches(repeats: readonly RepeatAsked[], activities: ReadonlyMap<string, { name: string }>): void {
  for (const { activity, ask } of repeats) {
    if (!activities.has(activity))
      throw new Failure("invalid", `“${ask}” asks about a branch that is not in the plan.`);
    if (repeats.filter((other) => other.activity === activity).length > 1)
      throw new Failure("invalid", `It is asked twice about “${activities.get(activity)!.name}”.`);
  }
}

/** Makes a template of a project or a branch. */
export async function makeTemplate(
  database: DataSource,
  me: Me,
  { project: projectId, branch, along, name, description, repeats }: BodyOf<"POST /api/templates">,
): Promise<Template[]> {
  const project = await findSeen(database, me, projectId);
  const live = await loadPlan(database.manager, project);
  if (branch !== null && !live.activities.has(branch))
    throw new Failure("invalid", "That branch is not in the plan any more.");
  const anew = beginAnew(live, along);
  const plan = branch === null ? anew : branchAlone(anew, branch);
  assertBranches(repeats, plan.activities);
  const isChartered = along.charter && branch === null;
  const charter = isChartered ? await meantOf(database.manager, projectId) : null;
  const lifeCycleId = isChartered ? ((await lifeOf(database.manager, projectId))?.id ?? null) : null;
  await inTransaction(database, async (manager) => {
    const id = randomUUID();
    await assertFree(manager, name, id);
    const inserted = manager.getRepository(TemplateEntity).insert({
      ...{ id, name, description, madeBy: me.id, madeAt: new Date(), plan: planText(plan) },
      charter: charter === null ? null : JSON.stringify(charter),
      repeats: JSON.stringify(repeats),
      lifeCycleId,
    });
    await orTaken(inserted, () => taken(name));
    if (along.documents)
      await copyDocuments(manager, me, {
        from: projectId,
        to: id,
        isThere: ({ about, aboutId }) =>
          about === "activity"
            ? plan.activities.has(aboutId)
            : branch === null &&
              (about === "project" || (about === "deliverable" && charter?.deliverables[aboutId] !== undefined)),
      });
  });
  return listTemplates(database, me);
}

/** A template of one's own, or of anybody to a controller; locked. */
async function ownTemplate(manager: EntityManager, me: Me, id: string): Promise<TemplateEntity> {
  const row = orNotFound(
    await manager.getRepository(TemplateEntity).findOne({ where: { id }, lock: { mode: "pessimistic_write" } }),
    "template of that address",
  );
  if (!mayWrite(me, row))
    throw new Failure("notAllowed", "Only whoever made this template, or a controller, may change it.");
  return row;
}

/** Writes what a template is called, and what it asks. */
export async function writeTemplate(
  database: DataSource,
  me: Me,
  id: string,
  { name, description, repeats }: BodyOf<"PUT /api/templates/:template">,
): Promise<Template[]> {
  await inTransaction(database, async (manager) => {
    const row = await ownTemplate(manager, me, id);
    await assertFree(manager, name, id);
    assertBranches(repeats, planOfText(row.plan).activities);
    const written = { name, description, repeats: JSON.stringify(repeats) };
    await orTaken(manager.getRepository(TemplateEntity).update({ id }, written), () => taken(name));
  });
  return listTemplates(database, me);
}

export async function removeTemplate(database: DataSource, me: Me, id: string): Promise<Template[]> {
  await inTransaction(database, async (manager) => {
    await ownTemplate(manager, me, id);
    await forgetDocuments(manager, id);
    await manager.getRepository(TemplateEntity).delete({ id });
  });
  return listTemplates(database, me);
}
