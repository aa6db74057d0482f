import type { Desk, Me } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { loadPlan } from "../plan/stored/planStore.ts";
import { findProject } from "../project/projectAccess.ts";
import { dayOf } from "../shared/clock.ts";
import { Failure } from "../shared/failure.ts";
import { ClockEntity } from "./kept/deskEntities.ts";
import { alone, assertReportable, insertReport } from "./report/sendReport.ts";

/** The clock that runs for a person; `null` where none does. */
export async function clockOf(database: DataSource, person: string): Promise<Desk["clock"]> {
  const clock = await database.getRepository(ClockEntity).findOneBy({ personId: person });
  if (clock === null) return null;
  const plan = await loadPlan(database.manager, await findProject(database, clock.projectId));
  return {
    project: clock.projectId,
    activity: clock.activityId,
    name: plan.activities.get(clock.activityId)?.name ?? clock.activityId,
    startedAt: clock.startedAt.toISOString(),
  };
}

/** Starts a person's clock on an activity of their own; one clock runs at a time. */
export const startClock = (
  database: DataSource,
  me: Me,
  { project: projectId, activity }: { project: string; activity: string },
  at = new Date(),
): Promise<void> =>
  alone(database, me, async (manager, person) => {
    if (await manager.getRepository(ClockEntity).existsBy({ personId: person }))
      throw new Failure("conflict", "Your clock runs on another activity already; stop it first.");
    const project = await findProject(manager, projectId);
    assertReportable(await loadPlan(manager, project), me, person, {
      project: projectId,
      activity,
      date: dayOf(me, at),
    });
    await manager
      .getRepository(ClockEntity)
      .insert({ personId: person, projectId, activityId: activity, startedAt: at });
  });

/**
 * Stops a person's clock; what it measured, or what they say it should have, is sent for the day on which it was
 * started.
 */
export const stopClock = (database: DataSource, me: Me, minutes: number, note: string): Promise<void> =>
  alone(database, me, async (manager, person) => {
    const clock = await manager.getRepository(ClockEntity).findOneBy({ personId: person });
    if (clock === null) throw new Failure("conflict", "No clock of yours runs any more; it was stopped elsewhere.");
    await manager.getRepository(ClockEntity).delete({ personId: person });
    if (minutes > 0)
      await insertReport(manager, me, person, {
        project: clock.projectId,
        activity: clock.activityId,
        date: dayOf(me, clock.startedAt),
        minutes,
        ...(note.trim() === "" ? {} : { note: note.trim() }),
      });
  });
