import type { BodyOf, Me, ResponseOf } from "@chronometra/contract";
import {
  computePlan,
  groundOf,
  mendMany,
  toBundle,
  type Change,
  type Mend,
  type NotMended,
  type Plan,
} from "@chronometra/core";
import type { DataSource } from "typeorm";
import { applyChecked, storeChanges } from "../plan/changeService.ts";
import { presentEffect } from "../plan/presentEffect.ts";
import { writeProject } from "../plan/writeProjects.ts";
import { Failure } from "../shared/failure.ts";

type Wanted = BodyOf<"POST /api/projects/:project/quality/mend">;

const LABELS: Record<Mend, string> = {
  linkLooseEnds: "Loose ends linked",
  leadsToOverlaps: "Leads said as overlaps",
  softenWishes: "Hard wishes softened",
  dropRedundant: "Redundant links removed",
};

function mended(plan: Plan, { mend, activities }: Wanted): { changes: Change[]; left: NotMended[] } {
  const bundle = toBundle(plan);
  const { schedule, baseline } = computePlan(bundle);
  const made = mendMany(plan, groundOf(bundle, schedule, baseline?.content ?? null), mend, new Set(activities));
  if (made.changes.length === 0)
    throw new Failure(
      "invalid",
      made.left.length === 0
        ? "There is nothing left to mend of those; load the page again."
        : `Nothing can be mended so: ${made.left
            .slice(0, 3)
            .map(({ name, why }) => `${name}: ${why}`)
            .join("; ")}.`,
    );
  return made;
}

/** What mending many at once would move; stores nothing. */
export function effectOfMend(
  plan: Plan,
  wanted: Wanted,
): ResponseOf<"POST /api/projects/:project/quality/mend/effect"> {
  const { changes, left } = mended(plan, wanted);
  return { effect: presentEffect(plan, applyChecked(plan, changes).plan), changes: changes.length, left };
}

/** Mends them, as one step that can be undone. */
export const storeMend = (
  database: DataSource,
  me: Me,
  projectId: string,
  wanted: Wanted,
): Promise<ResponseOf<"POST /api/projects/:project/quality/mend">> =>
  writeProject(database, me, projectId, async (writing, project) => {
    const { changes, left } = mended(await writing.plan(project), wanted);
    const { result } = await storeChanges(writing, project, { changes, label: LABELS[wanted.mend] });
    return { revision: result.revision, changes: changes.length, left };
  });
