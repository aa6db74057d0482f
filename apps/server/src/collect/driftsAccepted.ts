import type { Accepted, Me } from "@chronometra/contract";
import { PlanProblems } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { overPlans } from "../plan/held/overPlan.ts";
import { lockedTo } from "../project/locks.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { acceptedBefore } from "./kept/acceptedBefore.ts";
import type { COLLECT_WORKS } from "./works/collectWorks.ts";
import { ReportEntity } from "./kept/reportEntity.ts";
import { projectsSeen } from "../project/reach.ts";

const overPlan = overPlans<typeof COLLECT_WORKS>();

/**
 * How far the finish of each project that someone sees with reports that wait would have drifted with all of them
 * accepted.
 */
export async function driftsAccepted(database: DataSource, me: Me): Promise<Accepted> {
  const waiting = await database
    .getRepository(ReportEntity)
    .find({ where: { state: "submitted" }, order: { date: "ASC", sentAt: "ASC" } });
  const seen = await projectsSeen(database, me);
  const found: Accepted = [];
  for (const id of new Set(waiting.map(({ projectId }) => projectId))) {
    if (seen?.has(id) === false) continue;
    const project = await database.getRepository(ProjectEntity).findOneByOrFail({ id });
    const reports = waiting.filter(({ projectId }) => projectId === id);
    const plan = await loadPlan(database.manager, project);
    try {
      const [closedTo, earlier] = [
        await lockedTo(database.manager, id),
        await acceptedBefore(database.manager, id, reports),
      ];
      const told = await overPlan(
        "drift",
        { id, plan },
        { reports: reports.map((report) => ({ ...report })), accepting: { closedTo, earlier } },
      );
      found.push({ project: id, reports: reports.length, ...told, fault: null });
    } catch (error) {
      if (!(error instanceof PlanProblems)) throw error;
      found.push({ project: id, reports: reports.length, drift: null, asked: 0, fault: error.message });
    }
  }
  return found;
}
