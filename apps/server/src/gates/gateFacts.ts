import { lineSummaryOf, standingOf, type Summary } from "@chronometra/contract";
import { failedChecks, fitnessOf, type GateFacts } from "@chronometra/core";
import type { EntityManager } from "typeorm";
import { readCharter } from "../charter/charter.ts";
import { openPeriod } from "../cycle/cycleService.ts";
import { qualityLimitsOf } from "../cycle/limits/qualityLimits.ts";
import { openIssues } from "../matters/ofProject.ts";
import { matterSettings } from "../matters/matterSettings.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { orNotFound } from "../shared/failure.ts";

/** The period last issued for a project whose issue was not withdrawn by opening it again. */
async function issuedPeriodOf(manager: EntityManager, projectId: string): Promise<number | null> {
  const [row] = (await manager.query(
    `select max(w.number) as number from issued_period w where w.project_id = ? and not exists (
       select 1 from period_lock l where l.project_id = w.project_id and l.number = w.number and l.reopened_at >= w.issued_at)`,
    [projectId],
  )) as { number: number | null }[];
  return row?.number ?? null;
}

/** What is known of a project that its gates are held against. */
export interface ProjectFacts {
  /** All but what differs from stage to stage. */
  readonly facts: Omit<GateFacts, "deliverables" | "confirmed">;
  readonly summary: Summary;
  /** The project's deliverables, by stage. */
  readonly deliverablesOf: (stage: string) => GateFacts["deliverables"];
}

/** Reads what is known of a project. */
export async function factsOf(manager: EntityManager, project: ProjectEntity): Promise<ProjectFacts> {
  const plan = await loadPlan(manager, project);
  const [row] = (await manager.query("select summary from figures where project_id = ? and revision = ?", [
    project.id,
    project.revision,
  ])) as { summary: string }[];
  const summary = JSON.parse(orNotFound(row, "figures of this project").summary) as Summary;
  const failed = summary.quality === undefined ? [] : failedChecks(summary.quality, await qualityLimitsOf(manager));
  const { bac, eac } = standingOf(lineSummaryOf(summary), null);
  const { deliverables } = await readCharter(manager, project.id);
  return {
    facts: {
      baseline: summary.baseline,
      fitness: fitnessOf(failed, summary.unscheduled),
      broken: summary.deadlines.flatMap(({ name, state }) =>
        state === "breached" || state === "willBreach" ? [name] : [],
      ),
      deadlines: summary.deadlines.length,
      budgetMinor: bac,
      estimateMinor: eac,
      driftDays: summary.drift,
      blocked: [...plan.blocks.keys()].map((id) => plan.activities.get(id)?.name ?? id),
      openPeriod: (await openPeriod(manager))?.number ?? null,
      issuedPeriod: await issuedPeriodOf(manager, project.id),
      severities: (await matterSettings(manager)).severities,
      issues: await openIssues(manager, project.id),
    },
    summary,
    deliverablesOf: (stage) =>
      Object.values(deliverables).flatMap(({ name, accepted, stage: of }) =>
        of === stage ? [{ name, accepted: accepted !== null }] : [],
      ),
  };
}
