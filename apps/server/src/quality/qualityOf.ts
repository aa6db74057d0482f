import type { Me, QualityView, Summary } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { IssuedPlanEntity } from "../cycle/cycleEntities.ts";
import { issuedPeriods } from "../cycle/issued.ts";
import { qualityLimitsOf } from "../cycle/limits/qualityLimits.ts";
import { overPlans } from "../plan/held/overPlan.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { mayEdit } from "../project/reach.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import type { QUALITY_WORKS } from "./qualityWorks.ts";

const overPlan = overPlans<typeof QUALITY_WORKS>();

/** Issued periods that findings look back on. */
const LOOK_BACK = 3;

/** The plans of the newest periods as they were issued, the newest first. */
async function pastPlans(
  database: DataSource,
  projectId: string,
  issued: readonly { number: number; edition: number; dataDate: string }[],
): Promise<{ number: number; dataDate: string; content: string }[]> {
  const newest = issued.slice(-LOOK_BACK).reverse();
  const plans = await Promise.all(
    newest.map(({ number, edition }) =>
      database.getRepository(IssuedPlanEntity).findOneBy({ projectId, number, edition }),
    ),
  );
  return newest.flatMap(({ number, dataDate }, i) => {
    const plan = plans[i];
    return plan == null ? [] : [{ number, dataDate, content: plan.content }];
  });
}

/** Checks, findings and verdict of a project, with what the checks came to each period. */
export async function qualityOf(database: DataSource, me: Me, project: ProjectEntity): Promise<QualityView> {
  const [plan, issued, limits] = await Promise.all([
    loadPlan(database.manager, project),
    issuedPeriods(database, project.id),
    qualityLimitsOf(database),
  ]);
  const values = issued.flatMap(({ number, dataDate, summary }) => {
    const { quality } = JSON.parse(summary) as Summary;
    return quality === undefined ? [] : [{ number, dataDate, values: quality }];
  });
  const view = await overPlan(
    "judged",
    { id: project.id, plan },
    { limits: { ...limits }, past: await pastPlans(database, project.id, issued), issued: values },
  );
  return { ...view, mayEdit: mayEdit(me, project) };
}
