import { randomUUID } from "node:crypto";
import type { BodyOf, Me, ResponseOf } from "@chronometra/contract";
import { wakeRows, type Change, type Plan } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { storeChanges } from "../plan/changeService.ts";
import { effectOn } from "../plan/prepare.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { writeProject } from "../plan/writeProjects.ts";
import { assertMayEdit, findProject } from "../project/projectAccess.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { findMatter } from "./listMatters.ts";
import { MatterTieEntity } from "./matterEntities.ts";
import type { MatterRow } from "./matterRows.ts";
import type { Telling } from "../tell/post.ts";
import { tellStruck } from "./tellOfMatters.ts";
import { beginMatter } from "./raise/raiseMatters.ts";
import { noteEvent } from "./writeMatters.ts";

/** A risk of a plan that may still strike. */
async function openRisk(manager: DataSource | EntityManager, me: Me, id: string): Promise<MatterRow> {
  const row = await findMatter(manager, me, id);
  if (row.kind !== "risk") throw new Failure("invalid", "Only a risk strikes.");
  if (row.projectId === null)
    throw new Failure("invalid", "A risk of a group strikes in its projects; raise the issue there.");
  if (row.state !== "open") throw new Failure("conflict", "The risk is not open any more; look at it again.");
  return row;
}

/** The parked work that a risk is tied to or bears on. */
async function parkedWith(manager: DataSource | EntityManager, plan: Plan, row: MatterRow): Promise<string[]> {
  const ties = await manager
    .getRepository(MatterTieEntity)
    .find({ where: { matterId: row.id, about: "activity" }, order: { position: "ASC" } });
  const borne = plan.risks.get(row.riskId!)?.effects.map(({ activity }) => activity) ?? [];
  return [...new Set([...ties.map(({ aboutId }) => aboutId), ...borne])].filter(
    (activity) => plan.activities.get(activity)?.parked === true,
  );
}

const strikes = (plan: Plan, { riskId }: MatterRow, parked: readonly string[]): Change[] => [
  ...wakeRows(plan, parked, () => randomUUID().slice(0, 13)),
  { type: "editRow", table: "risks", key: riskId!, set: { over: "struck" } } as Change,
];

/** What it moves if a risk strikes and the parked work tied to it wakes; nothing is stored. */
export async function strikeEffect(
  database: DataSource,
  me: Me,
  id: string,
): Promise<ResponseOf<"POST /api/matters/:matter/strike/effect">> {
  const row = await openRisk(database, me, id);
  const project = await findProject(database, row.projectId!);
  assertMayEdit(me, project);
  const plan = await loadPlan(database.manager, project);
  return effectOn({ id: project.id, plan }, strikes(plan, row, await parkedWith(database, plan, row)));
}

/** A risk struck: it is over, the parked work tied to it wakes, and an issue takes its place and its ties. */
export async function strike(
  database: DataSource,
  me: Me,
  post: Telling,
  id: string,
  { title, severity, owner, due }: BodyOf<"POST /api/matters/:matter/strike">,
): Promise<ResponseOf<"POST /api/matters/:matter/strike">> {
  const { projectId } = await openRisk(database, me, id);
  return writeProject(database, me, projectId!, async (writing, project) => {
    const { manager } = writing;
    const row = await openRisk(manager, me, id);
    const plan = await writing.plan(project);
    const woken = await parkedWith(manager, plan, row);
    const changes = strikes(plan, row, woken);
    const { result } = await storeChanges(writing, project, { changes, label: `Risk “${row.title}” struck` });
    const ties = await manager
      .getRepository(MatterTieEntity)
      .find({ where: { matterId: id }, order: { position: "ASC" } });
    const issue = await beginMatter(manager, me, {
      ...{ kind: "issue", project: project.id, group: null, title, severity, owner, due },
      text: `The risk “${row.title}” struck.`,
      ties: ties.map(({ about, aboutId }) => ({ about: about as "activity", id: aboutId })),
    });
    await noteEvent(manager, me, id, { field: "State", was: "open", value: `struck: “${title}”` });
    const named = woken.map((activity) => orNotFound(plan.activities.get(activity), "activity of that address").name);
    await tellStruck(
      manager,
      post,
      me,
      { id: issue, kind: "issue", title, code: project.code, projectId: project.id, due },
      {
        to: [owner, row.owner, row.raisedBy, project.managerId],
        risk: row.title,
        woken: named,
      },
    );
    return { issue, woken: named, revision: result.revision };
  });
}
