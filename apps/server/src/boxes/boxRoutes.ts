import { serve, type Serving } from "../access/serve.ts";
import { overPlans } from "../plan/held/overPlan.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { findProject } from "../project/projectAccess.ts";
import { mayEdit } from "../project/reach.ts";
import { todayOf } from "../shared/clock.ts";
import { orNotFound } from "../shared/failure.ts";
import { boxMoves } from "./boxMoves.ts";
import type { BOX_WORKS } from "./boxWorks.ts";

const overPlan = overPlans<typeof BOX_WORKS>();

export function boxRoutes(serving: Serving): void {
  serve(serving, "GET /api/projects/:project/boxes", async ({ database, me, params }) => {
    const project = await findProject(database, params["project"]!);
    const plan = await loadPlan(database.manager, project);
    const today = todayOf(me);
    const told = await overPlan("boxes", { id: project.id, plan }, today);
    return { revision: project.revision, mayEdit: mayEdit(me, project), today, ...told };
  });

  serve(serving, "GET /api/projects/:project/boxes/:box/back", async ({ database, params }) => {
    const project = await findProject(database, params["project"]!);
    const plan = await loadPlan(database.manager, project);
    const moves = await boxMoves(database, project.id);
    const told = await overPlan("boxLookBack", { id: project.id, plan }, { box: params["box"]!, moves });
    return orNotFound(told, "timebox of that name in the plan");
  });

  serve(serving, "GET /api/projects/:project/milestones/:milestone", async ({ database, me, params }) => {
    const project = await findProject(database, params["project"]!);
    const plan = await loadPlan(database.manager, project);
    const asked = { milestone: params["milestone"]!, today: todayOf(me) };
    const told = orNotFound(
      await overPlan("gathered", { id: project.id, plan }, asked),
      "milestone of that name in the plan",
    );
    return { revision: project.revision, mayEdit: mayEdit(me, project), ...told };
  });
}
