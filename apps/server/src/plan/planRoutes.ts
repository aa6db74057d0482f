import { RESERVED_CHANGES, type History, type HistoryEntry, type PlanView } from "@chronometra/contract";
import { changeWords, namesIn, type Change } from "@chronometra/core";
import { assertMayEdit, findProject } from "../project/projectAccess.ts";
import { Failure } from "../shared/failure.ts";
import { serve, type Serving } from "../access/serve.ts";
import { answerBefore, storeChanges } from "./changeService.ts";
import { activityHistory, historyEntry, historyOf, historyPeople, inverseOf } from "./history.ts";
import { loadPlan } from "./stored/planStore.ts";
import { effectOn } from "./prepare.ts";
import { presentPlan } from "./presentPlan.ts";
import { writeProject } from "./writeProjects.ts";

function assertOpenTo(changes: readonly Change[]): void {
  const reserved = changes.find(({ type }) => RESERVED_CHANGES.includes(type));
  if (reserved !== undefined)
    throw new Failure("invalid", `"${reserved.type}" happens by approving or accepting, not by itself.`);
}

export function planRoutes(serving: Serving): void {
  serve(serving, "GET /api/projects/:project/plan", async ({ database, me, params }): Promise<PlanView> => {
    const project = await findProject(database, params["project"]!);
    return presentPlan(database, me, project, await loadPlan(database.manager, project));
  });

  serve(serving, "POST /api/projects/:project/changes", async ({ database, me, params, body }) => {
    assertOpenTo(body.changes);
    return writeProject(
      database,
      me,
      params["project"]!,
      async (writing, project) => {
        const before = await answerBefore(writing.manager, project.id, body.list, body.revision);
        if (before !== null) return before;
        const label = body.label ?? changeWords(body.changes, namesIn(await writing.plan(project))).slice(0, 200);
        return (
          await storeChanges(writing, project, { changes: body.changes, seen: body.revision, label, list: body.list })
        ).result;
      },
      () => body.changes,
    );
  });

  serve(serving, "POST /api/projects/:project/undo", async ({ database, me, params, body }) => {
    return writeProject(
      database,
      me,
      params["project"]!,
      async (writing, project) => {
        const before = await answerBefore(writing.manager, project.id, body.list, project.revision);
        if (before !== null) return before;
        const order = await inverseOf(writing.manager, project, body.revision);
        const { result } = await storeChanges(writing, project, { ...order, list: body.list });
        // What came between is not told again: a caller who holds an older revision than the one before loads the plan
        // anew.
        return { ...result, changes: [...order.changes] };
      },
      async (_plan, project) => (await inverseOf(database.manager, project, body.revision)).changes,
    );
  });

  serve(serving, "POST /api/projects/:project/effect", async ({ database, me, params, body }) => {
    assertOpenTo(body.changes);
    const project = await findProject(database, params["project"]!);
    assertMayEdit(me, project);
    const plan = await loadPlan(database.manager, project);
    return effectOn({ id: project.id, plan }, body.changes);
  });

  serve(serving, "GET /api/projects/:project/history", async ({ database, params, request }): Promise<History> => {
    const asked = (name: string): string | null =>
      typeof request.query[name] === "string" && request.query[name] !== "" ? request.query[name] : null;
    return historyOf(database, await findProject(database, params["project"]!), {
      from: asked("from"),
      to: asked("to"),
      about: asked("about"),
      path: asked("path"),
      by: asked("by"),
      through: asked("through"),
      before: /^\d{1,9}$/.test(asked("before") ?? "") ? Number(asked("before")) : null,
    });
  });

  serve(serving, "GET /api/projects/:project/activities/:activity/history", async ({ database, params, request }) => {
    const before = Number(request.query["before"] ?? NaN);
    const project = await findProject(database, params["project"]!);
    return activityHistory(database, project, params["activity"]!, Number.isInteger(before) ? before : null);
  });

  serve(serving, "GET /api/projects/:project/history-people", async ({ database, params }) =>
    historyPeople(database, await findProject(database, params["project"]!)),
  );

  serve(
    serving,
    "GET /api/projects/:project/history/:revision",
    async ({ database, me, params }): Promise<HistoryEntry> => {
      if (!/^\d{1,9}$/.test(params["revision"]!))
        throw new Failure("notFound", "There is no change of that number; name a revision.");
      return historyEntry(database, me, await findProject(database, params["project"]!), Number(params["revision"]));
    },
  );
}
