import { RESERVED_CHANGES, type History, type PlanView } from "@chronometra/contract";
import type { Change, Plan } from "@chronometra/core";
import { Between, Raw } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { assertMayEdit, findProject } from "../portfolio/projectAccess.ts";
import { Failure } from "../shared/failure.ts";
import { serve, type Serving } from "../shared/http.ts";
import { answerBefore, applyChecked, inverseOf, storeChanges } from "./changeService.ts";
import { ChangeListEntity } from "./planEntities.ts";
import { revisionOf } from "./revisions.ts";
import { loadPlan } from "./planStore.ts";
import { presentEffect } from "./presentEffect.ts";
import { presentPlan } from "./presentPlan.ts";
import { writeProject } from "./writeProjects.ts";

const HISTORY_LENGTH = 200;

function assertOpenTo(changes: readonly Change[]): void {
  const reserved = changes.find(({ type }) => RESERVED_CHANGES.includes(type));
  if (reserved !== undefined) throw new Failure("invalid", `"${reserved.type}" happens by approving or accepting, not by itself.`);
}

/** "Duration of Leaf A welding", or what kind of changes there are. */
function labelOf(plan: Plan, changes: readonly Change[]): string {
  const first = changes[0]!;
  const name = "activity" in first ? plan.activities.get(first.activity)?.name : undefined;
  const verb = { setProject: "Project", setDataDate: "Data date", addRow: "Added", removeRow: "Removed" }[first.type as string] ?? first.type.replace(/^(set|report)/, "");
  return [name === undefined ? verb : `${verb} of ${name}`, changes.length > 1 ? ` and ${changes.length - 1} more` : ""].join("").slice(0, 200);
}

export function planRoutes(serving: Serving): void {
  serve(serving, "GET /api/projects/:project/plan", async ({ database, me, params }): Promise<PlanView> => {
    const project = await findProject(database, params["project"]!);
    return presentPlan(database, me, project, await loadPlan(database.manager, project));
  });

  serve(serving, "POST /api/projects/:project/changes", async ({ database, me, params, body }) => {
    assertOpenTo(body.changes);
    return writeProject(database, me, params["project"]!, async (writing, project) => {
      const before = await answerBefore(writing.manager, project.id, body.list, body.revision);
      if (before !== null) return before;
      const label = body.label ?? labelOf(await writing.plan(project), body.changes);
      return (await storeChanges(writing, project, { changes: body.changes, seen: body.revision, label, list: body.list })).result;
    });
  });

  serve(serving, "POST /api/projects/:project/undo", async ({ database, me, params, body }) => {
    return writeProject(database, me, params["project"]!, async (writing, project) => {
      const before = await answerBefore(writing.manager, project.id, body.list, project.revision);
      if (before !== null) return before;
      const order = await inverseOf(writing.manager, project, body.revision);
      const { result } = await storeChanges(writing, project, { ...order, list: body.list });
      // What came between is not told again: a caller who holds an older revision than the one before loads the plan anew.
      return { ...result, changes: [...order.changes] };
    });
  });

  serve(serving, "POST /api/projects/:project/effect", async ({ database, me, params, body }) => {
    assertOpenTo(body.changes);
    const project = await findProject(database, params["project"]!);
    assertMayEdit(me, project);
    const plan = await loadPlan(database.manager, project);
    return presentEffect(plan, applyChecked(plan, body.changes).plan);
  });

  serve(serving, "GET /api/projects/:project/history", async ({ database, params, request }): Promise<History> => {
    const project = await findProject(database, params["project"]!);
    const asked = (name: string): string | null => (typeof request.query[name] === "string" && request.query[name] !== "" ? request.query[name] : null);
    const [from, to, about] = ["from", "to", "about"].map(asked) as [string | null, string | null, string | null];
    const [after, until] = await Promise.all([from === null ? 0 : revisionOf(database, project, from), to === null ? project.revision : revisionOf(database, project, to)]);
    const lists = await database.getRepository(ChangeListEntity).find({
      where: { projectId: project.id, revision: Between(after + 1, until), ...(about === null ? {} : { changes: Raw((column) => `instr(${column}, :about) > 0`, { about: JSON.stringify(about) }) }) },
      order: { revision: "DESC" },
      take: HISTORY_LENGTH,
    });
    const names = await accountNames(database);
    return lists.map((list) => ({
      revision: list.revision,
      at: list.at.toISOString(),
      by: names.get(list.accountId) ?? "",
      label: list.label,
      changes: (JSON.parse(list.changes) as Change[]).length,
      undoes: list.undoes,
    }));
  });
}
