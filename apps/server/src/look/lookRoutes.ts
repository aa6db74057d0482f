import type { ProjectLook, Summary } from "@chronometra/contract";
import { accountNames } from "../access/accounts.ts";
import type { IssuedPeriodEntity } from "../cycle/cycleEntities.ts";
import { issuedPeriods } from "../cycle/issued.ts";
import { lockedTo } from "../project/locks.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { lifeOf, stageOf } from "../gates/gateLife.ts";
import { readCharter } from "../charter/charter.ts";
import { findProject, isClosed } from "../project/projectAccess.ts";
import { mayEdit } from "../project/reach.ts";
import { ProgrammeEntity } from "../project/projectEntity.ts";
import { serve, type Serving } from "../access/serve.ts";
import { overPlans } from "../plan/held/overPlan.ts";
import { orNotFound } from "../shared/failure.ts";
import type { LOOK_WORKS } from "./lookWorks.ts";

const overPlan = overPlans<typeof LOOK_WORKS>();

const pointOf = ({ dataDate, summary }: IssuedPeriodEntity) => ({
  dataDate,
  figures: (JSON.parse(summary) as Summary).figures,
});

export function lookRoutes(serving: Serving): void {
  serve(serving, "GET /api/projects/:project", async ({ database, me, params }): Promise<ProjectLook> => {
    const project = await findProject(database, params["project"]!);
    const plan = await loadPlan(database.manager, project);
    const [issued, to] = await Promise.all([issuedPeriods(database, project.id), lockedTo(database, project.id)]);
    const looked = await overPlan("looked", { id: project.id, plan }, { issued: issued.map(pointOf), lockedTo: to });
    const isLocked = ({ dataDate }: { readonly dataDate: string }): boolean => to !== null && dataDate <= to;
    const programme =
      project.programmeId === null
        ? null
        : await database.getRepository(ProgrammeEntity).findOneBy({ id: project.programmeId });
    const names = await accountNames(database);
    const { state, words } = await readCharter(database, project.id);
    return {
      id: project.id,
      revision: project.revision,
      code: project.code,
      name: plan.project.name,
      programme: programme?.name ?? null,
      manager: names.get(project.managerId) ?? "",
      mayEdit: mayEdit(me, project),
      closed: await isClosed(database, project),
      state,
      words,
      stage: stageOf(await lifeOf(database, project.id))?.name ?? null,
      ...looked,
      periods: issued.map((period) => {
        const summary = JSON.parse(period.summary) as Summary;
        return {
          number: period.number,
          dataDate: period.dataDate,
          issuedOn: period.issuedAt.toISOString(),
          issuedBy: names.get(period.issuedBy) ?? "",
          figures: summary.figures,
          drift: summary.drift,
          locked: isLocked(period),
        };
      }),
    };
  });

  serve(serving, "GET /api/projects/:project/activities/:activity", async ({ database, params }) => {
    const project = await findProject(database, params["project"]!);
    const plan = await loadPlan(database.manager, project);
    const found = await overPlan("activity", { id: project.id, plan }, params["activity"]!);
    return orNotFound(found, "activity of that name in the plan");
  });
}
