import type { Change } from "@chronometra/core";
import { issuedPeriods } from "../cycle/issued.ts";
import { computeWhole, summarise } from "../look/summarise.ts";
import { keepPlan, storeChanges } from "../plan/changeService.ts";
import { loadPlan } from "../plan/planStore.ts";
import { assertMayEdit, findProject, lockProjectFor } from "../portfolio/projectAccess.ts";
import { inTransaction } from "../shared/database.ts";
import { orNotFound } from "../shared/failure.ts";
import { serve, type Serving } from "../shared/http.ts";
import { allDeadlines, chainTo } from "./deadlines.ts";
import { milestoneTrend } from "./milestoneTrend.ts";
import { performanceOf } from "./performance.ts";
import { choiceOf, effectOfSlip, storeSlip, tellSlip } from "./slip.ts";

export function datesRoutes(serving: Serving): void {
  serve(serving, "GET /api/deadlines", ({ database, me }) => allDeadlines(database, me));

  serve(serving, "PUT /api/projects/:project/promises/:activity", async ({ database, me, params, body }) => {
    const key = params["activity"]!;
    const stored = await inTransaction(database, async (manager) => {
      const project = await lockProjectFor(manager, params["project"]!, me);
      const before = await loadPlan(manager, project);
      const { name } = orNotFound(before.activities.get(key), "activity of that name in the plan");
      const changes: Change[] = [
        ...(before.promises.has(key) ? [{ type: "removeRow", table: "promises", key } as const] : []),
        ...(body.consequence === "" ? [] : [{ type: "addRow", table: "promises", key, row: { consequence: body.consequence, ...(body.to === "" ? {} : { to: body.to }) } } as const]),
      ];
      return changes.length === 0 ? null : { project, ...(await storeChanges(manager, project, me, { changes, label: `What follows if the deadline of ${name} is not kept`.slice(0, 200) })) };
    });
    if (stored !== null) keepPlan(stored.project, stored.plan);
    serving.news.poke();
    return { ok: true as const };
  });

  serve(serving, "GET /api/projects/:project/chain/:activity", async ({ database, params }) => chainTo(await loadPlan(database.manager, await findProject(database, params["project"]!)), params["activity"]!));

  serve(serving, "GET /api/projects/:project/milestones", async ({ database, params }) => {
    const project = await findProject(database, params["project"]!);
    return milestoneTrend(summarise(computeWhole(await loadPlan(database.manager, project))), await issuedPeriods(database, project.id));
  });

  serve(serving, "GET /api/projects/:project/slip/:milestone", async ({ database, me, params }) => {
    const project = await findProject(database, params["project"]!);
    return choiceOf(await loadPlan(database.manager, project), me, project, params["milestone"]!);
  });

  serve(serving, "POST /api/projects/:project/slip/:milestone/effect", async ({ database, me, params, body }) => {
    const project = await findProject(database, params["project"]!);
    assertMayEdit(me, project);
    const plan = await loadPlan(database.manager, project);
    choiceOf(plan, me, project, params["milestone"]!);
    return effectOfSlip(database, plan, params["milestone"]!, body);
  });

  serve(serving, "POST /api/projects/:project/slip/:milestone", async ({ database, me, params, body }) => {
    const { project, plan, revision, left, messages } = await inTransaction(database, (manager) => storeSlip(manager, me, params["project"]!, params["milestone"]!, body));
    keepPlan(project, plan);
    serving.news.poke();
    return { revision, told: await tellSlip(database, serving.post, messages), left };
  });

  serve(serving, "GET /api/projects/:project/performance/:by", async ({ database, params }) => {
    const project = await findProject(database, params["project"]!);
    return performanceOf(database, project, await loadPlan(database.manager, project), params["by"]!);
  });
}
