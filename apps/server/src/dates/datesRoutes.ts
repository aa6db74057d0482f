import { gatheredBy, parseDate, type Change, type Plan } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { issuedPeriods } from "../cycle/issued.ts";
import { overPlans, type PlanOf } from "../plan/held/overPlan.ts";
import { storeChanges } from "../plan/changeService.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { writeProject, type Writing } from "../plan/writeProjects.ts";
import { assertMayEdit, findProject } from "../project/projectAccess.ts";
import { mayEdit } from "../project/reach.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { serve, type Serving } from "../access/serve.ts";
import type { Post } from "../tell/post.ts";
import type { DATES_WORKS } from "./datesWorks.ts";
import { allDeadlines } from "./deadlines.ts";
import { milestoneTrend } from "./milestoneTrend.ts";
import { performanceOf } from "./performance.ts";
import { effectOfSlip, slipAhead, storeSlip } from "./slip.ts";

const overPlan = overPlans<typeof DATES_WORKS>();

export function datesRoutes(serving: Serving, post: Post): void {
  serve(serving, "GET /api/deadlines", ({ database, me }) => allDeadlines(database, me));

  serve(serving, "PUT /api/projects/:project/promises/:activity", async ({ database, me, params, body }) => {
    const key = params["activity"]!;
    const row = { consequence: body.consequence, ...(body.to === "" ? {} : { to: body.to }) };
    const changesOf = ({ promises }: Plan): Change[] => [
      ...(promises.has(key) ? [{ type: "removeRow", table: "promises", key } as const] : []),
      ...(body.consequence === "" ? [] : [{ type: "addRow", table: "promises", key, row } as const]),
    ];
    const work = async (writing: Writing, project: ProjectEntity): Promise<void> => {
      const before = await writing.plan(project);
      const { name } = orNotFound(before.activities.get(key), "activity of that name in the plan");
      const changes = changesOf(before);
      const label = `What follows if the deadline of ${name} is not kept`.slice(0, 200);
      if (changes.length > 0) await storeChanges(writing, project, { changes, label });
    };
    await writeProject(database, me, params["project"]!, work, changesOf);
    return { ok: true as const };
  });

  const planOf = async (database: DataSource, id: string): Promise<{ project: ProjectEntity } & PlanOf> => {
    const project = await findProject(database, id);
    return { project, id, plan: await loadPlan(database.manager, project) };
  };

  serve(serving, "GET /api/projects/:project/chain/:activity", async ({ database, params }) =>
    overPlan("chain", await planOf(database, params["project"]!), params["activity"]!),
  );

  serve(serving, "GET /api/projects/:project/milestones", async ({ database, params }) => {
    const { project, ...of } = await planOf(database, params["project"]!);
    const trend = milestoneTrend(await overPlan("summary", of), await issuedPeriods(database, project.id));
    const gathers = (id: string): number => gatheredBy(of.plan, id).length;
    return { ...trend, milestones: trend.milestones.map((each) => ({ ...each, gathers: gathers(each.id) })) };
  });

  serve(serving, "GET /api/projects/:project/slip/:milestone", async ({ database, me, params, request }) => {
    const { to = null } = request.query;
    if (to !== null && (typeof to !== "string" || parseDate(to) === null))
      throw new Failure("invalid", "The day to slip to is given as YYYY-MM-DD.");
    const { project, ...of } = await planOf(database, params["project"]!);
    return {
      ...(await overPlan("choice", of, { milestone: params["milestone"]!, to })),
      mayEdit: mayEdit(me, project),
    };
  });

  serve(serving, "POST /api/projects/:project/slip/:milestone/effect", async ({ database, me, params, body }) => {
    const { project, ...of } = await planOf(database, params["project"]!);
    assertMayEdit(me, project);
    return effectOfSlip(database, of, params["milestone"]!, body);
  });

  serve(serving, "POST /api/projects/:project/slip/:milestone", ({ database, me, params, body }) =>
    writeProject(
      database,
      me,
      params["project"]!,
      (writing, project) => storeSlip(writing, project, post, params["milestone"]!, body),
      (plan, { id }) => slipAhead({ id, plan }, params["milestone"]!, body),
    ),
  );

  serve(serving, "GET /api/projects/:project/performance/:by", async ({ database, params }) => {
    const project = await findProject(database, params["project"]!);
    return performanceOf(database, project, await loadPlan(database.manager, project), params["by"]!);
  });
}
