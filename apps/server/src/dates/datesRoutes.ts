import type { Change } from "@chronometra/core";
import { issuedPeriods } from "../cycle/issued.ts";
import { computeWhole, summarise } from "../writers/summarise.ts";
import { storeChanges } from "../plan/changeService.ts";
import { loadPlan } from "../plan/planStore.ts";
import { writeProject } from "../plan/writeProjects.ts";
import { assertMayEdit, findProject } from "../project/projectAccess.ts";
import { orNotFound } from "../shared/failure.ts";
import { serve, type Serving } from "../access/serve.ts";
import type { Post } from "../tell/post.ts";
import { allDeadlines, chainTo } from "./deadlines.ts";
import { milestoneTrend } from "./milestoneTrend.ts";
import { performanceOf } from "./performance.ts";
import { choiceOf, effectOfSlip, storeSlip } from "./slip.ts";

export function datesRoutes(serving: Serving, post: Post): void {
  serve(serving, "GET /api/deadlines", ({ database, me }) => allDeadlines(database, me));

  serve(serving, "PUT /api/projects/:project/promises/:activity", async ({ database, me, params, body }) => {
    const key = params["activity"]!;
    await writeProject(database, me, params["project"]!, async (writing, project) => {
      const before = await writing.plan(project);
      const { name } = orNotFound(before.activities.get(key), "activity of that name in the plan");
      const changes: Change[] = [
        ...(before.promises.has(key) ? [{ type: "removeRow", table: "promises", key } as const] : []),
        ...(body.consequence === ""
          ? []
          : [
              {
                type: "addRow",
                table: "promises",
                key,
                row: { consequence: body.consequence, ...(body.to === "" ? {} : { to: body.to }) },
              } as const,
            ]),
      ];
      if (changes.length > 0)
        await storeChanges(writing, project, {
          changes,
          label: `What follows if the deadline of ${name} is not kept`.slice(0, 200),
        });
    });
    return { ok: true as const };
  });

  serve(serving, "GET /api/projects/:project/chain/:activity", async ({ database, params }) =>
    chainTo(await loadPlan(database.manager, await findProject(database, params["project"]!)), params["activity"]!),
  );

  serve(serving, "GET /api/projects/:project/milestones", async ({ database, params }) => {
    const project = await findProject(database, params["project"]!);
    return milestoneTrend(
      summarise(computeWhole(await loadPlan(database.manager, project))),
      await issuedPeriods(database, project.id),
    );
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

  serve(serving, "POST /api/projects/:project/slip/:milestone", ({ database, me, params, body }) =>
    writeProject(database, me, params["project"]!, (writing, project) =>
      storeSlip(writing, project, post, params["milestone"]!, body),
    ),
  );

  serve(serving, "GET /api/projects/:project/performance/:by", async ({ database, params }) => {
    const project = await findProject(database, params["project"]!);
    return performanceOf(database, project, await loadPlan(database.manager, project), params["by"]!);
  });
}
