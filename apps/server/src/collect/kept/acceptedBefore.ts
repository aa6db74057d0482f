import { In, type EntityManager } from "typeorm";
import { ReportEntity } from "./reportEntity.ts";

/** Reports that were accepted before on the activities that others speak of. */
export const acceptedBefore = (
  manager: EntityManager,
  projectId: string,
  reports: readonly ReportEntity[],
): Promise<ReportEntity[]> =>
  manager.getRepository(ReportEntity).find({
    where: {
      projectId,
      state: "posted",
      activityId: In([...new Set(reports.map(({ activityId }) => activityId))].filter((id) => id !== "")),
    },
  });
