import { loadPlan } from "../plan/stored/planStore.ts";
import { assertMayEdit, findProject } from "../project/projectAccess.ts";
import { serve, type Serving } from "../access/serve.ts";
import { effectOfMend, storeMend } from "./mend.ts";
import { setQualityLimits } from "../cycle/limits/qualityLimits.ts";
import { qualityOf } from "./qualityOf.ts";

export function qualityRoutes(serving: Serving): void {
  serve(serving, "GET /api/projects/:project/quality", async ({ database, me, params }) =>
    qualityOf(database, me, await findProject(database, params["project"]!)),
  );

  serve(serving, "POST /api/projects/:project/quality/mend/effect", async ({ database, me, params, body }) => {
    const project = await findProject(database, params["project"]!);
    assertMayEdit(me, project);
    return effectOfMend({ id: project.id, plan: await loadPlan(database.manager, project) }, body);
  });

  serve(serving, "POST /api/projects/:project/quality/mend", ({ database, me, params, body }) =>
    storeMend(database, me, params["project"]!, body),
  );

  serve(serving, "PUT /api/portfolio/quality-limits", async ({ database, me, body }) => {
    await setQualityLimits(database, me, body);
    return { ok: true as const };
  });
}
