import { toBundle, type PlanBundle } from "@chronometra/core";
import { In, type DataSource } from "typeorm";
import { loadPlan } from "../../plan/stored/planStore.ts";
import type { ProjectEntity } from "../../project/projectEntity.ts";
import { ReportEntity } from "./reportEntity.ts";

/** The plan with the time that waits or was returned, which is kept beside it. */
export async function bundleOf(database: DataSource, project: ProjectEntity): Promise<PlanBundle> {
  const bundle = toBundle(await loadPlan(database.manager, project));
  const waiting = await database
    .getRepository(ReportEntity)
    .find({ where: { projectId: project.id, state: In(["submitted", "returned"]) }, order: { date: "ASC" } });
  const known = new Set(bundle.activities.map(({ id }) => id));
  const entries = waiting.flatMap(({ activityId, personId, date, minutes, state, note }) =>
    minutes === null || !known.has(activityId)
      ? []
      : [
          {
            activity: activityId,
            person: personId,
            date,
            minutes,
            state: state as "submitted" | "returned",
            ...(note === "" ? {} : { note }),
          },
        ],
  );
  return { ...bundle, timeEntries: [...(bundle.timeEntries ?? []), ...entries] };
}
