import type { BodyOf, Me, ResponseOf } from "@chronometra/contract";
import type { Mend, Plan } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { storeChanges } from "../plan/changeService.ts";
import { overPlans, type PlanOf } from "../plan/held/overPlan.ts";
import { effectOn } from "../plan/prepare.ts";
import { writeProject } from "../plan/writeProjects.ts";
import type { QUALITY_WORKS } from "./qualityWorks.ts";

const overPlan = overPlans<typeof QUALITY_WORKS>();

type Wanted = BodyOf<"POST /api/projects/:project/quality/mend">;

const LABELS: Record<Mend, string> = {
  linkLooseEnds: "Loose ends linked",
  leadsToOverlaps: "Leads said as overlaps",
  softenWishes: "Hard wishes softened",
  dropRedundant: "Redundant links removed",
};

/** What mending many at once would move; stores nothing. */
export async function effectOfMend(
  of: PlanOf,
  wanted: Wanted,
): Promise<ResponseOf<"POST /api/projects/:project/quality/mend/effect">> {
  const { changes, left } = await overPlan("mended", of, wanted);
  return { effect: await effectOn(of, changes), changes: changes.length, left };
}

/** Mends them, as one step that can be undone. */
export function storeMend(
  database: DataSource,
  me: Me,
  id: string,
  wanted: Wanted,
): Promise<ResponseOf<"POST /api/projects/:project/quality/mend">> {
  const mended = (plan: Plan) => overPlan("mended", { id, plan }, wanted);
  return writeProject(
    database,
    me,
    id,
    async (writing, project) => {
      const { changes, left } = await mended(await writing.plan(project));
      const { result } = await storeChanges(writing, project, { changes, label: LABELS[wanted.mend] });
      return { revision: result.revision, changes: changes.length, left };
    },
    async (plan) => (await mended(plan)).changes,
  );
}
