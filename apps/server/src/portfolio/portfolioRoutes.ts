import { randomUUID } from "node:crypto";
import type { Portfolio, Summary } from "@chronometra/contract";
import { PlanProblems } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { currentSummaries, missingReporters, openPeriod, organisationName, reportersIn } from "../cycle/cycleService.ts";
import { keepPlan, storeChanges } from "../plan/changeService.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { serve, type Serving } from "../shared/http.ts";
import { lockProjectFor } from "./projectAccess.ts";
import { ProgrammeEntity, ProjectEntity } from "./projectEntity.ts";

async function waitingByProject(database: DataSource): Promise<Map<string, number>> {
  const rows = (await database.query("select project_id as id, count(*) as waiting from report where state = 'submitted' group by project_id")) as { id: string; waiting: string }[];
  return new Map(rows.map(({ id, waiting }) => [id, Number(waiting)]));
}

/** Drift of the finish and number of the period as last issued, by project. */
async function lastIssued(database: DataSource): Promise<Map<string, { number: number; drift: number | null }>> {
  const rows = (await database.query(
    `select i.project_id as id, i.number, i.summary from issued_period i
     join (select project_id, max(number) as number from issued_period group by project_id) newest on newest.project_id = i.project_id and newest.number = i.number`,
  )) as { id: string; number: number; summary: string }[];
  return new Map(rows.map(({ id, number, summary }) => [id, { number, drift: (JSON.parse(summary) as Summary).drift }]));
}

export function portfolioRoutes(serving: Serving): void {
  serve(serving, "GET /api/portfolio", async ({ database }): Promise<Portfolio> => {
    const programmes = await database.getRepository(ProgrammeEntity).find({ order: { position: "ASC" } });
    const period = await openPeriod(database);
    const reporters = period === null ? new Set<string>() : await reportersIn(database, period);
    const [names, waiting, issued] = await Promise.all([accountNames(database), waitingByProject(database), lastIssued(database)]);
    return {
      name: await organisationName(database),
      programmes: programmes.map(({ id, name }) => ({ id, name })),
      projects: (await currentSummaries(database)).map(({ project, summary }) => ({
        id: project.id,
        code: project.code,
        name: project.head.name,
        programme: project.programmeId,
        manager: names.get(project.managerId) ?? "",
        revision: project.revision,
        issuedDrift: issued.get(project.id)?.drift ?? null,
        issuedNumber: issued.get(project.id)?.number ?? null,
        missing: missingReporters(project.id, summary, period, reporters),
        waiting: waiting.get(project.id) ?? 0,
        summary,
      })),
    };
  });

  serve(serving, "POST /api/programmes", ({ database, body }) =>
    inTransaction(database, async (manager) => {
      const programmes = manager.getRepository(ProgrammeEntity);
      if (await programmes.existsBy({ name: body.name })) throw new Failure("conflict", `There is a programme called "${body.name}" already.`);
      const programme = { id: randomUUID(), name: body.name, position: await programmes.count() };
      await programmes.insert(programme);
      return { id: programme.id, name: programme.name };
    }),
  );

  serve(serving, "POST /api/portfolio/data-date", async ({ database, me, body }) => {
    const refused: { project: string; why: string }[] = [];
    let moved = 0;
    for (const { id, code } of await database.getRepository(ProjectEntity).find({ order: { code: "ASC" } })) {
      try {
        const stored = await inTransaction(database, async (manager) => {
          const project = await lockProjectFor(manager, id, me);
          if (project.head.dataDate === body.date) return null;
          return { project, ...(await storeChanges(manager, project, me, { changes: [{ type: "setDataDate", date: body.date }], label: `Data date moved to ${body.date}` })) };
        });
        if (stored === null) continue;
        keepPlan(stored.project, stored.plan);
        moved++;
      } catch (error) {
        if (!(error instanceof PlanProblems)) throw error;
        refused.push({ project: code, why: error.message });
      }
    }
    return { moved, refused };
  });
}
